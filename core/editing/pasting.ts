import type { NoteTable } from '../model';
import {
  barAt,
  barNumbered,
  belongsFrom,
  createMusicalBars,
  firstAtOrAfter,
  musicalPlaces,
  nearestLine,
  reachBefore,
  type Grid,
  type Timeline,
} from '../time';
import { broughtTo, type Snap } from './feel';
import type { NotesOnClipboard } from './clipboard';

/** A bar that others lie before. */
const LIKE_BAR = 3;

/** What pasted notes do to those that are there: lie among them, stand in their place, or push them later. */
export type PasteHow = 'add' | 'replace' | 'push';

/** Where pasted notes go, and the rows of the notes that give way. */
export interface PastePlan {
  /** Tick of the first note. */
  tick: number;
  /** The stretch they take up, to the bar or grid line. */
  from: number;
  to: number;
  rows: number[];
}

/**
 * Where notes come to lie that are pasted at a tick. At a bar line every note keeps its place in the bar, so that a
 * bar pasted is a bar; elsewhere the first goes to the nearest line of the grid and keeps its distance from it; so it
 * does where it would come to lie on itself. With snapping off the first goes to the tick itself. Notes that give way
 * are those that belong to the stretch (replace), or to it and what follows (push), by the musical bar's reach.
 */
export function pastePlan(
  content: NotesOnClipboard,
  at: number,
  how: PasteHow,
  snap: Snap,
  grid: Grid,
  notes: Pick<NoteTable, 'length' | 'start' | 'pitch'>,
  timeline: Timeline,
): PastePlan {
  const { meter, ticksPerQuarter } = timeline;
  const tick = Math.max(0, at);
  const bar = nearestBarLine(tick, timeline);
  const inBar = (content.inBar ?? 0) * ticksPerQuarter;
  const length = [content, ...(content.others ?? [])]
    .flatMap(({ notes: own }) => own)
    .reduce((last, note) => Math.max(last, (note.at + note.length) * ticksPerQuarter), 0);
  const isByBar =
    snap === 'steps' &&
    bar !== null &&
    content.inBar !== undefined &&
    !standsThere(notes, Math.max(0, bar + inBar), content.notes[0].pitch);
  const first = isByBar
    ? Math.max(0, bar + inBar)
    : // Its distance is that from its line in a bar like the one it came from.
      broughtTo(grid, snap, barNumbered(meter, LIKE_BAR).start + inBar, tick);
  const step = Math.min(...grid.steps);
  const from = isByBar ? bar : nearestLine(grid, first, { line: 0, step }).line;
  // A bar that is all but filled is a bar; other stretches end on a line of the grid.
  const end = first + length;
  const to = isByBar
    ? barEnd(end, bar, timeline)
    : from + Math.max(1, Math.ceil((end - from) / step - 0.25)) * step;
  return {
    tick: first,
    from,
    to,
    rows: how === 'add' ? [] : rowsInWay(notes, { from, to }, how, timeline),
  };
}

/** Whether a note of a pitch starts at a tick. */
function standsThere(
  { length, start, pitch }: Pick<NoteTable, 'length' | 'start' | 'pitch'>,
  tick: number,
  wanted: number,
): boolean {
  for (let row = firstAtOrAfter(start, tick - 0.5); row < length && start[row] <= tick + 0.5; row++)
    if (pitch[row] === wanted) return true;
  return false;
}

/** The bar line a tick stands on or just before; null elsewhere. */
function nearestBarLine(tick: number, timeline: Timeline): number | null {
  const bar = barAt(timeline.meter, tick);
  if (tick - bar.start < 1) return bar.start;
  return tick > reachBefore(bar.end, timeline) ? bar.end : null;
}

/** The bar line after the last end, which may hang over it by a little. */
function barEnd(end: number, from: number, timeline: Timeline): number {
  const last = barAt(timeline.meter, Math.max(from, end - timeline.ticksPerQuarter / 8));
  return last.end;
}

/** The rows of the notes that give way to what is pasted over a stretch: those in it, or it and all that follows. */
export function rowsInWay(
  notes: Pick<NoteTable, 'length' | 'start'>,
  { from, to: end }: Pick<PastePlan, 'from' | 'to'>,
  how: Exclude<PasteHow, 'add'>,
  timeline: Timeline,
): number[] {
  const to = how === 'push' ? Infinity : end;
  const [begins, ends] = [belongsFrom(from, timeline), belongsFrom(to, timeline)];
  const places = musicalPlaces(notes.start, timeline);
  const rows: number[] = [];
  for (let row = 0; row < notes.length; row++)
    if (begins(places[row]) && !(to !== Infinity && ends(places[row]))) rows.push(row);
  return rows;
}

/**
 * How far in quarters the first of some starts (ticks, in order) lies after the line of its musical bar; below 0 when
 * it was played ahead of it.
 */
export function placeInBar(starts: Float64Array, timeline: Timeline): number {
  const bar = createMusicalBars(timeline)(musicalPlaces(starts, timeline)[0]);
  return (starts[0] - barNumbered(timeline.meter, bar).start) / timeline.ticksPerQuarter;
}
