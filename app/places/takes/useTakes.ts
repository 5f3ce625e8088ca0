import {
  MOST_SHOWN_BARS,
  barAt,
  barNumbered,
  chosenIn,
  sentenceOf,
  takesOfPart,
  ticksToSeconds,
  type Part,
  type Session,
  type Timeline,
  type AssembledView,
  type TakeRow,
} from '@ordle/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { engine } from '@/engine/engineClient';
import { createLatest } from '@/engine/latest';
import type { StretchOf } from './takesActions';

/** The takes of a part as they are read, and what its layers come to. */
export interface TakesState {
  rows: TakeRow[] | null;
  assembled: AssembledView | null;
  /** Starts of the bars in ticks, and the end of the last. */
  lines: Float64Array;
  /** The take of each layer in each bar, by its place in the rows; -1 for none. */
  chosen: Int32Array[];
  stretchOf: StretchOf;
  error: string | null;
}

/** What takes are read against. */
export const TAKES_GRID = '1/16' as const;

/** Keeps what is known of a part's takes in step with the document. */
export function useTakes(session: Session, part: Part, timeline: Timeline): TakesState {
  const [rows, setRows] = useState<{ key: string; rows: TakeRow[] } | null>(null);
  const [assembled, setAssembled] = useState<{ partId: string; view: AssembledView } | null>(null);
  const [error, setError] = useState<string | null>(null);
  const takes = useMemo(() => takesOfPart(part, session), [part, session]);
  // The rows are asked for again only where something of them is another, not at each choice.
  const key = JSON.stringify([part.id, part.lockedTo, takes, session.tempos, session.meters]);
  const latest = useRef({ session, part });
  useEffect(() => {
    latest.current = { session, part };
  });
  useEffect(() => {
    let isAwaited = true;
    const { session: now, part: own } = latest.current;
    engine.takeRows({ session: now, partId: own.id, grid: TAKES_GRID }).then(
      (next) => {
        if (!isAwaited) return;
        setRows({ key, rows: next });
        setError(null);
      },
      (reason: unknown) => isAwaited && setError(sentenceOf(reason)),
    );
    return () => {
      isAwaited = false;
    };
  }, [key]);

  const asking = useRef(
    createLatest(
      (asked: { session: Session; partId: string }) => engine.assembledView({ ...asked, grid: TAKES_GRID }),
      (view, { partId }) => {
        setAssembled({ partId, view });
        setError(null);
      },
      (reason) => setError(sentenceOf(reason)),
    ),
  );
  useEffect(() => {
    asking.current.ask({ session, partId: part.id });
    // Only what the part is made of: its steps and other parts change nothing here, but those it is made of.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [part.id, part.layers, part.doubles, part.seams, session.tempos, session.meters, session.parts]);

  const shown = rows?.key === key || rows?.rows[0]?.take.id === takes[0]?.id ? rows.rows : null;
  const view = assembled?.partId === part.id ? assembled.view : null;
  const lines = useMemo(() => linesOf(shown, view, timeline), [shown, view, timeline]);
  const stretchOf = useMemo(() => stretchesOf(lines, part, timeline), [lines, part, timeline]);
  const chosen = useMemo(() => {
    const stretches = Array.from({ length: lines.length - 1 }, (_, bar) => stretchOf(bar, bar));
    return chosenIn(part, takes, stretches);
  }, [part, takes, lines, stretchOf]);
  return { rows: shown, assembled: view, lines, chosen, stretchOf, error };
}

/** The bars that hold all there is, at least one. */
function linesOf(rows: TakeRow[] | null, view: AssembledView | null, { meter }: Timeline): Float64Array {
  let end = 1;
  for (const { start } of [...(rows ?? []).map(({ notes }) => notes), ...(view ? [view.notes] : [])])
    if (start.length > 0) end = Math.max(end, start[start.length - 1] + 1);
  const count = Math.min(MOST_SHOWN_BARS, barAt(meter, end - 1).number);
  return Float64Array.from({ length: count + 1 }, (_, bar) => barNumbered(meter, bar + 1).start);
}

function stretchesOf(lines: Float64Array, part: Part, { tempo }: Timeline): StretchOf {
  const place = (tick: number) => (part.lockedTo === 'beats' ? tick : ticksToSeconds(tempo, tick));
  return (from, to) => ({
    from: from === 0 ? 0 : place(lines[from]),
    to: to >= lines.length - 2 ? Infinity : place(lines[to + 1]),
  });
}
