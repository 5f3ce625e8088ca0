import {
  PEDAL_LANES,
  filterPoints,
  joinPoints,
  pointsOf,
  readLane,
  restingRaw,
  SET_UP_LANES,
  writeLanes,
  type LaneChange,
  type LanePoints,
} from '../curves';
import { laneName, type EventColumns } from '../midi';
import { greatestOf, leastOf, type Material, type NoteTable } from '../model';
import { nameOfNoteValue } from '../time';
import { createPointBudget, type PointBudget } from './bounds';
import { placeAt, type Placing } from './placing';
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
import { laneChannels } from './laneChannels';
import { laneUnit, type LaneUnit } from './laneUnit';
import { markedDynamics, markedVelocities } from './dynamics';
import { finite, isInside, regionsOf, type Regions } from './regions';
import { hasPointAt, heldBefore, heldFrom, leavingOf, pedalLifted, withSeams, type Seam } from './seams';
import { namesNoNotes, type StepContext, type StepKind, type StepCommon } from './stepKind';

function apply(material: Material, step: CurveStep, context: StepContext, touched: Uint8Array): Material {
  const { timeline, channel } = context;
  if (step.op === 'marks' && step.lane === 'velocity') {
    const notes = markedVelocities(material.notes, step.marks, step.table, touched, timeline);
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
  const unit = laneUnit(events, step.lane, channel);
  const points = valuesOf(events, step.lane, channel, unit);
  const creates = step.op === 'ramp' || step.op === 'wave';
  if (points.length === 0 && !creates && step.op !== 'draw' && step.op !== 'marks') return [];
  // Where it was named, not where there happens to be something.
  const bounded = regions.filter(([from, to]) => Number.isFinite(from) && Number.isFinite(to));
  const resting = unit.of(restingRaw(step.lane), 0);
  const curve: Curve = {
    points,
    regions: creates ? finite(regions, ...extent(notes, points)) : regions,
    timeline,
    resting,
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
    // What held into a region from before is content of it.
    const content = joinPoints(inside(curve), pointsOf(enteringIn(points, bounded)));
    const moved = { ...converted(content, unit, target), row: new Int32Array(content.length).fill(-1) };
    const there = valuesOf(events, step.to, channel, target);
    const left = withoutRange(there, moved, regions);
    const laid = joinPoints(left, moved);
    const rest = target.of(restingRaw(step.to), 0);
    return [
      write(step.to, target, withSeams(laid, leavingOf(there, bounded, rest), rest)),
      ...(step.op === 'convert'
        ? [write(step.lane, unit, withSeams(outside(curve), leavingOf(points, bounded, resting), resting))]
        : []),
    ];
  }
  if (step.op === 'remove' && PEDAL_LANES.has(step.lane))
    return [write(step.lane, unit, pedalLifted(points, regions))];
  const result = withSeams(
    shaped(curve, step),
    enteringAfter(points, bounded, changeOf(step, unit)),
    resting,
  );
  // What was drawn ends a tick after its last point, so that this is heard.
  const rewritten = step.op === 'draw' ? drawnStretch(step.points) : bounded;
  const leaving = leavingOf(points, rewritten, resting);
  // A single point drawn where nothing held is set to hold on.
  const holdsOn =
    step.op === 'draw' && step.points.length === 1 && heldFrom(points, leaving[0].tick) === null;
  return [write(step.lane, unit, withSeams(result, holdsOn ? [] : leaving, resting))];
}

/** The values that hold into regions from before, where no point stands at their start. */
function enteringIn(points: LanePoints, regions: Regions): Seam[] {
  return regions.flatMap(([from]) => {
    const value = heldBefore(points, from);
    return value === null || hasPointAt(points, from) ? [] : [{ tick: from, value }];
  });
}

/** What a step that changes each value makes of those that hold into its regions. */
function enteringAfter(
  points: LanePoints,
  regions: Regions,
  change: ((value: number) => number) | null,
): Seam[] {
  return change ? enteringIn(points, regions).map(({ tick, value }) => ({ tick, value: change(value) })) : [];
}

/** From the first drawn point to a tick after the last. */
function drawnStretch(drawn: readonly { at: number }[]): [number, number][] {
  if (drawn.length === 0) return [];
  const at = ({ at: tick }: { at: number }) => tick;
  return [[leastOf(drawn, at), greatestOf(drawn, at) + 1]];
}

/** What a step does to each value by itself, within what the lane can hold; null for one that does something else. */
function changeOf(
  step: CurveStep,
  { low, high }: Pick<Curve, 'low' | 'high'>,
): ((value: number) => number) | null {
  const held = (change: (value: number) => number) => (value: number) =>
    Math.min(high, Math.max(low, change(value)));
  switch (step.op) {
    case 'scale':
      return held((value) => (value * step.percent) / 100);
    case 'add':
      return held((value) => value + step.amount);
    case 'limit':
      return held((value) => Math.min(step.range[1], Math.max(step.range[0], value)));
    case 'invert':
      // A bend turns round its centre, others round the middle of 0 to 127.
      return held((value) => low + high - value);
    default:
      return null;
  }
}

function shaped(curve: Curve, step: Exclude<CurveStep, { op: 'convert' | 'copy' }>): LanePoints {
  switch (step.op) {
    case 'scale':
    case 'add':
    case 'limit':
    case 'invert':
      return mapped(curve, changeOf(step, curve) ?? ((value) => value));
    case 'smooth':
      return smoothedOver(curve, step.ms);
    case 'thin':
      return thinnedOver(curve, step);
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

/**
 * Values of one lane as those of another: controllers and pressure as they are, a bend's whole range on 0 to 127 with
 * its centre at 64.
 */
function converted(points: LanePoints, from: LaneUnit, to: LaneUnit): LanePoints {
  if (from.low === to.low) return points;
  const value = points.value.map((each) => {
    if (from.low < 0) return Math.min(127, Math.max(0, 64 + (each / from.high) * (each < 0 ? 64 : 63)));
    return ((each - 64) / (each < 64 ? 64 : 63)) * to.high;
  });
  return { ...points, value };
}

/** The points of a lane with their values in its unit. */
function valuesOf(events: EventColumns, lane: string, channel: number, unit: LaneUnit): LanePoints {
  const raw = readLane(events, lane, channel);
  return { ...raw, value: raw.value.map((value, row) => unit.of(value, raw.tick[row])) };
}

/**
 * The points of the lane that is written to, without those in the way: inside the regions, or between the first and
 * last that come.
 */
function withoutRange(points: LanePoints, moved: LanePoints, regions: Regions): LanePoints {
  const hull: Regions = moved.length === 0 ? [] : [[moved.tick[0], moved.tick[moved.length - 1] + 1e-9]];
  const bounded = regions.every(([from, to]) => Number.isFinite(from) && Number.isFinite(to))
    ? regions
    : hull;
  return filterPoints(points, (tick) => !isInside(bounded, tick));
}

function placedCurve(step: CurveStep, placing: Placing): CurveStep {
  const placed = <P extends { at: number }>(points: readonly P[]): P[] =>
    points.map((point) => ({ ...point, at: placeAt(placing, point.at) }));
  if (step.op === 'marks') return { ...step, marks: placed(step.marks) };
  return step.op === 'draw' ? { ...step, points: placed(step.points) } : step;
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

/** Controllers that are on or off, or set something up: nothing to smooth. */
const SWITCHES: ReadonlySet<string> = new Set([...SET_UP_LANES, ...PEDAL_LANES, 'cc65']);

export const isCurve = (step: StepCommon): step is CurveStep => step.kind === 'curve';

/** Shapes a controller, the pitch bend or the channel pressure. */
export const curve: StepKind<CurveStep> = {
  kind: 'curve',
  title: 'Curve',
  work: 'controllers',
  hint: 'Shape a controller, bend or pressure',
  schema: curveSchema,
  // Smoothing what is there, expression before the lane with most points; a lane that holds nothing can only be drawn.
  start({ facts }) {
    const shapeable = facts.lanes.filter((each) => !SWITCHES.has(each));
    const lane = shapeable.includes('cc11') ? 'cc11' : shapeable.at(0);
    return lane ? { lane, op: 'smooth', ms: 60 } : { lane: 'cc11', op: 'ramp', from: 64, to: 110 };
  },
  mapTicks: placedCurve,
  mapIds: namesNoNotes,
  apply,
  describe,
  measure: ({ lane }) => (lane === 'velocity' ? 'evenness' : 'points'),
  values: ({ lane }) => (lane === 'velocity' ? 'velocity' : null),
  // Velocities have their lane in the editor itself.
  lanes: (step) =>
    [step.lane, ...(step.op === 'convert' || step.op === 'copy' ? [step.to] : [])].filter(
      (lane) => lane !== 'velocity',
    ),
};
