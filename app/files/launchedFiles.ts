/** What the browser hands to an installed app that files are opened with; not in the library of page types. */
interface LaunchQueue {
  setConsumer(take: (launch: { files?: readonly FileSystemFileHandle[] }) => void): void;
}

let take: ((files: File[]) => void) | null = null;
let waiting: File[] = [];
let isListening = false;

/** Has files that this app was opened with brought in; those that came before are handed over at once. */
export function takeLaunchedFiles(taker: (files: File[]) => void): () => void {
  take = taker;
  const queue = (window as { launchQueue?: LaunchQueue }).launchQueue;
  if (queue && !isListening) {
    isListening = true;
    queue.setConsumer(({ files = [] }) => {
      void Promise.allSettled(files.map((handle) => handle.getFile())).then((found) => {
        // One that went away meanwhile is not there for anybody.
        const opened = found.flatMap((each) => (each.status === 'fulfilled' ? [each.value] : []));
        if (opened.length === 0) return;
        if (take) take(opened);
        else waiting.push(...opened);
      });
    });
  }
  if (waiting.length > 0) {
    taker(waiting);
    waiting = [];
  }
  return () => {
    if (take === taker) take = null;
  };
}
