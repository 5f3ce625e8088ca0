import { createEventBuilder } from '../midi';
import { joinEvents, withColumns, type NoteTable } from '../model';
import type { Seams } from '../session';
import { belongsFrom, musicalPlaces, type Timeline } from '../time';
import {
  liftPedals,
  messagesToReach,
  reached,
  setAt,
  stateBefore,
  type ChannelState,
  type Message,
} from '../curves';
import { ORDERS_PER_PIECE, pickStrand, ranked, type Strand } from './strand';

/**
 * A piece that waits to be laid: its source where it lies in its own time, the stretch of it that is wanted (`to` may
 * be infinite), and where it goes: `place` of a source tick, `back` of a session tick.
 */
export interface WaitingPiece {
  source: Strand;
  from: number;
  to: number;
  place(tick: number): number;
  back(tick: number): number;
  /** Whether it lies where it lay in its source. */
  stays: boolean;
  /** What becomes of notes held over the seam at its start; as in the part where it is not said. */
  held?: Seams['held'];
  /** Its place among the pieces of the part: its events rank after those of the pieces before it. */
  index: number;
}

/** Everything to the tick as it stands, nothing handed over: how pieces met before seams were looked after. */
export function layToTheTick({ source, from, to, place, index }: WaitingPiece): Strand {
  const rows = (column: Float64Array) =>
    stretch(
      column,
      (tick) => tick >= from,
      (tick) => tick >= to,
    );
  const cut = pickStrand(source, rows(source.notes.start), rows(source.events.tick));
  return placed(ranked(cut, index), place, to);
}

/**
 * The pieces of one layer, one after the other. A note belongs to the piece its musical place lies in; where a piece
 * begins before the one before it has ended, that one ends there. At every seam the state of the controllers of the
 * new piece is written where it differs, and after a piece that nothing follows pedals go up. Notes that sound over a
 * seam ring to their end or to the next stroke of their pitch, or are cut.
 */
export function layMusically(
  waiting: readonly WaitingPiece[],
  held: Seams['held'],
  timeline: Timeline,
): Strand[] {
  const startOf = (piece: WaitingPiece) => piece.place(piece.from);
  const pieces = [...waiting].sort((a, b) => startOf(a) - startOf(b));
  let state: ChannelState = new Map();
  const laid = pieces.map((piece, index) => {
    const next = index + 1 < pieces.length ? startOf(pieces[index + 1]) : Infinity;
    const ownEnd = piece.to === Infinity ? Infinity : piece.place(piece.to);
    const end = Math.min(ownEnd, next);
    const to = end === ownEnd ? piece.to : piece.back(end);
    const cut = ranked(cutMusically(piece, to, timeline), piece.index);
    // Alone and where it was, it is its source: nothing will be written into it.
    const isSource = pieces.length === 1 && piece.stays && end === Infinity;
    const strand = isSource ? cut : placed(cut, piece.place, to);
    const entering =
      piece.from > 0 ? stateBefore(piece.source.events, piece.from) : new Map<number, number>();
    const messages = messagesToReach(state, entering, setAt(piece.source.events, piece.from));
    state = reached(state, stateBefore(piece.source.events, to));
    const lifted = end < next && end !== Infinity ? liftPedals(state) : [];
    const after = pieces[index + 1] as WaitingPiece | undefined;
    return {
      strand: withMessages(strand, piece.index, [startOf(piece), messages], [end, lifted]),
      end,
      held: (end === next ? after?.held : undefined) ?? held,
    };
  });
  if (laid.some(({ end }) => end !== Infinity)) endAtSeams(laid);
  return laid.map(({ strand }) => strand);
}

function cutMusically({ source, from, to: own }: WaitingPiece, to: number, timeline: Timeline): Strand {
  if (from === 0 && to === Infinity) return source;
  const places = musicalPlaces(source.notes.start, timeline);
  const [begins, ends] = [belongsFrom(from, timeline), belongsFrom(to, timeline)];
  // A source that is over by the seam loses nothing to what follows, however late its last note is.
  const { start } = source.notes;
  const isOver = own === Infinity && (start.length === 0 || start[start.length - 1] < to);
  const noteRows = stretch(places, begins, to === Infinity || isOver ? null : ends);
  const { tick } = source.events;
  return pickStrand(
    source,
    noteRows,
    stretch(tick, (own) => own >= from, to === Infinity ? null : (own) => own >= to),
  );
}

/**
 * The rows of a column that never falls from where `begins` holds up to where `ends` does; both hold from some value
 * on.
 */
function stretch(
  column: Float64Array,
  begins: (value: number) => boolean,
  ends: ((value: number) => boolean) | null,
): Uint32Array {
  const first = firstWhere(column, begins);
  const last = ends ? Math.max(first, firstWhere(column, ends)) : column.length;
  return Uint32Array.from({ length: last - first }, (_, row) => first + row);
}

function firstWhere(column: Float64Array, holds: (value: number) => boolean): number {
  let [low, high] = [0, column.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(column[middle])) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** The strand moved to its place; nothing comes before the start of the session. */
function placed(strand: Strand, place: (tick: number) => number, to: number): Strand {
  const move = (tick: number) => Math.max(0, place(tick));
  return {
    ...strand,
    notes: withColumns(strand.notes, {
      start: strand.notes.start.map(move),
      end: strand.notes.end.map(move),
    }),
    events: { ...strand.events, tick: strand.events.tick.map(move) },
    endTick: move(Math.min(strand.endTick, to)),
  };
}

/**
 * The strand with messages before everything else of its piece at its start, and after everything else of it at its
 * end: so notes of the piece before end under its own pedal.
 */
function withMessages(
  strand: Strand,
  index: number,
  before: [number, Message[]],
  after: [number, Message[]],
): Strand {
  if (before[1].length + after[1].length === 0) return strand;
  const { events, eventOrder } = strand;
  const builder = createEventBuilder(before[1].length + after[1].length);
  const order: number[] = [];
  for (const [[tick, messages], rank] of [
    [before, index * ORDERS_PER_PIECE - 0.5],
    [after, (index + 1) * ORDERS_PER_PIECE - 1],
  ] as const)
    // prettier-ignore
    for (const [status, data1, data2] of messages) {
      builder.add(Math.max(0, tick), status, data1, data2);
      order.push(rank);
    }
  const joined = joinEvents([
    { events, order: eventOrder },
    { events: builder.build(), order: Float64Array.from(order) },
  ]);
  return { ...strand, events: joined.events, eventOrder: joined.order };
}

function endAtSeams(laid: readonly { strand: Strand; end: number; held: Seams['held'] }[]): void {
  const following = new Map<number, number>();
  for (let index = laid.length - 1; index >= 0; index--) {
    const { strand, end: seam, held } = laid[index];
    const { notes } = strand;
    const first = firstStarts(notes);
    for (let row = 0; row < notes.length; row++) {
      let end = notes.end[row];
      const next = following.get(keyOf(notes, row)) ?? Infinity;
      if (next > notes.start[row]) end = Math.min(end, next);
      if (held === 'cut') end = Math.min(end, seam);
      // The columns are this layer's own: `placed` made them.
      notes.end[row] = Math.max(end, Math.min(notes.end[row], notes.start[row] + 1));
    }
    for (const [key, start] of first) following.set(key, start);
  }
}

const keyOf = (notes: NoteTable, row: number) => (notes.channel[row] << 7) | notes.pitch[row];

function firstStarts(notes: NoteTable): Map<number, number> {
  const first = new Map<number, number>();
  for (let row = notes.length - 1; row >= 0; row--) first.set(keyOf(notes, row), notes.start[row]);
  return first;
}
