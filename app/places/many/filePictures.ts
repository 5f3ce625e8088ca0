import type { LatenessStrip } from '@ordle/core';
import { useEffect, useState } from 'react';
import type { CleaningThread } from '@/engine/cleaning/cleaners';

/** How late and early a file is along its length, as it came and as it was made. */
export interface FilePictures {
  before: LatenessStrip | null;
  after: LatenessStrip | null;
}

/** So many pictures are remembered: more than stand on any screen. */
const MOST = 400;

/** Pictures that are made one after the other, each for a row that is still in sight. */
export function createPictures(thread: CleaningThread) {
  const known = new Map<string, FilePictures>();
  let making: Promise<unknown> = Promise.resolve();
  return {
    known: (key: string): FilePictures | null => known.get(key) ?? null,
    make(index: number, key: string, isWanted: () => boolean): Promise<void> {
      const made = making.then(async () => {
        if (known.has(key) || !isWanted()) return;
        // A file that cannot be read any more has no picture.
        known.set(key, await thread.pictures(index).catch(() => ({ before: null, after: null })));
        const [oldest] = known.keys();
        if (known.size > MOST) known.delete(oldest);
      });
      making = made;
      return made;
    },
  };
}

export type Pictures = ReturnType<typeof createPictures>;

/** The pictures of a row that is in sight; null until they are made, and while it has none. `key` null: none yet. */
export function useFilePictures(pictures: Pictures, index: number, key: string | null): FilePictures | null {
  const [shown, setShown] = useState<string | null>(null);
  useEffect(() => {
    if (key === null) return;
    let isWanted = true;
    void pictures.make(index, key, () => isWanted).then(() => isWanted && setShown(key));
    return () => void (isWanted = false);
  }, [pictures, index, key]);
  return key !== null && (shown === key || pictures.known(key)) ? pictures.known(key) : null;
}
