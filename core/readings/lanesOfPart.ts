import {
  channelsOfLane,
  largestError,
  largestHeldError,
  readLane,
  restingRaw,
  type LanePoints,
} from '../curves';
import type { Evaluation } from '../evaluate';
import type { EventColumns } from '../midi';
import type { Material } from '../model';
import type { Part } from '../session';
import { laneUnit, type CurveStep } from '../steps';
import type { LaneView, PartView } from './partView';

/** The lanes asked for as they are at a stop, with how they were at the one before for a trace. */
export function lanesOfPart(
  lanes: readonly string[],
  part: Part,
  { stages }: Evaluation,
  stop: number,
  before: number,
  beside: readonly { part: Part; material: Material }[] = [],
): LaneView[] {
  return lanes.map((lane) => {
    const { events } = stages[stop];
    const earlier = stages[before].events;
    const channel = channelOf(events, lane, part.channel - 1);
    const unit = laneUnit(events, lane, channel);
    const points = inUnit(events, lane, channel);
    return {
      lane,
      channel: channel + 1,
      points,
      trace: earlier === events ? null : traceOf(points, inUnit(earlier, lane, channel)),
      low: unit.low,
      high: unit.high,
      resting: unit.of(restingRaw(lane), 0),
      others: beside.flatMap(({ part: { id, name, ink }, material }) => {
        const own = inUnit(material.events, lane, channel);
        return own.length > 0 ? [{ partId: id, name, ink, points: own }] : [];
      }),
    };
  });
}

/** How the lane was, or null where it was the same. */
function traceOf(now: LanePoints, before: LanePoints): LanePoints | null {
  const same =
    now.length === before.length &&
    now.tick.every((tick, row) => tick === before.tick[row] && now.value[row] === before.value[row]);
  return same ? null : before;
}

/** What a curve step does to its lane, in figures. */
export function readCurve(
  step: CurveStep,
  part: Part,
  before: EventColumns,
  after: EventColumns,
): PartView['curve'] {
  if (step.lane === 'velocity') return null;
  const channel = channelOf(before, step.lane, part.channel - 1);
  const [was, is] = [before, after].map((events) => inUnit(events, step.lane, channel));
  const largest =
    step.op !== 'thin'
      ? { error: 0, row: -1 }
      : step.by === 'held'
        ? largestHeldError(was, is)
        : largestError(was, is);
  return {
    before: was.length,
    after: is.length,
    largestError: largest.error,
    errorAt: largest.row < 0 ? null : { at: was.tick[largest.row], value: was.value[largest.row] },
    unit: step.lane === 'bend' ? 'cents' : '',
  };
}

/** The part's own channel where the lane has points there or nowhere, else the first that has. */
function channelOf(events: EventColumns, lane: string, own: number): number {
  const used = channelsOfLane(events, lane);
  return used.length === 0 || used.includes(own) ? own : used[0];
}

function inUnit(events: EventColumns, lane: string, channel: number): LanePoints {
  const raw = readLane(events, lane, channel);
  if (lane !== 'bend') return raw;
  const unit = laneUnit(events, lane, channel);
  return { ...raw, value: raw.value.map((value, row) => unit.of(value, raw.tick[row])) };
}
