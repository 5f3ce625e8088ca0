/**
 * Where the music is by the page's own clock, for browsers that give no sound: the play line moves all the same.
 * Seconds.
 */
export interface PageClock {
  /** Runs from a place on, to `end` or to the end given before. */
  start(second: number, end?: number): void;
  stop(): void;
  setLoop(range: { from: number; to: number } | null): void;
  second(): number;
}

/** `onEnd` is called once the end is reached outside a loop. */
export function createPageClock(onEnd: () => void, now: () => number = () => performance.now()): PageClock {
  let origin = { second: 0, at: 0 };
  let loop: { from: number; to: number } | null = null;
  let end = 0;
  let running = false;
  let timer: ReturnType<typeof setTimeout> | null = null;

  function second(): number {
    if (!running) return origin.second;
    const plain = origin.second + (now() - origin.at) / 1000;
    if (!loop || origin.second >= loop.to) return Math.min(plain, end);
    if (plain < loop.to) return plain;
    return loop.from + ((plain - loop.from) % (loop.to - loop.from));
  }

  function watch() {
    if (timer) clearTimeout(timer);
    timer = null;
    if (!running || loop) return;
    const left = (end - second()) * 1000;
    if (left <= 0) {
      running = false;
      origin = { second: end, at: now() };
      onEnd();
    } else timer = setTimeout(watch, Math.min(left, 500));
  }

  return {
    start(from, to = end) {
      origin = { second: from, at: now() };
      end = to;
      running = true;
      watch();
    },
    stop() {
      origin = { second: second(), at: now() };
      running = false;
      watch();
    },
    setLoop(range) {
      origin = { second: second(), at: now() };
      loop = range && range.to > range.from ? range : null;
      watch();
    },
    second,
  };
}
