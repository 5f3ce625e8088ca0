import { latenessOf } from '../analysis';
import type { Evaluation } from '../evaluate';
import { rowsById, type Material, type NoteTable } from '../model';
import { listOf, type Part } from '../session';
import { applyStep, kindOf, touchedRows, type Step } from '../steps';
import {
  createGrid,
  nearestLines,
  secondsToTicks,
  ticksToSeconds,
  type NoteValue,
  type Timeline,
} from '../time';
import type { Ruler } from './rulers';

/** A part as it is looked at: how far along its steps, and the grid shown for notes that no step has a grid for. */
export interface PartAt {
  part: Part;
  evaluation: Evaluation;
  /** How many of its steps are done; 0 is as played. */
  stop: number;
  shown: NoteValue;
  /** How that grid swings, in percent; straight without it. */
  shownSwing?: number;
  timeline: Timeline;
}

/** An offset from its line under this, in ms, is none. */
const NONE_MS = 0.01;

/** What a step with a grid means for the notes it touches. */
interface Meaning {
  ruler: Ruler;
  /** The table it touches rows of, and which; null where it touches all there are. */
  before: NoteTable;
  touched: Uint8Array | null;
  /**
   * How far from their lines it means notes to be, in ms by id: grace strokes, rolled chords, what it leaves since it
   * is near enough or too far, and all where its lines are shifted.
   */
  offsets: ReadonlyMap<number, number>;
}

/** Kept while the step and what goes into it are the same: its strength changes nothing of what it means. */
const known = new WeakMap<NoteTable, { of: string; timeline: Timeline; meaning: Meaning }>();

function meaningOf(step: Step, before: Material, timeline: Timeline, isDrums: boolean): Meaning | null {
  const kind = kindOf(step.kind);
  const ruler = kind.grid?.(step);
  if (!step.on || !ruler) return null;
  const whole = kind.wholly?.(step) ?? null;
  const of = JSON.stringify([whole ?? step, isDrums]);
  const found = known.get(before.notes);
  if (found?.of === of && found.timeline === timeline) return found.meaning;
  const offsets = new Map<number, number>();
  const isEverywhere = Object.keys(step.where).length === 0;
  const touched = isEverywhere ? null : touchedRows(before.notes, step.where, timeline);
  if (whole) {
    const { notes } = applyStep(before, whole, { timeline, isDrums });
    const late = latenessOf(notes, ruler.grids, ruler.swing, timeline);
    const rows = touched && rowsById(before.notes);
    for (let row = 0; row < notes.length; row++)
      if (Math.abs(late[row]) > NONE_MS && (!touched || touched[rows?.rowOf(notes.id[row]) ?? -1] === 1))
        offsets.set(notes.id[row], late[row]);
  }
  const meaning: Meaning = { ruler, before: before.notes, touched, offsets };
  known.set(before.notes, { of, timeline, meaning });
  return meaning;
}

/** What the steps with a grid up to the stop mean, in their order. */
function meaningsAt({ part, evaluation: { stages }, stop, timeline }: PartAt): Meaning[] {
  return listOf(part.steps)
    .slice(0, stop)
    .flatMap(({ step }, at) => meaningOf(step, stages[at], timeline, part.sound.drums) ?? []);
}

/** The grids notes are measured against at a stop: of the steps that touched them, and the one shown for the others. */
export function rulersAt(at: PartAt): Ruler[] {
  const meanings = meaningsAt(at);
  const last = meanings.findLastIndex(({ touched }) => touched === null);
  const partial = meanings.slice(last + 1).map(({ ruler }) => ruler);
  return [last >= 0 ? meanings[last].ruler : { grids: [at.shown], swing: at.shownSwing ?? 50 }, ...partial];
}

/** Where notes are meant to be: the line each belongs to, and the place beside it, both in ticks by row. */
export interface MeantPlaces {
  line: Float64Array;
  place: Float64Array;
}

/**
 * Where the notes of a part at a stop are meant to be. Each goes by the step with a grid that touched it last: by its
 * lines, and as far from them as the step means it; notes that none touched go by the grid shown. With `as` other notes
 * of the same part are measured by the same lines, and by nothing but them, such as those as played.
 */
export function meantPlaces(at: PartAt, as?: NoteTable): MeantPlaces {
  const notes = as ?? at.evaluation.stages[at.stop].notes;
  const { tempo, meter } = at.timeline;
  const { length, id, start } = notes;
  const line = new Float64Array(length);
  const place = new Float64Array(length);
  nearestLines(createGrid(meter, [at.shown], at.shownSwing ?? 50), start, line);
  place.set(line);
  const column = new Float64Array(length);
  for (const { ruler, before, touched, offsets } of meaningsAt(at)) {
    nearestLines(createGrid(meter, ruler.grids, ruler.swing), start, column);
    const rows = touched && rowsById(before);
    for (let row = 0; row < length; row++) {
      if (rows && touched[rows.rowOf(id[row])] !== 1) continue;
      line[row] = column[row];
      place[row] = column[row];
    }
    if (as || offsets.size === 0) continue;
    const own = rowsById(notes);
    const moved: { row: number; late: number }[] = [];
    for (const [note, late] of offsets) {
      const row = own.rowOf(note);
      if (row >= 0) moved.push({ row, late: late / 1000 });
    }
    // Without what it is meant to be off by, a note lies beside the line it belongs to.
    const straight = Float64Array.from(moved, ({ row, late }) =>
      Math.max(0, secondsToTicks(tempo, ticksToSeconds(tempo, start[row]) - late)),
    );
    const lines = new Float64Array(moved.length);
    nearestLines(createGrid(meter, ruler.grids, ruler.swing), straight, lines);
    moved.forEach(({ row, late }, index) => {
      line[row] = lines[index];
      place[row] = secondsToTicks(tempo, ticksToSeconds(tempo, lines[index]) + late);
    });
  }
  return { line, place };
}

/** How late each note is against where it is meant to be, in ms; early below 0. */
export function lateAgainst(
  { start, length }: NoteTable,
  { place }: MeantPlaces,
  { tempo }: Timeline,
): Float32Array {
  const late = new Float32Array(length);
  for (let row = 0; row < length; row++)
    late[row] = 1000 * (ticksToSeconds(tempo, start[row]) - ticksToSeconds(tempo, place[row]));
  return late;
}

/** How far from its lines a step means the notes it touches to be, in ms by id; nothing where it has no grid. */
export const keptBy = (
  step: Step,
  before: Material,
  timeline: Timeline,
  isDrums: boolean,
): ReadonlyMap<number, number> =>
  meaningOf(step, before, timeline, isDrums)?.offsets ?? new Map<number, number>();
