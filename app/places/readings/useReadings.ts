import { nameOfFinding, sentenceOf, type Session, type Where } from '@ordle/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { engine } from '@/engine/engineClient';
import { createLatest } from '@/engine/latest';
import type { ReadingsView } from '@/engine/readingsView';
import type { PartFinding } from './readingsActions';

export interface ReadingsState {
  view: ReadingsView | null;
  /** Findings that were not dismissed. */
  open: PartFinding[];
  error: string | null;
}

/** Keeps the readings in step with the session. */
export function useReadings(session: Session, grid: string, where: Where): ReadingsState {
  const [view, setView] = useState<ReadingsView | null>(null);
  const [error, setError] = useState<string | null>(null);
  const asking = useRef(
    createLatest(
      (asked: { session: Session; grid: string; where: Where }) => engine.readings(asked),
      (next) => {
        setView(next);
        setError(null);
      },
      (reason) => setError(sentenceOf(reason)),
    ),
  );
  useEffect(() => asking.current.ask({ session, grid, where }), [session, grid, where]);
  const open = useMemo(() => {
    const dismissed = new Map(
      session.parts.order.map((id) => [id, new Set(session.parts.byId[id].dismissed)] as const),
    );
    return (view?.findings ?? []).filter(
      (finding) => dismissed.get(finding.partId)?.has(nameOfFinding(finding)) === false,
    );
  }, [view, session.parts]);
  return { view, open, error };
}
