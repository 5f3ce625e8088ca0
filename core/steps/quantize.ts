import { z } from 'zod';
import { sortedByStart, withColumns, type Material, type NoteTable } from '../model';
import {
  nameOfNoteValue,
  quartersOf,
  secondsToTicks,
  ticksToSeconds,
  type TempoMap,
  type Timeline,
} from '../time';
import { findFlams, withGraces, type Flams } from './flams';
import { PERCENT, numberSetting } from './numberSettings';
import { createPull, gridsOf, TOLERANCE, type Pull } from './pull';
import { noteValueSchema, stepBase } from './settings';
import { namesNoNotes, saysNoTicks, type StepContext, type StepKind, type StepCommon } from './stepKind';

const schema = z.strictObject({
  kind: z.literal('quantize'),
  ...stepBase,
  grid: z
    .union([noteValueSchema, z.array(noteValueSchema).min(1, 'must hold at least one note value').max(8)])
    .default('1/16'),
  edge: z.enum(['start', 'end', 'both'], 'must be "start", "end" or "both"').default('start'),
  keepLength: z.boolean('must be true or false').default(true),
  strength: numberSetting(0, 100, 100, PERCENT),
  swing: numberSetting(50, 75, 50, { unit: '%', step: 0.1 }),
  shiftMs: numberSetting(-1000, 1000, 0, { unit: 'ms', usual: [-50, 50] }),
  leaveWithinMs: numberSetting(0, 1000, 0, { unit: 'ms', usual: [0, 60] }),
  leaveBeyond: numberSetting(0, 100, 100, PERCENT),
  chords: z.enum(['each', 'spread', 'together'], 'must be "each", "spread" or "together"').default('each'),
  chordMs: numberSetting(0, 1000, 30, { unit: 'ms' }),
  /** Which note of a chord comes to the line: some players strum to the beat. Without it the first. */
  chordOn: z.enum(['first', 'middle', 'last'], 'must be "first", "middle" or "last"').optional(),
  keepFlams: z.boolean('must be true or false').default(true),
  flamMs: numberSetting(0, 1000, 60, { unit: 'ms' }),
  /** A grace note keeps its distance from the note it leads to. Without it it is a note like others. */
  keepGraces: z.boolean('must be true or false').optional(),
  minLength: noteValueSchema.default('1/64'),
  drumEnds: z.boolean('must be true or false').default(false),
});

export type QuantizeStep = z.infer<typeof schema>;

function apply(material: Material, step: QuantizeStep, context: StepContext, touched: Uint8Array): Material {
  // At strength 0 nothing moves whatever the other settings say, chords set together included.
  if (step.strength === 0 || material.notes.length === 0) return material;
  const { notes } = material;
  const pull = createPull(step, context.timeline);
  const everything = Object.keys(step.where).length === 0;
  // What is written anew for every row need not be copied first.
  const isWritten = everything && step.edge !== 'end' && step.chords === 'each';
  const start = isWritten ? new Float64Array(notes.length) : notes.start.slice();
  const end = new Float64Array(notes.length);
  // By far the most usual settings, at every move of a slider: all in one pass, and only the few grace strokes after
  // it.
  if (isWritten && step.edge === 'start' && step.keepLength && pull.carry(notes, { start, end })) {
    for (const row of moveGraces(start, notes, step, context, touched))
      end[row] = Math.max(start[row] + 1, notes.end[row] + (start[row] - notes.start[row]));
    return { ...material, notes: sortedByStart(withColumns(notes, { start, end }), true) };
  }
  if (step.edge !== 'end') moveStarts(start, notes, step, context, { touched, everything }, pull);
  // What a drum stroke ends with is mostly chance: its end stays unless it is asked for.
  const movesEnds = step.edge !== 'start' && (step.drumEnds || !context.isDrums);
  if (movesEnds) moveEnds(end, notes.end, touched, pull);
  const least = step.edge !== 'start' ? quartersOf(step.minLength) * context.timeline.ticksPerQuarter : 0;
  settleEnds(end, movesEnds ? end : notes.end, start, notes, touched, {
    along: step.edge === 'start' && step.keepLength,
    least,
  });
  return { ...material, notes: sortedByStart(withColumns(notes, { start, end }), true) };
}

/**
 * Writes the ends into `end`, made of `from`: brings them along with their starts when asked, and keeps every touched
 * note at least a tick long; where ends were moved also at least `least` ticks, or what it was where it was shorter
 * still.
 */
function settleEnds(
  end: Float64Array,
  from: Float64Array,
  start: Float64Array,
  played: NoteTable,
  touched: Uint8Array,
  { along, least }: { along: boolean; least: number },
) {
  // At every move of a slider this runs for every note: nothing is looked up twice.
  const { start: playedStart, end: playedEnd, length } = played;
  for (let row = 0; row < length; row++) {
    const begins = start[row];
    const to = along ? from[row] + (begins - playedStart[row]) : from[row];
    const shortest = least > 0 ? Math.max(1, Math.min(least, playedEnd[row] - playedStart[row])) : 1;
    end[row] = to < begins + shortest && touched[row] !== 0 ? begins + shortest : to;
  }
}

function moveEnds(end: Float64Array, played: Float64Array, touched: Uint8Array, pull: Pull) {
  pull.targets(played, end);
  for (let row = 0; row < end.length; row++) if (touched[row] === 0) end[row] = played[row];
}

/** Which rows a step touches, and whether these are all of them. */
interface Reach {
  touched: Uint8Array;
  everything: boolean;
}

/**
 * Writes the new starts of touched notes into `start`: mains first, then the grace strokes that keep their distance.
 */
function moveStarts(
  start: Float64Array,
  notes: NoteTable,
  step: QuantizeStep,
  context: StepContext,
  reach: Reach,
  pull: Pull,
) {
  const played = notes.start;
  if (step.chords === 'each') {
    pull.targets(played, start);
    if (!reach.everything)
      for (let row = 0; row < start.length; row++) if (reach.touched[row] === 0) start[row] = played[row];
  } else {
    const clock = clockOf(played, context.timeline.tempo);
    const { grace } = flamsOf(notes, clock, step, context);
    moveChords(start, played, clock, step, withoutGraces(reach.touched, grace), pull);
  }
  moveGraces(start, notes, step, context, reach.touched);
}

/**
 * Puts the grace strokes before their mains, which have moved, at the distance they were played; returns their rows.
 */
function moveGraces(
  start: Float64Array,
  notes: NoteTable,
  step: QuantizeStep,
  context: StepContext,
  touched: Uint8Array,
): number[] {
  const { tempo } = context.timeline;
  const played = notes.start;
  const clock = clockOf(played, tempo);
  const { grace, main: mains } = flamsOf(notes, clock, step, context);
  grace.forEach((row, index) => {
    if (touched[row] === 0) return;
    const main = mains[index];
    // Where the main stroke stays, so does its grace, to the last bit.
    if (start[main] === played[main]) start[row] = played[row];
    else {
      const distance = (clock.time[main] - clock.time[row]) / clock.perSecond;
      start[row] = Math.max(0, secondsToTicks(tempo, ticksToSeconds(tempo, start[main]) - distance));
    }
  });
  return grace;
}

/** The grace strokes of a table, kept as long as it is: a slider asks for the same ones at every move. */
const knownFlams = new WeakMap<
  NoteTable,
  { timeline: Timeline; isDrums: boolean; flamMs: number; flams: Flams }
>();

function flamsOf(notes: NoteTable, clock: Clock, step: QuantizeStep, context: StepContext): Flams {
  const flams = step.keepFlams ? strokesAhead(notes, clock, step, context) : NO_FLAMS;
  if (!step.keepGraces || context.isDrums) return flams;
  return withGraces(flams, notes, { ...clock, ends: clockOf(notes.end, context.timeline.tempo).time });
}

const NO_FLAMS: Flams = { grace: [], main: [] };

function strokesAhead(
  notes: NoteTable,
  clock: Clock,
  { flamMs }: QuantizeStep,
  { timeline, isDrums }: StepContext,
): Flams {
  const known = knownFlams.get(notes);
  if (known && known.timeline === timeline && known.isDrums === isDrums && known.flamMs === flamMs)
    return known.flams;
  const flams = findFlams(notes, clock.time, isDrums, (flamMs / 1000) * clock.perSecond - TOLERANCE);
  knownFlams.set(notes, { timeline, isDrums, flamMs, flams });
  return flams;
}

function withoutGraces(touched: Uint8Array, graces: readonly number[]): Uint8Array {
  const moving = touched.slice();
  for (const row of graces) moving[row] = 0;
  return moving;
}

/** Starts in a unit in which distances are durations, and how many of that unit make a second. */
interface Clock {
  time: Float64Array;
  perSecond: number;
}

/** Under one tempo ticks are durations already; only a changing tempo needs the starts in seconds. */
function clockOf(ticks: Float64Array, tempo: TempoMap): Clock {
  if (tempo.tick.length === 1) return { time: ticks, perSecond: 1 / tempo.secondsPerTick[0] };
  const time = new Float64Array(ticks.length);
  for (let row = 0; row < ticks.length; row++) time[row] = ticksToSeconds(tempo, ticks[row]);
  return { time, perSecond: 1 };
}

/** A chord is a run of starts each within `chordMs` of its first; its earliest note decides for all, or `chordOn`. */
function moveChords(
  start: Float64Array,
  played: Float64Array,
  { time, perSecond }: Clock,
  step: QuantizeStep,
  moving: Uint8Array,
  pull: Pull,
) {
  const reach = (step.chordMs / 1000) * perSecond + TOLERANCE;
  const together = step.chords === 'together';
  const targets = new Float64Array(start.length);
  const far = new Uint8Array(start.length);
  let first = -1;
  const firsts = new Int32Array(start.length);
  const anchors = played.slice();
  for (let row = 0; row < start.length; row++) {
    if (moving[row] === 0) continue;
    if (first < 0 || time[row] - time[first] > reach) first = row;
    firsts[row] = first;
    // In order of start, the last one that is reached is the last of its chord.
    if (step.chordOn === 'last') anchors[first] = played[row];
    else if (step.chordOn === 'middle') anchors[first] = (played[first] + played[row]) / 2;
  }
  pull.targets(anchors, targets, far);
  for (let row = 0; row < start.length; row++) {
    if (moving[row] === 0) continue;
    const own = firsts[row];
    // A chord too far off to be touched keeps its spread as well.
    if (far[own]) continue;
    const target = targets[own];
    start[row] = together ? target : Math.max(0, played[row] + (target - anchors[own]));
  }
}

function describe(step: QuantizeStep): string {
  const words = [gridsOf(step).map(nameOfNoteValue).join(' + '), `${step.strength} %`];
  if (step.swing !== 50 && !Array.isArray(step.grid)) words.push(`swing ${step.swing}`);
  if (step.edge !== 'start') words.push(step.edge === 'end' ? 'ends' : 'starts and ends');
  if (step.shiftMs !== 0) words.push(`${step.shiftMs > 0 ? '+' : '−'}${Math.abs(step.shiftMs)} ms`);
  return words.join(', ');
}

export const isQuantize = (step: StepCommon): step is QuantizeStep => step.kind === 'quantize';

/** Moves starts, ends or both toward the lines of a grid. */
export const quantize: StepKind<QuantizeStep> = {
  kind: 'quantize',
  title: 'Quantize',
  work: 'time',
  hint: 'Pull starts, ends or both to the lines of a grid',
  schema,
  // Full strength on every note would flatten a played chord; editors start below it (common practice: 75 to 85 %).
  start: ({ facts, isDrums }) => ({
    grid: facts.grid,
    swing: facts.swing,
    strength: 80,
    chords: !isDrums && facts.chordShare > 0.2 ? 'spread' : 'each',
  }),
  mapTicks: saysNoTicks,
  mapIds: namesNoNotes,
  apply,
  describe,
  movesTime: true,
  grid: (step) => ({ grids: gridsOf(step), swing: step.swing }),
  wholly: (step) => (step.edge === 'end' ? null : { ...step, strength: 100 }),
};
