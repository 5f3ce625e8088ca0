import type { Part, Session, TakeRow } from '@ordle/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { engine } from '@/engine/engineClient';
import { createLatest } from '@/engine/latest';
import type { StretchOf } from './takesActions';
import { withTakesChosen } from './useHeard';
import type { Proposal } from './useProposal';
import { TAKES_GRID } from './useTakes';

/** What a proposal comes to once it is accepted. */
export interface Proposed {
  session: Session;
  /** Its spread in ms, measured as what is there is; null until it is known. */
  spreadMs: number | null;
}

/** The session with a proposal accepted, and how even the part then is: what one would get, not an estimate of it. */
export function useProposed(
  session: Session,
  part: Part,
  rows: readonly TakeRow[] | null,
  proposal: Proposal | null,
  stretchOf: StretchOf,
): Proposed | null {
  const choice = proposal?.choice;
  const proposed = useMemo(
    () => (choice && rows ? withTakesChosen(session, part, rows, choice, stretchOf) : null),
    [session, part, rows, choice, stretchOf],
  );
  const [known, setKnown] = useState<number | null>(null);
  const asking = useRef(
    createLatest(
      (asked: { session: Session; partId: string }) => engine.assembledView({ ...asked, grid: TAKES_GRID }),
      ({ reading }) => setKnown(reading.spreadMs),
      () => setKnown(null),
    ),
  );
  useEffect(() => {
    if (proposed) asking.current.ask({ session: proposed, partId: part.id });
  }, [proposed, part.id]);
  return useMemo(() => proposed && { session: proposed, spreadMs: known }, [proposed, known]);
}
