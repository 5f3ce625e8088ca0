import type { LatenessStrip } from '@ordle/core';
import { useEffect, useState, type RefObject } from 'react';
import { engine } from '@/engine/engineClient';
import { storage } from '@/saving/workspace';

/** Pictures that are made, by session and the moment it was last changed. */
const known = new Map<string, LatenessStrip | null>();
/** One is made after the other, so that a session that is opened meanwhile waits for one at most. */
let making: Promise<unknown> = Promise.resolve();

function make(id: string, key: string, isWanted: () => boolean): Promise<void> {
  const made = making.then(async () => {
    if (known.has(key) || !isWanted()) return;
    // A session that cannot be read says so when it is opened; here it has no picture.
    const picture = await storage
      .glance(id)
      .then((document) => engine.timingPicture(document))
      .catch(() => null);
    known.set(key, picture);
  });
  making = made;
  return made;
}

/**
 * How late and early a session is along its length; worked out once its row is in sight, null until then and where
 * there is none.
 */
export function useTimingPicture(
  id: string,
  changedAt: number,
  row: RefObject<HTMLElement | null>,
): LatenessStrip | null {
  const key = `${id} ${changedAt}`;
  const [shown, setShown] = useState<string | null>(null);
  useEffect(() => {
    if (!row.current) return;
    let isInSight = false;
    const observer = new IntersectionObserver((entries) => {
      isInSight = entries.some(({ isIntersecting }) => isIntersecting);
      if (isInSight) void make(id, key, () => isInSight).then(() => isInSight && setShown(key));
    });
    observer.observe(row.current);
    return () => {
      isInSight = false;
      observer.disconnect();
    };
  }, [id, key, row]);
  return (shown === key || known.has(key) ? known.get(key) : null) ?? null;
}
