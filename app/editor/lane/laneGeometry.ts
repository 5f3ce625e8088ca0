import { footMoves, programName, type LanePoints, type PedalSpan, type LaneView } from '@ordle/core';

/** Room above and below the curve of a lane, in CSS pixels. */
const PAD = 8;

/** Where a value stands in a lane of some height, from its top. */
export function yOfValue(
  { low, high }: Pick<LaneView, 'low' | 'high'>,
  value: number,
  height: number,
): number {
  return height - PAD - ((value - low) / (high - low)) * (height - 2 * PAD);
}

/** The value at a place in a lane, held to its ends. */
export function valueAtY({ low, high }: Pick<LaneView, 'low' | 'high'>, y: number, height: number): number {
  const value = low + ((height - PAD - y) / (height - 2 * PAD)) * (high - low);
  return Math.min(high, Math.max(low, Math.round(value)));
}

/** Values a scale is marked with: ends and middle, of a bend whole semitones as far as they can be read. */
export function marksOf(
  { lane, low, high }: Pick<LaneView, 'lane' | 'low' | 'high'>,
  height: number,
): number[] {
  if (lane !== 'bend') return height < 44 ? [0, 127] : [0, 64, 127];
  const most = Math.max(1, Math.floor((height - 2 * PAD) / 14 / 2));
  const semitones = Math.floor(high / 100);
  const step = Math.max(1, Math.ceil(semitones / most)) * 100;
  const marks = [0];
  for (let value = step; value <= high; value += step) marks.push(value, -value);
  return marks.filter((value) => value >= low && value <= high).sort((a, b) => a - b);
}

/** A value read off at a place: a program by its number from 1 and its General MIDI name, else as on the scale. */
export function readOut(lane: string, value: number): string {
  if (lane === 'program') return `${value + 1} ${programName(value)}`;
  return `${valueInWords(lane, value)}${lane === 'bend' ? ' semitones' : ''}`;
}

/** A value for people: of a bend in semitones. */
export function valueInWords(lane: string, value: number): string {
  if (lane !== 'bend') return String(Math.round(value));
  const semitones = value / 100;
  const words = Number(semitones.toFixed(2));
  return `${words > 0 ? '+' : words < 0 ? '−' : ''}${Math.abs(words)}`;
}

const spansByPoints = new WeakMap<LanePoints, PedalSpan[]>();

/**
 * The presses in the points of a pedal, half presses among them; worked out once for each list of points, since
 * painting asks for them at every frame.
 */
export function pressesIn(points: LanePoints): PedalSpan[] {
  let spans = spansByPoints.get(points);
  if (!spans) spansByPoints.set(points, (spans = footMoves(points)));
  return spans;
}

/** Whether two lists hold the same points: the engine sends them anew with every view. */
export function samePoints(a: LanePoints, b: LanePoints): boolean {
  if (a.length !== b.length) return false;
  for (let row = 0; row < a.length; row++)
    if (a.tick[row] !== b.tick[row] || a.value[row] !== b.value[row]) return false;
  return true;
}
