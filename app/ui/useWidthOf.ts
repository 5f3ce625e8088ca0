import { useLayoutEffect, useState } from 'react';

/** How wide an element is, also when the window changes; 0 until it is there. */
export function useWidthOf(element: HTMLElement | null): number {
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    if (!element) return;
    const watching = new ResizeObserver(([entry]) => setWidth(Math.floor(entry.contentRect.width)));
    watching.observe(element);
    return () => watching.disconnect();
  }, [element]);
  return width;
}
