import { barNumbered, bpmOf, rampAt, type TempoChange, type TempoEntry, type Timeline } from '@ordle/core';

/** What of a tempo map is drawn where: ticks along, quarters a minute up. Pixels. */
export interface CurveShape {
  width: number;
  height: number;
  endTick: number;
  low: number;
  high: number;
}

/** Room for the bar numbers above, and around the highest and the lowest tempo. */
export const TOP = 22;
const PAD = 14;
export const LEFT = 44;

/** The scale that holds some tempos, a little wider than they are. */
export function shapeOf(
  tempos: readonly TempoChange[],
  width: number,
  height: number,
  endTick: number,
): CurveShape {
  const bpms = tempos.map(({ microsecondsPerQuarter }) => bpmOf(microsecondsPerQuarter));
  const [least, most] = [Math.min(...bpms), Math.max(...bpms)];
  const room = Math.max(8, (most - least) * 0.25);
  return { width, height, endTick, low: Math.max(1, least - room), high: most + room };
}

export const xOf = (tick: number, { width, endTick }: CurveShape) => LEFT + (tick / endTick) * (width - LEFT);
export const tickAt = (x: number, { width, endTick }: CurveShape) =>
  Math.max(0, ((x - LEFT) / (width - LEFT)) * endTick);
export const yOf = (bpm: number, { height, low, high }: CurveShape) =>
  TOP + PAD + ((high - bpm) / (high - low)) * (height - TOP - 2 * PAD);
export const bpmAt = (y: number, { height, low, high }: CurveShape) =>
  high - ((y - TOP - PAD) / (height - TOP - 2 * PAD)) * (high - low);

/** Places a ramp that is no straight line is drawn through. */
const RAMP_POINTS = 24;

/** The tempos as an SVG path: a stair, and what is a ramp as the line it stands for. */
export function pathOf(entries: readonly TempoEntry[], shape: CurveShape): string {
  const x = (tick: number) => xOf(tick, shape).toFixed(1);
  const y = (bpm: number) => yOf(bpm, shape).toFixed(1);
  const parts = entries.map(({ tick, bpm, ramp }, at) => {
    const begun = at === 0 ? `M${x(tick)},${y(bpm)}` : `H${x(tick)}V${y(bpm)}`;
    if (!ramp) return begun;
    const count = ramp.shape === 'line' ? 1 : RAMP_POINTS;
    const line = Array.from({ length: count }, (_, point) => {
      const share = (point + 1) / count;
      const at = ramp.from + (ramp.to - ramp.from) * share;
      return `L${x(at)},${y(ramp.fromBpm + (ramp.toBpm - ramp.fromBpm) * rampAt(ramp.shape, share))}`;
    });
    return begun + line.join('');
  });
  return `${parts.join('')}H${x(shape.endTick)}`;
}

/** Bars between whose numbers there is room, with where their lines are. */
export function barLines({ meter }: Timeline, shape: CurveShape): { bar: number; x: number }[] {
  const barPixels = (meter.barTicks[0] / shape.endTick) * (shape.width - LEFT);
  const every =
    [1, 2, 4, 8, 16, 32, 64, 128, 256, 512, 1024, 2048, 4096].find((each) => each * barPixels >= 44) ?? 8192;
  const lines: { bar: number; x: number }[] = [];
  for (let bar = 1; ; bar += every) {
    const { start } = barNumbered(meter, bar);
    if (start >= shape.endTick) return lines;
    lines.push({ bar, x: xOf(start, shape) });
  }
}

/** A few round tempos across the scale. */
export function bpmLines({ low, high }: CurveShape): number[] {
  const step = [1, 2, 5, 10, 20, 50, 100, 200, 500].find((each) => (high - low) / each <= 6) ?? 1000;
  const lines: number[] = [];
  for (let bpm = Math.ceil(low / step) * step; bpm <= high; bpm += step) lines.push(bpm);
  return lines;
}
