import { pedalSpans, readLane } from '../curves';
import type { EventColumns } from '../midi';
import { pickRows, type Material, type NoteTable } from '../model';
import { touchedRows, type Where } from '../steps';
import {
  barAt,
  createGrid,
  firstAtOrAfter,
  nearestLines,
  ticksToSeconds,
  type NoteValue,
  type Timeline,
} from '../time';

/** A part at one stage, or some of its notes, with where each note lies against a grid. Columns by row of `notes`. */
export interface Measured {
  notes: NoteTable;
  timeline: Timeline;
  /** Start in seconds. */
  second: Float64Array;
  /** How late against the nearest line, in ms and in ticks; early below 0. */
  lateMs: Float64Array;
  lateTicks: Float64Array;
  /** That line's bar, from 1, and its place there in beats of the meter, from 1. */
  bar: Float64Array;
  beat: Float64Array;
  /**
   * Presses of the sustain pedal: the row of the stroke each is nearest to, and how long after it the pedal goes
   * down, in ms.
   */
  presses: { row: Int32Array; afterMs: Float64Array };
}

/**
 * A press belongs to the stroke nearest to it; where none is nearer than this, in seconds, it stands for itself and
 * is left out.
 */
const NEAREST_STROKE_SECONDS = 2;

/** Beats are told apart to a thousandth, so that one place of a triplet grid is one place in every bar. */
const PLACES = 1000;

/**
 * Measures the notes of a part that `where` picks (all by default) against lines of one or several grids; `swing` in
 * percent, 50 straight. `meant` says of every note of the material which line it belongs to and where beside it it is
 * meant to be, in ticks: then that is what it is measured against.
 */
export function measureNotes(
  { notes: all, events }: Material,
  { grids, swing }: { grids: readonly NoteValue[]; swing: number },
  timeline: Timeline,
  where: Where = {},
  meant?: { line: Float64Array; place: Float64Array },
): Measured {
  const rows = pickedRows(all, where, timeline);
  const notes = rows ? pickRows(all, rows) : all;
  const { length } = notes;
  const { meter, tempo } = timeline;
  const lines = new Float64Array(length);
  if (meant) lines.set(rows ? rows.map((row) => meant.line[row]) : meant.line);
  else nearestLines(createGrid(meter, grids, swing), notes.start, lines);
  const places = !meant ? lines : rows ? Float64Array.from(rows, (row) => meant.place[row]) : meant.place;
  const column = () => new Float64Array(length);
  const [second, lateMs, bar, beat] = [column(), column(), column(), column()];
  const lateTicks = notes.start.map((start, row) => start - places[row]);
  let own = barAt(meter, 0);
  for (let row = 0; row < length; row++) {
    second[row] = ticksToSeconds(tempo, notes.start[row]);
    lateMs[row] = 1000 * (second[row] - ticksToSeconds(tempo, places[row]));
    // A line at the end of a bar is the first of the next.
    const line = lines[row] + 1e-6;
    if (!(line >= own.start && line < own.end)) own = barAt(meter, line);
    bar[row] = own.number;
    beat[row] = Math.round(((lines[row] - own.start) / meter.beatTicks[own.row] + 1) * PLACES) / PLACES;
  }
  return {
    notes,
    timeline,
    second,
    lateMs,
    lateTicks,
    bar,
    beat,
    presses: pressesBeside(events, second, timeline),
  };
}

function pickedRows(notes: NoteTable, where: Where, timeline: Timeline): number[] | null {
  if (Object.keys(where).length === 0) return null;
  const touched = touchedRows(notes, where, timeline);
  const rows: number[] = [];
  for (let row = 0; row < notes.length; row++) if (touched[row]) rows.push(row);
  return rows;
}

/** Strokes are in order of time. */
function pressesBeside(events: EventColumns, second: Float64Array, { tempo }: Timeline): Measured['presses'] {
  const found: [row: number, afterMs: number][] = [];
  for (const channel of channelsWithPedal(events)) {
    for (const { start } of pedalSpans(readLane(events, 'cc64', channel))) {
      const at = ticksToSeconds(tempo, start);
      let row = firstAtOrAfter(second, at);
      if (row > 0 && (row === second.length || at - second[row - 1] <= second[row] - at)) row--;
      const after = at - (second[row] ?? Infinity);
      if (Math.abs(after) <= NEAREST_STROKE_SECONDS) found.push([row, 1000 * after]);
    }
  }
  return {
    row: Int32Array.from(found, ([row]) => row),
    afterMs: Float64Array.from(found, ([, after]) => after),
  };
}

function channelsWithPedal({ status, data1, length }: EventColumns): number[] {
  const channels = new Set<number>();
  for (let row = 0; row < length; row++)
    if (status[row] >> 4 === 0xb && data1[row] === 64) channels.add(status[row] & 15);
  return [...channels];
}
