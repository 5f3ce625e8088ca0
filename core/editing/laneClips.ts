import { PEDAL_LANES, heldValue, lanesIn, readLane, restingRaw } from '../curves';
import type { EventColumns } from '../midi';
import { rowsNamed, type NoteTable } from '../model';
import { laneUnit, type CurveEdit } from '../steps';
import { firstAtOrAfter } from '../time';
import { goesAlong, pressesInStretch, pressureOf, stretchInLane, stretchesOf } from './along';
import { clipOfPresses, layPressPoints, pedalHand } from './alongPresses';

/**
 * What a lane does in a stretch of time that goes along with some notes: ticks from the first of the notes, values in
 * the lane's unit. The first point stands at `from`, so that the clip says all that is in force within it.
 */
export interface LaneClip {
  lane: string;
  from: number;
  to: number;
  points: { at: number; value: number }[];
}

/**
 * The controllers of some notes, and the pressure on their keys, for the clipboard; lanes in which nothing was ever
 * sent are left out. `channel` is 0-15.
 */
export function clipsOf(
  events: EventColumns,
  notes: NoteTable,
  selected: ReadonlySet<number>,
  channel: number,
): LaneClip[] {
  const rows = rowsNamed(notes.id, selected);
  const stretches = stretchesOf(notes, rows);
  const firstRow = rows.indexOf(1);
  const origin = firstRow < 0 ? 0 : notes.start[firstRow];
  const pressure = pressureOf(events, notes, rows, channel).map(({ pitch, end, points }): LaneClip => {
    const list = points.map(({ at, value }) => ({ at: at - origin, value }));
    return { lane: `key${pitch}`, from: list[0].at, to: end + 1 - origin, points: list };
  });
  const curves = lanesIn(events)
    .filter(({ lane }) => goesAlong(lane))
    .flatMap(({ lane }) => {
      const points = readLane(events, lane, channel);
      if (points.length === 0) return [];
      const unit = laneUnit(events, lane, channel);
      if (PEDAL_LANES.has(lane)) {
        const hand = pedalHand(lane, channel, points);
        return stretches.flatMap((whole): LaneClip[] => {
          const { reach } = stretchInLane(points, notes, rows, whole);
          const list = clipOfPresses(hand, pressesInStretch(points, notes, rows, whole), reach);
          if (list.length === 0) return [];
          const moved = list.map(({ at, value }) => ({ at: at - origin, value }));
          return [{ lane, from: moved[0].at, to: moved[moved.length - 1].at + 1, points: moved }];
        });
      }
      return stretches.map((whole): LaneClip => {
        const { from, reach: to } = stretchInLane(points, notes, rows, whole);
        const first = heldValue(points, from, restingRaw(lane));
        const list = [{ at: from - origin, value: unit.of(first, from) }];
        const stop = firstAtOrAfter(points.tick, to);
        for (let row = firstAtOrAfter(points.tick, from); row < stop; row++)
          if (points.tick[row] > from)
            list.push({ at: points.tick[row] - origin, value: unit.of(points.value[row], points.tick[row]) });
        return { lane, from: from - origin, to: to - origin, points: list };
      });
    });
  return [...curves, ...pressure];
}

/**
 * Lays clips down with the first note's start at tick `at`. At the end of each the value is written that would be in
 * force there without it, so that what follows is as it was. `channel` is 0-15.
 */
export function layClips(
  events: EventColumns,
  clips: readonly LaneClip[],
  at: number,
  channel: number,
): CurveEdit[] {
  return clips.flatMap((clip) => {
    const [from, to] = [at + clip.from, at + clip.to];
    const points = readLane(events, clip.lane, channel);
    if (PEDAL_LANES.has(clip.lane))
      return layPressPoints(
        pedalHand(clip.lane, channel, points),
        clip.points.map((point) => ({ ...point, at: at + point.at })),
      );
    const unit = laneUnit(events, clip.lane, channel);
    const held = (tick: number) => unit.of(heldValue(points, tick, restingRaw(clip.lane)), tick);
    const inWay = firstAtOrAfter(points.tick, from) < firstAtOrAfter(points.tick, to);
    if (!inWay && clip.points.length === 1 && clip.points[0].value === held(from)) return [];
    const laid = clip.points.map((point) => ({
      at: at + point.at,
      value: Math.min(unit.high, Math.max(unit.low, point.value)),
    }));
    return [
      { lane: clip.lane, channel: channel + 1, from, to, points: [...laid, { at: to, value: held(to) }] },
    ];
  });
}
