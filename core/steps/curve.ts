import {
  channelsOfLane,
  filterPoints,
  joinPoints,
  readLane,
  restingRaw,
  writeLanes,
  type LaneChange,
  type LanePoints,
} from '../curves';
import { laneName, type EventColumns } from '../midi';
import type { Material, NoteTable } from '../model';
import { nameOfNoteValue } from '../time';
import { createPointBudget, type PointBudget } from './bounds';
import { CURVE_OPS, curveSchema, type CurveStep } from './curveSettings';
import {
  drawn,
  inside,
  mapped,
  outside,
  ramped,
  smoothedOver,
  snapped,
  thinnedOver,
  waved,
  type Curve,
} from './curveShapes';
import { laneUnit, type LaneUnit } from './laneUnit';
import { markedDynamics, markedVelocities } from './dynamics';
import { finite, isInside, regionsOf, type Regions } from './regions';
import type { StepContext, StepKind } from './stepKind';

/** Channels (0-15) a step on lanes works on: the one its where names, else the part's, else all that the lane or the notes use. */
export function laneChannels(
  { notes, events }: Material,
  lane: string,
  where: { channel?: number },
  channel: number | undefined,
): number[] {
  if (where.channel !== undefined)
    return channel === undefined || channel === where.channel - 1 ? [where.channel - 1] : [];
  if (channel !== undefined) return [channel];
  return [...new Set([...channelsOfLane(events, lane), ...usedChannels(notes)])].sort((a, b) => a - b);
}

function usedChannels(notes: NoteTable): Set<number> {
  return new Set(notes.channel);
}

function apply(material: Material, step: CurveStep, context: StepContext, touched: Uint8Array): Material {
  const { timeline, channel } = context;
  if (step.op === 'marks' && step.lane === 'velocity') {
    const notes = markedVelocities(material.notes, step.marks, step.table, touched);
    return notes === material.notes ? material : { ...material, notes };
  }
  const regions = regionsOf(step.where, material.notes, touched, timeline);
  const budget = createPointBudget(`The curve "${step.op}"`);
  const changes = laneChannels(material, step.lane, step.where, channel).flatMap((each) =>
    changesOf(material, step, regions, context, each, budget),
  );
  const events = writeLanes(material.events, changes);
  return events === material.events ? material : { ...material, events };
}

function changesOf(
  { notes, events }: Material,
  step: CurveStep,
  regions: Regions,
  { timeline }: StepContext,
  channel: number,
  budget: PointBudget,
): LaneChange[] {
  const raw = readLane(events, step.lane, channel);
  const unit = laneUnit(events, step.lane, channel);
  const points: LanePoints = { ...raw, value: raw.value.map((value, row) => unit.of(value, raw.tick[row])) };
  const creates = step.op === 'ramp' || step.op === 'wave';
  if (raw.length === 0 && !creates && step.op !== 'draw' && step.op !== 'marks') return [];
  const curve: Curve = {
    points,
    regions: creates ? finite(regions, ...extent(notes, raw)) : regions,
    timeline,
    resting: unit.of(restingRaw(step.lane), 0),
    low: unit.low,
    high: unit.high,
    step: unit.step,
    budget,
  };
  const write = (lane: string, of: LaneUnit, result: LanePoints): LaneChange => ({
    lane,
    channel,
    points: { ...result, value: result.value.map((value, row) => of.raw(value, result.tick[row])) },
  });
  if (step.op === 'convert' || step.op === 'copy') {
    if (step.to === step.lane) return [];
    const target = laneUnit(events, step.to, channel);
    const moved = {
      ...converted(inside(curve), unit, target),
      row: new Int32Array(inside(curve).length).fill(-1),
    };
    const left = withoutRange(events, step.to, channel, target, moved, regions);
    return [
      write(step.to, target, joinPoints(left, moved)),
      ...(step.op === 'convert' ? [write(step.lane, unit, outside(curve))] : []),
    ];
  }
  return [write(step.lane, unit, shaped(curve, step))];
}

function shaped(curve: Curve, step: Exclude<CurveStep, { op: 'convert' | 'copy' }>): LanePoints {
  switch (step.op) {
    case 'scale':
      return mapped(curve, (value) => (value * step.percent) / 100);
    case 'add':
      return mapped(curve, (value) => value + step.amount);
    case 'limit':
      return mapped(curve, (value) => Math.min(step.range[1], Math.max(step.range[0], value)));
    case 'invert':
      // A bend turns round its centre, others round the middle of 0 to 127.
      return mapped(curve, (value) => curve.low + curve.high - value);
    case 'smooth':
      return smoothedOver(curve, step.ms);
    case 'thin':
      return thinnedOver(curve, step.tolerance);
    case 'snap':
      return snapped(curve, step);
    case 'ramp':
      return ramped(curve, step);
    case 'wave':
      return step.depth === 0 ? curve.points : waved(curve, step);
    case 'draw':
      return drawn(curve, step);
    case 'marks':
      return markedDynamics(curve, step.marks, step.table);
    case 'remove':
      return outside(curve);
  }
}

/** First and last tick of the notes and of the points of a lane. */
function extent(notes: NoteTable, points: LanePoints): [number, number] {
  let [first, last] = [Infinity, -Infinity];
  for (let row = 0; row < notes.length; row++) {
    first = Math.min(first, notes.start[row]);
    last = Math.max(last, notes.end[row]);
  }
  if (points.length > 0) {
    first = Math.min(first, points.tick[0]);
    last = Math.max(last, points.tick[points.length - 1]);
  }
  return first === Infinity ? [0, 0] : [first, last];
}

/** Values of one lane as those of another: controllers and pressure as they are, a bend's whole range on 0 to 127 with its centre at 64. */
function converted(points: LanePoints, from: LaneUnit, to: LaneUnit): LanePoints {
  if (from.low === to.low) return points;
  const value = points.value.map((each) => {
    if (from.low < 0) return Math.min(127, Math.max(0, 64 + (each / from.high) * (each < 0 ? 64 : 63)));
    return ((each - 64) / (each < 64 ? 64 : 63)) * to.high;
  });
  return { ...points, value };
}

/** The points of the lane that is written to, without those in the way: inside the regions, or between the first and last that come. */
function withoutRange(
  events: EventColumns,
  lane: string,
  channel: number,
  unit: LaneUnit,
  moved: LanePoints,
  regions: Regions,
): LanePoints {
  const raw = readLane(events, lane, channel);
  const hull: Regions = moved.length === 0 ? [] : [[moved.tick[0], moved.tick[moved.length - 1] + 1e-9]];
  const bounded = regions.every(([from, to]) => Number.isFinite(from) && Number.isFinite(to))
    ? regions
    : hull;
  const left = filterPoints(raw, (tick) => !isInside(bounded, tick));
  return { ...left, value: left.value.map((value, row) => unit.of(value, left.tick[row])) };
}

function describe(step: CurveStep): string {
  const title = CURVE_OPS.find(({ op }) => op === step.op)?.title ?? step.op;
  return `${laneName(step.lane)}: ${title}${settingsInWords(step)}`;
}

function settingsInWords(step: CurveStep): string {
  switch (step.op) {
    case 'scale':
      return ` ${step.percent} %`;
    case 'add':
      return ` ${step.amount}`;
    case 'limit':
      return ` ${step.range[0]} to ${step.range[1]}`;
    case 'smooth':
      return ` ${step.ms} ms`;
    case 'thin':
      return ` within ${step.tolerance}`;
    case 'snap':
      return ` ${nameOfNoteValue(step.grid)}`;
    case 'ramp':
      return ` ${step.from} to ${step.to}`;
    case 'wave':
      return ` ±${step.depth}, ${'hz' in step.rate ? `${step.rate.hz} Hz` : nameOfNoteValue(step.rate.note)}`;
    case 'draw':
      return step.points.length === 1 ? ' 1 point' : ` ${step.points.length} points`;
    case 'marks':
      return ` ${[...step.marks]
        .sort((a, b) => a.at - b.at)
        .map(({ mark, hairpin }) => (hairpin ? `${mark} to` : mark))
        .join(' ')}`;
    case 'convert':
    case 'copy':
      return ` ${laneName(step.to)}`;
    default:
      return '';
  }
}

/** Shapes a controller, the pitch bend or the channel pressure. */
export const curve: StepKind<CurveStep> = {
  kind: 'curve',
  title: 'Curve',
  work: 'controllers',
  hint: 'Shape a controller, bend or pressure',
  schema: curveSchema,
  apply,
  describe,
  values: ({ lane }) => (lane === 'velocity' ? 'velocity' : null),
  // Velocities have their lane in the editor itself.
  lanes: (step) =>
    [step.lane, ...(step.op === 'convert' || step.op === 'copy' ? [step.to] : [])].filter(
      (lane) => lane !== 'velocity',
    ),
};
