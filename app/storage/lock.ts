/**
 * One writer a session across tabs, by the Web Locks API. The first tab to ask gets to write; others are told, look on, and
 * become the writer when it lets go (closing the tab lets go of itself).
 */
export interface SessionLock {
  /** Gives the lock back, or stops waiting for it. */
  release(): void;
}

export function lockSession(id: string, onState: (mayWrite: boolean) => void): SessionLock {
  if (typeof navigator === 'undefined' || !navigator.locks) {
    onState(true);
    return { release: () => undefined };
  }
  const name = `ordle-session-${id}`;
  const abort = new AbortController();
  let letGo: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (letGo = resolve));
  let released = false;
  const hold = () => {
    if (released) return undefined;
    onState(true);
    return held;
  };
  void navigator.locks.request(name, { ifAvailable: true }, (lock) => {
    if (lock) return hold();
    if (!released) onState(false);
    void navigator.locks.request(name, { signal: abort.signal }, hold).catch(() => undefined);
    return undefined;
  });
  return {
    release() {
      released = true;
      abort.abort();
      letGo();
    },
  };
}
