import { createSmallStore } from './smallStore';

/** Work of this page that a reload would break off. Named as in "This waits until ... ends". */
export type Work =
  'the recording' | 'the playing' | 'the export' | 'the back-up' | 'the clean-up' | 'the import';

const underWay = createSmallStore<readonly Work[]>([]);

/** Says that something is under way, until the returned function is called; calling it again does nothing. */
export function beginWork(work: Work): () => void {
  underWay.set([...underWay.get(), work]);
  let isOver = false;
  return () => {
    if (isOver) return;
    isOver = true;
    const now = [...underWay.get()];
    now.splice(now.indexOf(work), 1);
    underWay.set(now);
  };
}

/** Calls once nothing that `counts` is under way: at once where nothing is. */
export function whenOver(act: () => void, counts: (work: Work) => boolean = () => true): void {
  const isOver = () => !underWay.get().some(counts);
  if (isOver()) return act();
  const stop = underWay.subscribe(() => {
    if (!isOver()) return;
    stop();
    act();
  });
}

export const useWorkUnderWay = underWay.useValue;
