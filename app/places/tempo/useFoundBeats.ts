import {
  playersOf,
  pulseKeeper,
  sentenceOf,
  settledBeats,
  type FoundBeats,
  type Part,
  type Session,
  type PlayedBeats,
} from '@ordle/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Cancelled, cancelEngine, engine } from '@/engine/engineClient';
import { createLatest } from '@/engine/latest';
import { useSame } from '@/ui/useSame';

export interface TempoState {
  view: PlayedBeats | null;
  /** The beats as they are settled, and how far the farthest is from where it was found, in ms. */
  settled: FoundBeats | null;
  largestErrorMs: number;
  error: string | null;
  isFinding: boolean;
  /** Gives the finding up, or begins it again. */
  cancel(): void;
  again(): void;
}

/** Keeps the beats of a part in step with what is said of them. */
export function useFoundBeats(session: Session, part: Part): TempoState {
  const [view, setView] = useState<PlayedBeats | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [isFinding, setFinding] = useState(false);
  const [turn, setTurn] = useState(0);
  const asking = useRef(
    createLatest(
      (asked: { session: Session; partId: string }) => {
        setFinding(true);
        return engine.foundBeats(asked);
      },
      (next) => {
        setView(next);
        setError(null);
        setFinding(false);
      },
      (reason) => {
        setError(
          reason instanceof Cancelled ? 'The beats were not found: it was cancelled.' : sentenceOf(reason),
        );
        setFinding(false);
      },
    ),
  );
  const players = playersOf(part, session);
  const { pulse } = pulseKeeper(part, session);
  // What was played, of all that was recorded together, told by what decides it.
  const asPlayed = useSame(
    players.flatMap(({ layers, doubles, seams, lockedTo, takes }) => [
      layers,
      doubles,
      seams,
      lockedTo,
      takes,
    ]),
  );
  useEffect(() => {
    asking.current.ask({ session, partId: part.id });
    // What was played and what is said of its beats; steps and other parts change nothing here.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [
    part.id,
    pulse?.beats,
    pulse?.period,
    pulse?.division,
    pulse?.beatsPerBar,
    pulse?.laid,
    pulse?.only,
    pulse?.places,
    pulse?.without,
    asPlayed,
    session.tempos,
    turn,
  ]);
  const own = view?.partId === part.id ? view : null;
  const settling = pulse?.settling ?? 'beats';
  const roundTo = pulse?.roundTo;
  const { settled, largestErrorMs } = useMemo(
    () =>
      own && own.found.beats.length > 1
        ? settledBeats(own.found, settling, roundTo)
        : { settled: null, largestErrorMs: 0 },
    [own, settling, roundTo],
  );
  return {
    view: own,
    settled,
    largestErrorMs,
    error,
    isFinding,
    cancel: cancelEngine,
    again: () => setTurn(turn + 1),
  };
}
