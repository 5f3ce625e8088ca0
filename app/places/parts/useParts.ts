import {
  MOST_SHOWN_BARS,
  barAt,
  barNumbered,
  blocksOf,
  endOfBlock,
  hasOwnEdits,
  layoutOf,
  lengthOf,
  linkedWith,
  listOf,
  listedRows,
  type Block,
  type ListedRow,
  type Part,
  type Session,
  type Timeline,
  type PartRow,
} from '@ordle/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { NO_NOTES, type SeenPart } from '@/editor';
import { engine } from '@/engine/engineClient';
import { createLatest } from '@/engine/latest';
import { sentenceOf } from '@ordle/core';
import { endsOf, type EndsOfParts } from './partsActions';

/** The parts of a session along the bars. */
export interface PartsState {
  rows: ReadonlyMap<string, PartRow>;
  /** The rows of the list, and what the canvas shows in each. */
  listed: ListedRow[];
  seen: SeenPart[];
  /** The blocks of each part, by its id; none of a part without notes. */
  blocks: ReadonlyMap<string, Block[]>;
  ends: EndsOfParts;
  lines: Float64Array;
  /** Where the last block ends, in ticks. */
  endTick: number;
  isRead: boolean;
  error: string | null;
}

/** Bars after the last that stay in sight, to move blocks into. */
const SPARE_BARS = 4;

export function useParts(session: Session, timeline: Timeline, folded: ReadonlySet<string>): PartsState {
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
  const listed = useMemo(() => listedRows(session.parts, folded), [session.parts, folded]);
  const seen = useMemo(
    () =>
      listed.map((listedRow) =>
        listedRow.kind === 'group'
          ? seenGroup(listedRow, rows)
          : seenPart(
              listedRow.part,
              session,
              rows.get(listedRow.part.id),
              blocks.get(listedRow.part.id) ?? [],
              timeline,
            ),
      ),
    [listed, session, rows, blocks, timeline],
  );
  const endTick = useMemo(() => {
    let end = 1;
    for (const list of blocks.values())
      for (const block of list) end = Math.max(end, endOfBlock(block) * timeline.ticksPerQuarter);
    return end;
  }, [blocks, timeline]);
  const lines = useMemo(() => {
    const count = Math.min(MOST_SHOWN_BARS, barAt(timeline.meter, endTick - 1).number) + SPARE_BARS;
    return Float64Array.from({ length: count + 1 }, (_, bar) => barNumbered(timeline.meter, bar + 1).start);
  }, [endTick, timeline]);
  return { rows, listed, seen, blocks, ends, lines, endTick, isRead: answer !== null, error };
}

/** The heading of a group shows the notes of all of its parts while they are folded away. */
function seenGroup(
  { name, parts, isFolded }: ListedRow & { kind: 'group' },
  rows: ReadonlyMap<string, PartRow>,
): SeenPart {
  const shown = isFolded ? parts.flatMap(({ id }) => rows.get(id)?.notes ?? []) : [];
  return {
    id: `group ${name}`,
    isGroup: true,
    isFolded,
    ink: parts[0].ink,
    notes: shown.length === 0 ? NO_NOTES : together(shown),
    blocks: [],
    isHeard: parts.some(({ muted, setAside }) => !muted && !setAside),
    isSetAside: parts.every(({ setAside }) => setAside),
  };
}

/** Notes of several parts as one list in order of time. */
function together(lists: readonly SeenPart['notes'][]): SeenPart['notes'] {
  const all = lists.flatMap(({ start, end, pitch }) =>
    Array.from(start, (at, row) => [at, end[row], pitch[row]] as const),
  );
  all.sort((a, b) => a[0] - b[0]);
  return {
    start: Float64Array.from(all, ([start]) => start),
    end: Float64Array.from(all, ([, end]) => end),
    pitch: Uint8Array.from(all, ([, , pitch]) => pitch),
  };
}

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
    isGroup: false,
    isFolded: false,
    ink: part.ink,
    notes: row?.notes ?? NO_NOTES,
    isHeard: isSoloed ? part.soloed : !part.muted && !part.setAside,
    isSetAside: part.setAside,
    blocks: blocks.map((block) => {
      const linked = linkedWith(blocks, block.id);
      const isCopy = linked.some((id) => blocks.findIndex((each) => each.id === id) < blocks.indexOf(block));
      const words = [
        isCopy ? (isOwn ? 'linked, own edits' : 'linked') : '',
        block.muted ? 'muted' : '',
        block.times > 1 ? `× ${block.times}` : '',
        block.stretch === 1 ? '' : `${Math.round(block.stretch * 1000) / 10} %`,
      ];
      return {
        id: block.id,
        start: block.at * ticksPerQuarter,
        once: (block.at + lengthOf(block)) * ticksPerQuarter,
        end: endOfBlock(block) * ticksPerQuarter,
        isLinked: isCopy,
        isMuted: block.muted === true,
        words: words.filter(Boolean).join(', '),
      };
    }),
  };
}
