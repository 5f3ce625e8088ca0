import { nameOfFinding, type Session, type Where, type ReadingsOfParts } from '@ordle/core';
import { useMemo } from 'react';
import { engine } from '@/engine/engineClient';
import { useAnswer } from '@/engine/useAnswer';
import type { PartFinding } from '@/edits/mendFindings';

export interface ReadingsState {
  readings: ReadingsOfParts | null;
  /** Findings that were not dismissed. */
  open: PartFinding[];
  error: string | null;
}

const readingsAsked = (asked: { session: Session; grid: string; where: Where }) => engine.readings(asked);

/** Keeps the readings in step with the session. */
export function useReadings(session: Session, grid: string, where: Where): ReadingsState {
  const { answer: readings, error } = useAnswer(readingsAsked, { session, grid, where });
  const open = useMemo(() => {
    const dismissed = new Map(
      session.parts.order.map((id) => [id, new Set(session.parts.byId[id].dismissed)] as const),
    );
    return (readings?.findings ?? []).filter(
      (finding) => dismissed.get(finding.partId)?.has(nameOfFinding(finding)) === false,
    );
  }, [readings, session.parts]);
  return { readings, open, error };
}
