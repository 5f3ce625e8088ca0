import {
  barAt,
  barNumbered,
  blocksOf,
  endOfBlock,
  hasOwnEdits,
  layoutOf,
  lengthOf,
  linkedWith,
  listOf,
  type Block,
  type Part,
  type Session,
  type Timeline,
} from '@ordle/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { SeenPart } from '@/editor';
import { engine } from '@/engine/engineClient';
import { createLatest } from '@/engine/latest';
import type { PartRow } from '@/engine/partRows';
import { sentenceOf } from '@ordle/core';
import { endsOf, type EndsOfParts } from './partsActions';

/** The parts of a session along the bars. */
export interface PartsState {
  rows: ReadonlyMap<string, PartRow>;
  seen: SeenPart[];
  /** The blocks of each part, by its id; none of a part without notes. */
  blocks: ReadonlyMap<string, Block[]>;
  ends: EndsOfParts;
  lines: Float64Array;
  isRead: boolean;
  error: string | null;
}

/** Bars after the last that stay in sight, to move blocks into. */
const SPARE_BARS = 4;

export function useParts(session: Session, timeline: Timeline): PartsState {
  const [answer, setAnswer] = useState<PartRow[] | null>(null);
  const [error, setError] = useState<string | null>(null);
  const asking = useRef(
    createLatest(
      (asked: { session: Session }) => engine.partRows(asked),
      (rows) => {
        setAnswer(rows);
        setError(null);
      },
      (reason) => setError(sentenceOf(reason)),
    ),
  );
  useEffect(() => asking.current.ask({ session }), [session]);
  const rows = useMemo(() => new Map((answer ?? []).map((row) => [row.partId, row])), [answer]);
  const ends = useMemo(() => endsOf(answer ?? []), [answer]);
  const blocks = useMemo(
    () =>
      new Map(
        listOf(session.parts).map((part) => {
          const end = ends.get(part.id) ?? 0;
          const row = rows.get(part.id);
          const holds = row && (row.notes.start.length > 0 || layoutOf(part));
          return [part.id, holds ? blocksOf(part, end) : []];
        }),
      ),
    [session.parts, ends, rows],
  );
  const seen = useMemo(
    () =>
      listOf(session.parts).map((part) =>
        seenPart(part, session, rows.get(part.id), blocks.get(part.id) ?? [], timeline),
      ),
    [session, rows, blocks, timeline],
  );
  const lines = useMemo(() => {
    let end = 1;
    for (const part of seen) for (const block of part.blocks) end = Math.max(end, block.end);
    const count = barAt(timeline.meter, end - 1).number + SPARE_BARS;
    return Float64Array.from({ length: count + 1 }, (_, bar) => barNumbered(timeline.meter, bar + 1).start);
  }, [seen, timeline]);
  return { rows, seen, blocks, ends, lines, isRead: answer !== null, error };
}

const NONE = { start: new Float64Array(0), end: new Float64Array(0), pitch: new Uint8Array(0) };

function seenPart(
  part: Part,
  session: Session,
  row: PartRow | undefined,
  blocks: readonly Block[],
  { ticksPerQuarter }: Timeline,
): SeenPart {
  const isSoloed = listOf(session.parts).some(({ soloed }) => soloed);
  const isOwn = hasOwnEdits(part);
  return {
    id: part.id,
    ink: part.ink,
    notes: row?.notes ?? NONE,
    isHeard: isSoloed ? part.soloed : !part.muted && !part.setAside,
    isSetAside: part.setAside,
    blocks: blocks.map((block) => {
      const linked = linkedWith(blocks, block.id);
      const isCopy = linked.some((id) => blocks.findIndex((each) => each.id === id) < blocks.indexOf(block));
      const words = [
        isCopy ? (isOwn ? 'linked, own edits' : 'linked') : '',
        block.times > 1 ? `× ${block.times}` : '',
        block.stretch === 1 ? '' : `${Math.round(block.stretch * 1000) / 10} %`,
      ];
      return {
        id: block.id,
        start: block.at * ticksPerQuarter,
        once: (block.at + lengthOf(block)) * ticksPerQuarter,
        end: endOfBlock(block) * ticksPerQuarter,
        isLinked: isCopy,
        words: words.filter(Boolean).join(', '),
      };
    }),
  };
}
