import { useEffect, useRef, type RefObject } from 'react';

/** Less room than this, in pixels, holds no sentence. */
const LEAST = 140;
/** What is left free at either side where it lies over controls, in pixels. */
const GAP = 8;
const NAMES = ['--messages-left', '--messages-width', '--messages-top', '--messages-bottom'] as const;

/**
 * Where messages stand: what a bar leaves free, for there they cover neither a list nor the music. Where that is too
 * little they lie over controls of the bar for as long as they stand, from `after` on; never over what they speak of.
 */
export function MessagesRoom({ after }: { after?: RefObject<HTMLElement | null> }) {
  const room = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const element = room.current;
    if (!element) return;
    const root = document.documentElement;
    const { style } = root;
    const measure = () => {
      const free = element.getBoundingClientRect();
      let { left, right } = free;
      if (right - left < LEAST) left = (after?.current?.getBoundingClientRect().right ?? 0) + GAP;
      if (right - left < LEAST) right = window.innerWidth - GAP;
      style.setProperty('--messages-left', `${Math.round(left)}px`);
      style.setProperty('--messages-width', `${Math.round(right - left)}px`);
      // Away from the edge the bar lies at, so that a long message is not cut off by it.
      const isAbove = free.bottom < window.innerHeight / 2;
      root.toggleAttribute('data-messages-above', isAbove);
      style.setProperty('--messages-top', `${Math.round(free.top)}px`);
      style.setProperty('--messages-bottom', `${Math.round(window.innerHeight - free.bottom)}px`);
    };
    const watch = new ResizeObserver(measure);
    watch.observe(element);
    window.addEventListener('resize', measure);
    return () => {
      watch.disconnect();
      window.removeEventListener('resize', measure);
      root.removeAttribute('data-messages-above');
      NAMES.forEach((name) => style.removeProperty(name));
    };
  }, [after]);
  return <span ref={room} aria-hidden="true" className="h-9 min-w-0 grow self-center short:h-7" />;
}
