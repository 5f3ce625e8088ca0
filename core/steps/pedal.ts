import { z } from 'zod';
import {
  pedalSpans,
  pedalledEnds,
  pickPoints,
  pointsOf,
  readLane,
  writeLanes,
  type LaneChange,
  type LanePoints,
  type PedalSpan,
} from '../curves';
import { withColumns, type Material, type NoteTable } from '../model';
import {
  barNumbered,
  createMusicalBars,
  firstAtOrAfter,
  lastAtOrBefore,
  musicalPlaces,
  secondsToTicks,
  ticksToSeconds,
  type Timeline,
} from '../time';
import { laneChannels } from './curve';
import { harmonyChanges } from './harmony';
import { holdsOfLengths, verifiedHolds, type Hold } from './pedalFromLengths';
import { channelEvents, eventsOf } from './channelEvents';
import { isInside, regionAt, regionsOf } from './regions';
import { numberSetting } from './numberSettings';
import { placeAt, type Placing } from './placing';
import { stepBase } from './settings';
import { namesNoNotes, type StepContext, type StepKind } from './stepKind';

const tick = z.number('must be a tick').min(0, 'must be 0 or more').max(1e9, 'must be at most 1000000000');
const span = z
  .union(
    [
      z.tuple([tick, tick]),
      z.strictObject({
        start: tick,
        end: tick,
        depth: z.int().min(1, 'must be 1 to 127').max(127, 'must be 1 to 127').default(127),
      }),
    ],
    'must be a press like [0, 480] or {"start": 0, "end": 480, "depth": 100}',
  )
  .refine((press) => (Array.isArray(press) ? press[0] < press[1] : press.start < press.end), {
    message: 'the release must come after the press',
  });

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
  pedalOp('draw', { spans: z.array(span).max(1e5).default([]) }),
  pedalOp('remove', {}),
]);

export type PedalStep = z.infer<typeof schema>;

/**
 * Syncopated pedalling: up with the new harmony, down again this long after it (common practice: just after the note,
 * up to some 200 ms).
 */
export const PRESS_AFTER_SECONDS = 0.06;

function apply(material: Material, step: PedalStep, context: StepContext, touched: Uint8Array): Material {
  if (step.op === 'fromLengths') return pedalled(material, step, context, touched);
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
    const fresh =
      step.op === 'remove'
        ? []
        : step.op === 'draw'
          ? step.spans
          : proposed(notes, step.by, regions, context.timeline);
    if (step.op === 'draw' && fresh.length === 0) return [];
    const inWay = step.op === 'draw' ? underPresses(fresh) : (at: number) => isInside(regions, at);
    return [{ lane: step.lane, channel, points: replaced(points, spans, inWay, fresh) }];
  });
  const events = writeLanes(material.events, changes);
  return events === material.events ? material : { ...material, events };
}

/**
 * Long notes as shorter ones under presses that hold them as long as they were. A press under which anything would
 * sound longer or shorter is left out.
 */
function pedalled(
  material: Material,
  step: PedalStep,
  { timeline, channel: only, beside }: StepContext,
  touched: Uint8Array,
): Material {
  const { notes, events } = material;
  const others = eventsOf(beside);
  const sounded = pedalledEnds(notes, notes.end, channelEvents(events, others));
  const changes: LaneChange[] = [];
  const end = notes.end.slice();
  for (const channel of laneChannels(material, step.lane, step.where, only)) {
    const points = readLane(events, step.lane, channel);
    const spans = pedalSpans(points);
    const withHolds = (holds: readonly Hold[]) => {
      const presses = holds.map(({ press }) => press);
      const ends = notes.end.slice();
      for (const { rows } of holds)
        for (const { row, end: early } of rows) ends[row] = Math.min(ends[row], early);
      return { ends, points: replaced(points, spans, underPresses(presses), presses) };
    };
    const holds = verifiedHolds(
      holdsOfLengths(notes, touched, channel, PRESS_AFTER_SECONDS, timeline),
      (list) => {
        const tried = withHolds(list);
        const written = writeLanes(events, [{ lane: step.lane, channel, points: tried.points }]);
        const sounds = pedalledEnds(notes, tried.ends, channelEvents(written, others));
        return Array.from(notes.id.keys()).filter(
          (row) => notes.channel[row] === channel && Math.abs(sounds[row] - sounded[row]) > 1,
        );
      },
      sounded,
    );
    if (holds.length === 0) continue;
    const made = withHolds(holds);
    made.ends.forEach((tick, row) => (end[row] = Math.min(end[row], tick)));
    changes.push({ lane: step.lane, channel, points: made.points });
  }
  const written = writeLanes(events, changes);
  return written === events ? material : { notes: withColumns(notes, { end }), events: written };
}

type Press = z.infer<typeof span>;
const startOf = (press: Press) => (Array.isArray(press) ? press[0] : press.start);
const endOf = (press: Press) => (Array.isArray(press) ? press[1] : press.end);
const depthOf = (press: Press) => (Array.isArray(press) ? 127 : press.depth);

/** A test whether a tick lies under one of some presses, both ends included. */
function underPresses(presses: readonly Press[]): (at: number) => boolean {
  const sorted = merged(presses);
  const starts = Float64Array.from(sorted, ({ start }) => start);
  return (at) => {
    const next = firstAtOrAfter(starts, at);
    return starts[next] === at || (next > 0 && at <= sorted[next - 1].end);
  };
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
 * The lane without the presses that begin in the way, and with others in their place. A press that reaches in from
 * before ends where the next new one begins.
 */
function replaced(
  points: LanePoints,
  spans: readonly PedalSpan[],
  inWay: (tick: number) => boolean,
  presses: readonly Press[],
): LanePoints {
  const fresh = merged(presses);
  const starts = Float64Array.from(fresh, ({ start }) => start);
  const list: { tick: number; value: number; row: number }[] = [];
  const keep = (row: number, tick = points.tick[row]) =>
    list.push({ tick, value: points.value[row], row: points.row[row] });
  let row = 0;
  for (const press of spans) {
    // Values under 64 between presses belong to none.
    for (; row < press.first; row++) if (!inWay(points.tick[row])) keep(row);
    row = press.stop;
    if (inWay(press.start)) continue;
    const at = lastAtOrBefore(starts, press.start);
    const next = (starts[at] > press.start ? starts[at] : starts[at + 1]) ?? Infinity;
    for (let own = press.first; own < press.stop; own++) {
      const isRelease = own === press.stop - 1 && press.end !== Infinity;
      if (isRelease) keep(own, Math.min(points.tick[own], next));
      else if (points.tick[own] < next) keep(own);
    }
    if (press.end === Infinity && next !== Infinity) list.push({ tick: next, value: 0, row: -1 });
  }
  for (; row < points.length; row++) if (!inWay(points.tick[row])) keep(row);
  for (const { start, end, depth } of fresh)
    list.push({ tick: start, value: depth, row: -1 }, { tick: end, value: 0, row: -1 });
  // At one tick a release comes before a press, or the press would be lost.
  return pointsOf(list.sort((a, b) => a.tick - b.tick || a.value - b.value));
}

/** Presses in order, those that overlap as one. */
function merged(presses: readonly Press[]): { start: number; end: number; depth: number }[] {
  const sorted = presses
    .map((press) => ({ start: startOf(press), end: endOf(press), depth: depthOf(press) }))
    .sort((a, b) => a.start - b.start);
  const result: typeof sorted = [];
  for (const press of sorted) {
    const last = result.at(-1);
    if (last && press.start < last.end) {
      last.end = Math.max(last.end, press.end);
      last.depth = Math.max(last.depth, press.depth);
    } else result.push({ ...press });
  }
  return result;
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
  if (step.op === 'fromLengths') return `${lane}in place of long notes`;
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
  lanes: ({ lane }) => [lane],
  readsChannel: ({ op }) => (op === 'fromLengths' ? 'events' : null),
};
