import { useEffect, useRef } from 'react';

/** Less room than this, in pixels, holds no sentence. */
const LEAST = 140;
const NAMES = ['--messages-left', '--messages-width', '--messages-bottom'] as const;

/**
 * What the transport leaves free is where messages stand: there they cover neither a list nor the music. Where that is
 * too little they stand over the foot of what is at the left.
 */
export function MessagesRoom() {
  const room = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const element = room.current;
    if (!element) return;
    const { style } = document.documentElement;
    const forget = () => NAMES.forEach((name) => style.removeProperty(name));
    const measure = () => {
      const { left, width, bottom } = element.getBoundingClientRect();
      if (width < LEAST) return forget();
      style.setProperty('--messages-left', `${Math.round(left)}px`);
      style.setProperty('--messages-width', `${Math.round(width)}px`);
      style.setProperty('--messages-bottom', `${Math.round(window.innerHeight - bottom)}px`);
    };
    const watch = new ResizeObserver(measure);
    watch.observe(element);
    window.addEventListener('resize', measure);
    return () => {
      watch.disconnect();
      window.removeEventListener('resize', measure);
      forget();
    };
  }, []);
  return <span ref={room} aria-hidden="true" className="h-9 min-w-0 grow self-center short:h-7" />;
}
