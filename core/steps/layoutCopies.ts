import { createStateTracker, type Message } from '../curves';
import { createEventBuilder, payloadOf, staysPut, type EventColumns } from '../midi';
import {
  createHeap,
  emptyNoteTable,
  joinEvents,
  mixIds,
  numberOfText,
  pickRows,
  sortedByStart,
  type Material,
  type NoteTable,
} from '../model';
import { barAt, belongsFrom, firstAtOrAfter, musicalPlaces, type Timeline } from '../time';
import { createPointBudget, MOST_COPIES, MOST_LAID } from './bounds';
import type { LayoutBlock } from './layout';
import type { StepContext } from './stepKind';

/** One copy of a block: what lies in [from, to) of the source begins at `start` and ends at `end`, in ticks. */
interface Copy {
  block: number;
  number: number;
  from: number;
  to: number;
  start: number;
  end: number;
  stretch: number;
  held: LayoutBlock['held'];
  isMuted: boolean;
  /** What a note is mixed with where it has been laid before. */
  through: number;
}

const placeIn = ({ from, start, stretch }: Copy, tick: number): number => start + (tick - from) * stretch;
const sourceOf = ({ from, start, stretch }: Copy, tick: number): number => from + (tick - start) / stretch;

/**
 * Lays stretches of some material along the bars; see the recipe format. Notes sound in every block that lies over a
 * place; the controllers there are those of the block listed last. The very same material comes back where nothing
 * moves.
 */
export function applyLayout(
  material: Material,
  blocks: readonly LayoutBlock[],
  { timeline, channel }: StepContext,
): Material {
  const copies = copiesOf(blocks, timeline);
  const notes = layNotes(material.notes, copies, timeline);
  const heard = copies.filter(({ isMuted }) => !isMuted);
  const events = layEvents(material.events, heard, channel);
  const isSame = sameNotes(notes, material.notes) && sameEvents(events, material.events);
  return isSame ? material : { notes, events };
}

/** The identities a note may have in the copies of some blocks. */
export function copyIds(blocks: readonly LayoutBlock[], id: number): number[] {
  const none = new Set<number>();
  return blocks.flatMap((block, index) =>
    Array.from({ length: block.times }, (_, number) => mixIds(throughOf(block, index, number), id, none)),
  );
}

const throughOf = ({ id }: LayoutBlock, index: number, number: number): number =>
  numberOfText(`${id ?? index} ${number}`);

function copiesOf(blocks: readonly LayoutBlock[], { ticksPerQuarter }: Timeline): Copy[] {
  const budget = createPointBudget('This layout', 'copies', MOST_COPIES);
  return blocks.flatMap((block, index) => {
    budget.spend(block.times);
    const [from, to] = [block.from * ticksPerQuarter, block.to * ticksPerQuarter];
    const length = (to - from) * block.stretch;
    return Array.from({ length: block.times }, (_, number): Copy => {
      const start = block.at * ticksPerQuarter + number * length;
      const through = throughOf(block, index, number);
      const { stretch, held, muted: isMuted = false } = block;
      return { block: index, number, from, to, start, end: start + length, stretch, held, isMuted, through };
    });
  });
}

/** Where a line is crossed: on a bar line by the musical bar, elsewhere by the tick. */
function crossing(tick: number, timeline: Timeline): { isMusical: boolean; has(place: number): boolean } {
  const isMusical = Math.abs(barAt(timeline.meter, tick + 1e-6).start - tick) < 1e-6;
  return { isMusical, has: isMusical ? belongsFrom(tick, timeline) : (place) => place >= tick };
}

interface LaidNotes {
  rows: number[];
  copies: Copy[];
}

function layNotes(notes: NoteTable, copies: readonly Copy[], timeline: Timeline): NoteTable {
  const places = musicalPlaces(notes.start, timeline);
  const rowsOf = new Map<number, number[]>();
  const budget = createPointBudget('This layout', 'notes', MOST_LAID);
  const laid: LaidNotes = { rows: [], copies: [] };
  for (const copy of copies) {
    let rows = rowsOf.get(copy.block);
    if (!rows) {
      rows = rowsBetween(notes, places, crossing(copy.from, timeline), crossing(copy.to, timeline));
      rowsOf.set(copy.block, rows);
    }
    budget.spend(rows.length);
    for (const row of rows) {
      laid.rows.push(row);
      laid.copies.push(copy);
    }
  }
  const all = tableOf(notes, laid);
  // Muted copies keep their identities for themselves, so that muting one leaves the others what they are.
  const heard = copies.some(({ isMuted }) => isMuted)
    ? laid.rows.map((_, at) => at).filter((at) => !laid.copies[at].isMuted)
    : null;
  const table = heard ? pickRows(all, heard) : all;
  endAtNextStroke(table, heard ? { ...laid, copies: heard.map((at) => laid.copies[at]) } : laid);
  return sortedByStart(table, true);
}

function rowsBetween(
  notes: NoteTable,
  places: Float64Array,
  begin: ReturnType<typeof crossing>,
  end: ReturnType<typeof crossing>,
): number[] {
  const rows: number[] = [];
  for (let row = 0; row < notes.length; row++) {
    const at = (line: typeof begin) => line.has(line.isMusical ? places[row] : notes.start[row]);
    if (at(begin) && !at(end)) rows.push(row);
  }
  return rows;
}

/** The notes at their new places. A note's first copy keeps its identity. */
function tableOf(notes: NoteTable, { rows, copies }: LaidNotes): NoteTable {
  const table = emptyNoteTable(rows.length);
  const used = new Uint8Array(notes.length);
  let taken: Set<number> | null = null;
  rows.forEach((row, at) => {
    const copy = copies[at];
    const [start, end] = [placeIn(copy, notes.start[row]), placeIn(copy, notes.end[row])];
    table.start[at] = Math.max(0, start);
    const last = copy.held === 'cut' ? Math.min(end, copy.end) : end;
    table.end[at] =
      start === notes.start[row] && last === notes.end[row] ? end : Math.max(last, table.start[at] + 1);
    table.pitch[at] = notes.pitch[row];
    table.velocity[at] = notes.velocity[row];
    table.release[at] = notes.release[row];
    table.channel[at] = notes.channel[row];
    if (used[row] === 0) table.id[at] = notes.id[row];
    else {
      taken ??= new Set(notes.id);
      table.id[at] = mixIds(copy.through, notes.id[row], taken);
      taken.add(table.id[at]);
    }
    used[row] = 1;
  });
  return table;
}

/**
 * A note ends where the next of its pitch and channel begins that was brought there from elsewhere, if it would ring
 * beyond.
 */
function endAtNextStroke(table: NoteTable, { copies }: LaidNotes): void {
  const byKey = new Map<number, number[]>();
  for (let row = 0; row < table.length; row++) {
    const key = (table.channel[row] << 7) | table.pitch[row];
    const list = byKey.get(key);
    if (list) list.push(row);
    else byKey.set(key, [row]);
  }
  const isMovedAlike = (a: Copy, b: Copy) => a.stretch === b.stretch && placeIn(a, 0) === placeIn(b, 0);
  for (const rows of byKey.values()) {
    rows.sort((a, b) => table.start[a] - table.start[b]);
    // From the last back: behind each the first that was moved otherwise than it, and the first that starts later.
    const other = new Uint32Array(rows.length).fill(rows.length);
    let later = rows.length;
    for (let at = rows.length - 2; at >= 0; at--) {
      const [row, next] = [rows[at], rows[at + 1]];
      other[at] = isMovedAlike(copies[row], copies[next]) ? other[at + 1] : at + 1;
      if (table.start[next] > table.start[row]) later = at + 1;
      if (later === rows.length) continue;
      const found = isMovedAlike(copies[row], copies[rows[later]]) ? other[later] : later;
      if (found < rows.length && table.start[rows[found]] < table.end[row])
        table.end[row] = Math.max(table.start[row] + 1, table.start[rows[found]]);
    }
  }
}

/** A stretch of the result and the copy whose controllers hold there; none where no block lies. */
interface Owned {
  from: number;
  to: number;
  copy: Copy | null;
}

function owners(copies: readonly Copy[]): Owned[] {
  const edges = copies
    .flatMap((copy) => [
      { at: Math.max(0, copy.start), copy, enters: true },
      { at: copy.end, copy, enters: false },
    ]) // prettier-ignore
    .sort((a, b) => a.at - b.at);
  // The block listed last has the controllers, and of its copies the last one.
  const active = createHeap<Copy>(
    (a, b) => a.block > b.block || (a.block === b.block && a.number > b.number),
  );
  const over = new Set<Copy>();
  const owned: Owned[] = [];
  edges.forEach(({ at, copy, enters }, index) => {
    if (enters) active.add(copy);
    else over.add(copy);
    const to = edges[index + 1]?.at ?? Infinity;
    if (to <= at) return;
    for (let first = active.first(); first && over.has(first); first = active.first()) active.take();
    const owner = active.first() ?? null;
    const last = owned.at(-1);
    if (last && last.copy === owner && last.to === at) last.to = to;
    else owned.push({ from: at, to, copy: owner });
  });
  return owned;
}

/** Events being laid, each with its place among others of its tick. */
interface Laying {
  source: EventColumns;
  isOwn(row: number): boolean;
  add(row: number, tick: number): void;
  addMessage(message: Message, tick: number, order: number): void;
}

function layEvents(events: EventColumns, copies: readonly Copy[], channel?: number): EventColumns {
  const builder = createEventBuilder(events.length);
  const order: number[] = [];
  const budget = createPointBudget('This layout', 'events', MOST_LAID);
  const laying: Laying = {
    source: events,
    isOwn: (row) =>
      events.status[row] < 0xf0 && (channel === undefined || (events.status[row] & 15) === channel),
    add(row, tick) {
      budget.spend(1);
      const payload = events.payload[row] === 0 ? undefined : payloadOf(events, row);
      builder.add(Math.max(0, tick), events.status[row], events.data1[row], events.data2[row], payload);
      order.push(row);
    },
    addMessage(message, tick, rank) {
      budget.spend(1);
      builder.add(tick, ...message);
      order.push(rank);
    },
  };
  layControllers(laying, copies, channel);
  layOthers(laying, copies);
  return sortedEvents({ events: builder.build(), order: Float64Array.from(order) }).events;
}

function layControllers(laying: Laying, copies: readonly Copy[], channel?: number): void {
  const { source } = laying;
  const state = createStateTracker(source, channel);
  for (const { from, to, copy } of owners(copies)) {
    if (!copy) {
      const isSeam = to !== Infinity || state.hasMore();
      for (const message of isSeam ? state.lift() : []) laying.addMessage(message, from, source.length);
      continue;
    }
    // A copy that begins before the session begins brings the events from before along, to tick 0.
    const first = copy.start < from && from === 0 ? copy.from : sourceOf(copy, from);
    const last = to === copy.end ? copy.to : sourceOf(copy, to);
    let row = firstAtOrAfter(source.tick, first, source.length);
    for (const message of state.enter(first)) laying.addMessage(message, from, row - 0.5);
    for (; row < source.length && source.tick[row] < last; row++)
      if (laying.isOwn(row)) laying.add(row, placeIn(copy, source.tick[row]));
    state.leave(last);
  }
}

/**
 * What belongs to no channel: lyrics and texts in every copy, system exclusive in the first alone; set-up, and other
 * channels, as they are.
 */
function layOthers({ source, isOwn, add }: Laying, copies: readonly Copy[]): void {
  const byBlock = new Map<number, Copy[]>();
  for (const copy of copies) {
    const block = byBlock.get(copy.block);
    if (block) block.push(copy);
    else byBlock.set(copy.block, [copy]);
  }
  const blocks = [...byBlock.values()];
  for (let row = 0; row < source.length; row++) {
    if (isOwn(row)) continue;
    const tick = source.tick[row];
    if (source.status[row] < 0xf0 || staysPut(source, row)) {
      add(row, tick);
      continue;
    }
    const isExclusive = source.status[row] !== 0xff;
    const inside = blocks.filter(([{ from, to }]) => tick >= from && tick < to);
    if (isExclusive) inside.slice(0, 1).forEach(([copy]) => add(row, placeIn(copy, tick)));
    else for (const block of inside) for (const copy of block) add(row, placeIn(copy, tick));
  }
}

/** Ordered events sorted; `joinEvents` sorts only where it joins. */
function sortedEvents(list: { events: EventColumns; order: Float64Array }) {
  const none = createEventBuilder().build();
  return joinEvents([list, { events: none, order: new Float64Array(0) }]);
}

function sameNotes(a: NoteTable, b: NoteTable): boolean {
  return (
    a.length === b.length &&
    a.id.every((id, row) => id === b.id[row] && a.start[row] === b.start[row] && a.end[row] === b.end[row])
  );
}

function sameEvents(a: EventColumns, b: EventColumns): boolean {
  return (
    a.length === b.length &&
    a.tick.every(
      (tick, row) =>
        tick === b.tick[row] &&
        a.status[row] === b.status[row] &&
        a.data1[row] === b.data1[row] &&
        a.data2[row] === b.data2[row],
    )
  );
}
