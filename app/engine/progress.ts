/** What the worker says of work under way, between its answers: how much of it is done, 0 to 1. */
interface ProgressMessage {
  ordleProgress: number;
}

const isProgress = (data: unknown): data is ProgressMessage =>
  typeof data === 'object' && data !== null && 'ordleProgress' in data;

/** Said at most so often, in ms. */
const OFTEN = 100;

/** Tells the page from within the worker how far the work has come. */
export function createTeller(post: (message: ProgressMessage) => void): (share: number) => void {
  let last = 0;
  return (share) => {
    const now = Date.now();
    if (now - last < OFTEN) return;
    last = now;
    post({ ordleProgress: share });
  };
}

const listeners = new Set<(share: number) => void>();

/** Listens to how far the work under way has come, until the returned function is called. */
export function onProgress(listener: (share: number) => void): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** Takes in what a worker sent; its answers are none of this. */
export function takeProgress({ data }: MessageEvent): void {
  if (isProgress(data)) for (const listener of listeners) listener(data.ordleProgress);
}
