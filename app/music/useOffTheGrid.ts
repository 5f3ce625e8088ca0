import type { NoteValue, Session } from '@ordle/core';
import { useEffect, useState } from 'react';
import { engine } from '@/engine/engineClient';

/** Milliseconds a session must rest before its parts are read: what is on the Bench goes first. */
const REST_MS = 400;

/** How far each part is off the grid as it is cleaned, in ms, by its id; what it was before until it is known anew. */
export function useOffTheGrid(session: Session, grid: NoteValue): Readonly<Record<string, number>> {
  const [offMs, setOffMs] = useState<Readonly<Record<string, number>>>({});
  const key = JSON.stringify(grid);
  useEffect(() => {
    let isAwaited = true;
    const rest = setTimeout(() => {
      engine.offTheGrid({ session, grid: JSON.parse(key) as NoteValue }).then(
        (next) => isAwaited && setOffMs(next),
        // A part that cannot be worked out is told where it is shown.
        () => undefined,
      );
    }, REST_MS);
    return () => {
      isAwaited = false;
      clearTimeout(rest);
    };
  }, [session, key]);
  return offMs;
}
