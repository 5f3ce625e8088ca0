/** Tells this tab and all others when something stored changed. */
const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('ordle-sessions');
// In Node (the tests) an open channel would keep the process alive.
(channel as unknown as { unref?: () => void } | null)?.unref?.();
const listeners = new Set<() => void>();
channel?.addEventListener('message', () => listeners.forEach((listener) => listener()));

export function announceChange(): void {
  channel?.postMessage('changed');
  listeners.forEach((listener) => listener());
}

/** Calls back whenever the stored sessions change, in this tab or another. Returns the way to stop. */
export function onSessionsChanged(listener: () => void): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}
