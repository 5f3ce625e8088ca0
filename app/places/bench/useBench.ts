import { activePart, listOf, createTimeline, type Part, type Session, type Timeline } from '@ordle/core';
import { useMemo } from 'react';
import { selectDocument, selectMayWrite } from '@/state/sessionSlice';
import { useAppSelector } from '@/state/store';
import type { View } from '@/state/viewSlice';
import { stopAt, type Stop } from './stops';

/** What the Bench stands on: the session, its time, the active part and the stop stood at. */
export interface BenchState {
  session: Session;
  view: View;
  timeline: Timeline;
  part: Part | null;
  /** The other parts chosen along with the active one. */
  together: Part[];
  stop: Stop | null;
  mayWrite: boolean;
}

export function useBench(): BenchState | null {
  const session = useAppSelector(selectDocument);
  const view = useAppSelector((state) => state.view);
  const mayWrite = useAppSelector(selectMayWrite);
  const division = session?.division;
  const tempos = session?.tempos;
  const meters = session?.meters;
  const timeline = useMemo(
    () => (division && tempos && meters ? createTimeline(division, tempos, meters) : null),
    [division, tempos, meters],
  );
  if (!session || !timeline) return null;
  const part = activePart(session, view.partId) ?? null;
  const together = listOf(session.parts).filter(({ id }) => id !== part?.id && view.together.includes(id));
  const stop = part ? stopAt(part, view.stops[part.id]) : null;
  return { session, timeline, part, together, stop, view, mayWrite };
}
