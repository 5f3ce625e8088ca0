import { QUARTER, SMALLEST, plainValueOf } from './units';

/** What a bar is divided by, as a reader counts it: every line that must not be hidden. */
export interface BarLines {
  units: number;
  /** Starts of its beats, 0 first. */
  beats: readonly number[];
  /** The middle of a bar of four beats, which nothing hides; null where there is none. */
  middle: number | null;
  /** Of each beat, whether it is divided by three, as in 6/8. */
  threes: readonly boolean[];
}

/** Stretches of a bar that are divided otherwise: so many (`lines`) in equal parts. */
export interface TupletSpan {
  from: number;
  to: number;
  lines: number;
}

/** The lines of a bar of some beats, by their lengths and by which of them are divided by three. */
export function barLinesOf(beats: readonly number[], threes: readonly boolean[]): BarLines {
  const starts: number[] = [];
  let units = 0;
  for (const length of beats) {
    starts.push(units);
    units += length;
  }
  const even = beats.length === 4 && beats.every((length) => length === beats[0]);
  return { units, beats: starts, middle: even ? units / 2 : null, threes };
}

/**
 * Cuts a length into written values, each one value with a dot or none: nothing hides the middle of four beats, nor a
 * beat but where the value starts on one or is a plain syncopation of halves of beats; rests hide less than notes.
 * The usual rules of engraving, from memory. `from` and `to` are within the bar, on multiples of the smallest value.
 */
export function valuesOf(from: number, to: number, bar: BarLines, isRest: boolean): [number, number][] {
  const values: [number, number][] = [];
  const waiting: [number, number][] = [[from, to]];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const [start, end] = next;
    if (end - start <= SMALLEST || isAllowed(start, end, bar, isRest)) {
      if (end > start) values.push(next);
      continue;
    }
    const cut = strongestWithin(start, end, bar);
    waiting.push([cut, end], [start, cut]);
  }
  return values;
}

/** The beat a place lies in. */
function beatAt({ beats, units, threes }: BarLines, place: number) {
  const index = beats.findLastIndex((beat) => beat <= place);
  const start = beats[index];
  return { index, start, length: (beats[index + 1] ?? units) - start, isThree: threes[index] };
}

function isAllowed(from: number, to: number, bar: BarLines, isRest: boolean): boolean {
  const value = plainValueOf(to - from);
  if (!value) return false;
  const { units, beats, middle } = bar;
  const { isThree } = beatAt(bar, from);
  const isBeat = (place: number) => place === units || beats.includes(place);
  // Only what begins the bar goes over the middle.
  if (middle !== null && from < middle && to > middle)
    return from === 0 && isBeat(to) && (!isRest || to === units);
  const crossed = beats.filter((beat) => beat > from && beat < to);
  if (crossed.length === 0) {
    // Within a beat: a rest with a dot hides where its half is, but where three are one beat.
    if (isRest && value.dots === 1 && !isThree) return false;
    return !hidesPart(from, to, bar, isRest);
  }
  if (isRest) {
    if (!isBeat(from) || !isBeat(to)) return false;
    return isThree ? from === 0 && to === units : value.dots === 0 && startsPair(from, bar);
  }
  if (isBeat(from) && isBeat(to)) return true;
  if (bar.threes.some((each) => each)) return false;
  // A dotted quarter from a beat, or to one; a quarter between two halves of beats.
  const half = QUARTER / 2;
  const onHalves = from % half === 0 && to % half === 0;
  return onHalves && crossed.length === 1 && (isBeat(from) || isBeat(to) || value.dots === 0);
}

/** In two beats that belong together a rest may last both. */
const startsPair = (from: number, { beats, middle }: BarLines): boolean =>
  middle !== null ? beats.indexOf(from) % 2 === 0 : from === 0 && beats.length === 2;

/** Whether a value within a beat goes over the half or the thirds of it from a place that is none of them. */
function hidesPart(from: number, to: number, bar: BarLines, isRest: boolean): boolean {
  const { start, length, isThree } = beatAt(bar, from);
  if (isThree) {
    const third = length / 3;
    const crosses = Math.ceil((to - start) / third) - 1 > Math.floor((from - start) / third);
    if (!crosses || (from - start) % third === 0) return isRest && crosses && from !== start;
    return to - from !== length / 2 && to - from !== length / 4;
  }
  const half = start + length / 2;
  if (!(from < half && to > half)) return false;
  return isRest ? from !== start : from !== start && to !== start + length && to - from !== length / 2;
}

/** The line inside that a cut hurts least: the middle, then a beat, then halves of beats and so on. */
function strongestWithin(from: number, to: number, bar: BarLines): number {
  const { beats, middle } = bar;
  if (middle !== null && from < middle && to > middle) return middle;
  const inside = beats.filter((beat) => beat > from && beat < to);
  if (inside.length > 0) return beats.includes(from) ? inside[inside.length - 1] : inside[0];
  const { start, length, isThree } = beatAt(bar, from);
  for (let parts = isThree ? 3 : 2; length % (parts * SMALLEST) === 0; parts *= 2) {
    const step = length / parts;
    const first = start + (Math.floor((from - start) / step) + 1) * step;
    // From a line on: as much of it as there is before the end.
    if (first < to)
      return (from - start) % step === 0 ? start + Math.floor((to - start - 1) / step) * step : first;
  }
  return from + SMALLEST;
}
