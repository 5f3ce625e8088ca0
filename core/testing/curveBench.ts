import { pointsOf, readLane, writeLanes } from '../curves';
import { noteTableOf, type Material } from '../model';
import { applyStep, createStep, type CurveStep } from '../steps';
import { context, noEvents } from './stepBench';

/** Settings of a curve step as a recipe has them. */
export type CurveSettings = { op: CurveStep['op'] } & Record<string, unknown>;

/** A curve step of some settings. */
export const curve = (settings: CurveSettings) => createStep('curve', settings as Partial<CurveStep>);

/** Material with points of a lane on channel 1: controllers and pressure by value, bends by raw value. */
export function laneOf(
  lane: string,
  list: [tick: number, value: number][],
  notes: Material['notes'] = noteTableOf([]),
): Material {
  const points = pointsOf(list.map(([tick, value]) => ({ tick, value })));
  return { notes, events: writeLanes(noEvents, [{ lane, channel: 0, points }]) };
}
/** The points of the lane that was written, after a curve step. */
export const pointsAfter = (material: Material, settings: CurveSettings, lane = 'cc11') => {
  const { events } = applyStep(material, curve({ lane, ...settings }), { ...context, channel: 0 });
  const { tick, value } = readLane(
    events,
    (settings.to as string | undefined) && settings.op !== 'ramp' ? String(settings.to) : lane,
    0,
  );
  return Array.from(tick, (at, row): [number, number] => [at, value[row]]);
};
export const valuesAfter = (material: Material, settings: CurveSettings, lane = 'cc11') =>
  pointsAfter(material, settings, lane).map(([, value]) => value);

/** Four points of expression. */
export const FOUR = laneOf('cc11', [[0, 10], [960, 64], [3840, 100], [5000, 127]]); // prettier-ignore
