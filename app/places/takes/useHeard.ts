import { mapItems, numbersOf, withTakes, type Part, type Session, type TakeRow } from '@ordle/core';
import { useMemo, useState } from 'react';
import type { BenchState } from '@/music/useBench';
import { withChoice, type StretchOf } from './takesActions';
import type { Proposal } from './useProposal';

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
  proposal: Proposal | null;
  stretchOf: StretchOf;
}

/**
 * Lets a take or a proposal be heard with everything else before anything is chosen: the document that is played,
 * which is not the one that is kept.
 */
export function useHeard({ bench, part, rows, proposal, stretchOf }: HeardOptions): Heard {
  const [take, setTake] = useState<string | null>(null);
  const [wantsProposal, setProposal] = useState(false);
  const { session } = bench;
  const isProposal = wantsProposal && proposal !== null;
  const at = rows?.findIndex((row) => row.take.id === take) ?? -1;
  const choice = at >= 0 ? null : isProposal ? proposal.choice : null;
  const played = useMemo((): Session => {
    const takes = (rows ?? []).map((row) => row.take);
    const named = withTakes(part, takes);
    const replaced =
      at >= 0
        ? withChoice(named, session, Int32Array.of(at), () => ({ from: 0, to: Infinity }), numbersOf(session))
        : choice
          ? withChoice(named, session, choice, stretchOf, numbersOf(session))
          : null;
    if (!replaced) return session;
    return {
      ...session,
      parts: mapItems(session.parts, (own) => (own.id === part.id ? replaced : own)),
    };
  }, [rows, part, session, at, choice, stretchOf]);
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
