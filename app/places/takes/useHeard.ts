import { mapItems, numbersOf, withTakes, type Part, type Session, type TakeRow } from '@ordle/core';
import { useMemo, useState } from 'react';
import type { BenchState } from '@/music/useBench';
import { withChoice, type StretchOf } from './takesActions';

/** What is heard instead of the part as it is: one of its takes alone, or a proposal. */
export interface Heard {
  bench: BenchState;
  take: string | null;
  isProposal: boolean;
  onTake(id: string | null): void;
  onProposal(isHeard: boolean): void;
}

interface HeardOptions {
  bench: BenchState;
  part: Part;
  rows: readonly TakeRow[] | null;
  /** The session as it would be with the proposal accepted; null without one. */
  proposed: Session | null;
}

/**
 * Lets a take or a proposal be heard with everything else before anything is chosen: the document that is played,
 * which is not the one that is kept.
 */
export function useHeard({ bench, part, rows, proposed }: HeardOptions): Heard {
  const [take, setTake] = useState<string | null>(null);
  const [wantsProposal, setProposal] = useState(false);
  const { session } = bench;
  const isProposal = wantsProposal && proposed !== null;
  const at = rows?.findIndex((row) => row.take.id === take) ?? -1;
  const played = useMemo(
    (): Session =>
      at >= 0
        ? withTakesChosen(session, part, rows ?? [], Int32Array.of(at), () => ({ from: 0, to: Infinity }))
        : isProposal
          ? proposed
          : session,
    [rows, part, session, at, isProposal, proposed],
  );
  const heard = useMemo(
    () => (played === session ? bench : { ...bench, session: played }),
    [bench, played, session],
  );
  return {
    bench: heard,
    take: at >= 0 ? take : null,
    isProposal,
    onTake(id) {
      setTake(id);
      setProposal(false);
    },
    onProposal(next) {
      setTake(null);
      setProposal(next);
    },
  };
}

/** The session with another take chosen in each bar of a part, by its place in the rows. */
export function withTakesChosen(
  session: Session,
  part: Part,
  rows: readonly TakeRow[],
  choice: Int32Array,
  stretchOf: StretchOf,
): Session {
  const named = withTakes(
    part,
    rows.map(({ take }) => take),
  );
  const replaced = withChoice(named, session, choice, stretchOf, numbersOf(session));
  return { ...session, parts: mapItems(session.parts, (own) => (own.id === part.id ? replaced : own)) };
}
