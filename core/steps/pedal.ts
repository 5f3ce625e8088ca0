import { z } from 'zod';
import { pedalSpans, pickPoints, readLane, writeLanes, type LanePoints, type PedalSpan } from '../curves';
import type { Material, NoteTable } from '../model';
import {
  barNumbered,
  createMusicalBars,
  musicalPlaces,
  secondsToTicks,
  ticksToSeconds,
  type Timeline,
} from '../time';
import { harmonyChanges } from './harmony';
import { laneChannels } from './laneChannels';
import { pedalFromLengths } from './pedalFromLengths';
import { isInside, regionAt, regionsOf } from './regions';
import { numberSetting } from './numberSettings';
import { placeAt, type Placing } from './placing';
import { endOf, pressSchema, replaced, startOf, underPresses, type Press } from './presses';
import { pedalLifted } from './seams';
import { stepBase } from './settings';
import { namesNoNotes, type StepContext, type StepKind } from './stepKind';

const ms = numberSetting(-60000, 60000, 0, { unit: 'ms', usual: [-300, 300] });

const pedalOp = <Op extends string, Shape extends z.ZodRawShape>(op: Op, shape: Shape) =>
  z.strictObject({
    kind: z.literal('pedal'),
    ...stepBase,
    lane: z.enum(['cc64', 'cc66', 'cc67'], 'must be "cc64", "cc66" or "cc67"').default('cc64'),
    op: z.literal(op),
    ...shape,
  });

const schema = z.discriminatedUnion('op', [
  pedalOp('shift', { ms }),
  pedalOp('extend', { ms }),
  pedalOp('repedal', { by: z.enum(['harmony', 'bar'], 'must be "harmony" or "bar"').default('harmony') }),
  pedalOp('fromLengths', {}),
  pedalOp('draw', { spans: z.array(pressSchema).max(1e5).default([]) }),
  pedalOp('remove', {}),
]);

export type PedalStep = z.infer<typeof schema>;

/**
 * Syncopated pedalling: up with the new harmony, down again this long after it (common practice: just after the note,
 * up to some 200 ms).
 */
export const PRESS_AFTER_SECONDS = 0.06;

function apply(material: Material, step: PedalStep, context: StepContext, touched: Uint8Array): Material {
  if (step.op === 'fromLengths')
    return pedalFromLengths(material, step, context, touched, PRESS_AFTER_SECONDS);
  const { notes } = material;
  const regions = regionsOf(step.where, notes, touched, context.timeline);
  const mine = (press: PedalSpan) => isInside(regions, press.start);
  const changes = laneChannels(material, step.lane, step.where, context.channel).flatMap((channel) => {
    const points = readLane(material.events, step.lane, channel);
    const spans = pedalSpans(points);
    if (points.length === 0 && step.op !== 'repedal' && step.op !== 'draw') return [];
    if (step.op === 'shift' || step.op === 'extend')
      return step.ms === 0
        ? []
        : [{ lane: step.lane, channel, points: moved(points, spans, mine, step, context.timeline) }];
    if (step.op === 'remove') return [{ lane: step.lane, channel, points: pedalLifted(points, regions) }];
    const fresh = step.op === 'draw' ? step.spans : proposed(notes, step.by, regions, context.timeline);
    if (step.op === 'draw' && fresh.length === 0) return [];
    const inWay = step.op === 'draw' ? underPresses(fresh) : (at: number) => isInside(regions, at);
    return [{ lane: step.lane, channel, points: replaced(points, spans, inWay, fresh) }];
  });
  const events = writeLanes(material.events, changes);
  return events === material.events ? material : { ...material, events };
}

/**
 * Presses later or earlier as a whole, or held longer or shorter; half-pedal values within go along. A press never
 * reaches into the next and lasts a tick at least.
 */
function moved(
  points: LanePoints,
  spans: readonly PedalSpan[],
  mine: (press: PedalSpan) => boolean,
  step: Extract<PedalStep, { op: 'shift' | 'extend' }>,
  { tempo }: Timeline,
): LanePoints {
  const later = (at: number) =>
    Math.max(0, secondsToTicks(tempo, ticksToSeconds(tempo, at) + step.ms / 1000));
  const ticks = points.tick.slice();
  for (const press of spans) {
    if (!mine(press)) continue;
    for (let row = press.first; row < press.stop; row++)
      if (step.op === 'shift' || row === press.stop - 1) ticks[row] = later(points.tick[row]);
  }
  // What comes later in the lane must not come before what it followed.
  spans.forEach((press, index) => {
    const release = press.stop - 1;
    if (release <= press.first) return;
    const next = spans[index + 1];
    const limit = next ? ticks[next.first] : Infinity;
    if (press.end !== Infinity)
      ticks[release] = Math.max(ticks[press.first] + 1, Math.min(ticks[release], limit));
    for (let row = press.first + 1; row < release; row++) ticks[row] = Math.min(ticks[row], ticks[release]);
  });
  const order = Array.from(ticks.keys()).sort((a, b) => ticks[a] - ticks[b] || a - b);
  return pickPoints({ ...points, tick: ticks }, order);
}

/**
 * Presses proposed from the harmony or the bars: each from just after a change up to the next change, the last to the
 * last note's end.
 */
function proposed(
  notes: NoteTable,
  by: 'harmony' | 'bar',
  regions: ReturnType<typeof regionsOf>,
  timeline: Timeline,
): [number, number][] {
  const { tempo } = timeline;
  let last = 0;
  for (let row = 0; row < notes.length; row++) last = Math.max(last, notes.end[row]);
  const changes = by === 'harmony' ? harmonyChanges(notes, timeline) : barsWithNotes(notes, timeline);
  return changes.flatMap((change, index): [number, number][] => {
    if (!isInside(regions, change)) return [];
    const start = secondsToTicks(tempo, ticksToSeconds(tempo, change) + PRESS_AFTER_SECONDS);
    const end = Math.min(changes[index + 1] ?? last, last, regionAt(regions, change)?.[1] ?? Infinity);
    return end > start + 1 ? [[start, end]] : [];
  });
}

/** The starts of the musical bars of the notes, the first of them where its first note is. */
function barsWithNotes(notes: NoteTable, timeline: Timeline): number[] {
  const barOf = createMusicalBars(timeline);
  const places = musicalPlaces(notes.start, timeline);
  const starts: number[] = [];
  for (let row = 0; row < notes.length; row++) {
    const { start } = barNumbered(timeline.meter, barOf(places[row]));
    if (starts.length === 0 || start > starts[starts.length - 1])
      starts.push(starts.length === 0 ? notes.start[row] : start);
  }
  return starts;
}

function placedPresses(step: PedalStep, placing: Placing): PedalStep {
  if (step.op !== 'draw') return step;
  const spans = step.spans.flatMap((press): Press[] => {
    const [start, end] = [placeAt(placing, startOf(press)), placeAt(placing, endOf(press))];
    // What lies wholly before the start is pressed no more.
    if (start >= end) return [];
    return [Array.isArray(press) ? [start, end] : { ...press, start, end }];
  });
  return { ...step, spans };
}

function describe(step: PedalStep): string {
  const lane = step.lane === 'cc64' ? '' : `${step.lane}: `;
  if (step.op === 'repedal') return `${lane}re-pedal at ${step.by === 'harmony' ? 'chord changes' : 'bars'}`;
  if (step.op === 'draw')
    return `${lane}${step.spans.length === 1 ? '1 press' : `${step.spans.length} presses`}`;
  if (step.op === 'remove') return `${lane}removed`;
  if (step.op === 'fromLengths') return `${lane}turn long notes into pedal`;
  const by = `${step.ms > 0 ? '+' : step.ms < 0 ? '−' : ''}${Math.abs(step.ms)} ms`;
  return step.op === 'shift' ? `${lane}moved ${by}` : `${lane}released ${by}`;
}

/** Moves, holds, renews or removes presses of the sustain pedal. */
export const pedal: StepKind<PedalStep> = {
  kind: 'pedal',
  title: 'Pedal',
  work: 'controllers',
  hint: 'Move, hold, renew or remove the pedal',
  schema,
  start: ({ facts }) => (facts.lanes.includes('cc64') ? { op: 'shift', ms: 0 } : { op: 'repedal' }),
  mapTicks: placedPresses,
  mapIds: namesNoNotes,
  apply,
  describe,
  measure: () => 'presses',
  lanes: ({ lane }) => [lane],
  readsChannel: ({ op }) => (op === 'fromLengths' ? ['events', 'notes'] : []),
  takesPressesOut: ({ op }) => op === 'remove',
};
