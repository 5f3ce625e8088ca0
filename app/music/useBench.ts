import { activePart, listOf, timelineOf, type Part, type Session, type Timeline } from '@ordle/core';
import { useMemo } from 'react';
import { selectDocument, selectMayWrite } from '@/state/sessionSlice';
import { useAppSelector } from '@/state/store';
import type { View } from '@/state/viewSlice';
import { stopAt, type Stop } from '@/music/stops';

/** What is worked on: the session, its time, the active part and the current stop. */
export interface BenchState {
  session: Session;
  view: View;
  timeline: Timeline;
  part: Part | null;
  /** The other parts selected along with the active one. */
  together: Part[];
  stop: Stop | null;
  mayWrite: boolean;
}

/**
 * What is worked on, as every panel reads it for itself; null while no session is open. The same object for as long
 * as nothing of it changes: scrolling and zooming, which are kept elsewhere, render no panel.
 */
export function useBench(): BenchState | null {
  const view = useAppSelector((state) => state.view);
  const session = useAppSelector(selectDocument);
  const mayWrite = useAppSelector(selectMayWrite);
  return useMemo(() => {
    if (!session) return null;
    const { partId } = view;
    const part = activePart(session, partId) ?? null;
    const together = listOf(session.parts).filter(({ id }) => id !== part?.id && view.together.includes(id));
    const stop = part ? stopAt(part, view.stops[part.id]) : null;
    return { session, timeline: timelineOf(session), part, together, stop, view, mayWrite };
  }, [view, session, mayWrite]);
}

/** The same for what is only ever shown while a session is open. */
export function useOpenBench(): BenchState {
  const bench = useBench();
  if (!bench) throw new Error('No session is open.');
  return bench;
}
