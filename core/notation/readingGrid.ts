import type { Beat } from './frame';
import { QUARTER, plainValueOf } from './units';

/** A place to be read: when it is struck, in units and real, and what may not share a line with it. */
export interface Struck {
  at: number;
  pitches: readonly number[];
}

/** How a player plays, as far as it is known. */
export interface PlayingHabits {
  /** How far he scatters about the lines, in ms. */
  spreadMs: number;
  /** What a place within a beat costs, by the share of the beat in 48ths; null where nothing is known. */
  placeCosts: Float64Array | null;
  /** Rare divisions are not looked for: they would hide how far the playing is off. */
  isPlain?: boolean;
}

/** How one beat, or two together, are divided. */
export interface ReadBeat {
  /** The first beat and how many. */
  beat: number;
  beats: 1 | 2;
  /** In so many equal parts. */
  lines: number;
}

export interface Reading {
  beats: readonly ReadBeat[];
  /** Where each of the strokes is written, in units from the start of the music. */
  places: Float64Array;
  /** How far each was struck after that, in ms. */
  off: Float64Array;
}

/** What a deviation costs: normal about the line by so many ms where nothing is known, and never more than this. */
export const USUAL_HABITS: PlayingHabits = { spreadMs: 14, placeCosts: null };
const MOST = 40;
/** Two strokes on one line; on one line and of one pitch. */
const [TOGETHER, SAME_PITCH] = [6, 25];
/** A beat of another kind than the one before. */
const CHANGE = 1.5;
/** No line is nearer to the next than this, in ms. */
const LEAST_STEP_MS = 35;
/** Places of a beat that are told apart, and how much is known of them before anything is struck. */
const [PLACES, BEFORE] = [48, 1.5];

/** What a division costs before anything is struck, by the count of lines: a reader would rather not meet it. */
const PRIOR: Record<number, number> = {
  1: 0,
  2: 0.4,
  4: 1.2,
  8: 4.5,
  16: 9,
  3: 2.5,
  6: 5.5,
  5: 10,
  7: 14,
  12: 9,
};
const COMPOUND_PRIOR: Record<number, number> = { 1: 0, 3: 0.4, 6: 1.5, 12: 5, 2: 4, 4: 5 };
/** Three over two beats. */
const ACROSS_PRIOR = 4.5;

type Kind = 'any' | 'even' | 'three' | 'five' | 'seven';
const kindOf = (lines: number, isCompound: boolean): Kind => {
  if (lines === 1) return 'any';
  if (isCompound) return lines % 3 === 0 ? 'even' : 'three';
  if (lines === 5) return 'five';
  if (lines === 7) return 'seven';
  return lines % 3 === 0 ? 'three' : 'even';
};

/** The lines a beat may be divided into: none finer than `finest`, in units. */
function candidatesOf({ isCompound, units, ms }: Beat, finest: number, isPlain: boolean): number[] {
  const simple = isPlain ? [1, 2, 4, 8, 3] : [1, 2, 4, 8, 16, 3, 6, 5, 7];
  const all = isCompound ? [1, 3, 6, 12, 2, 4] : simple;
  return all.filter((lines) => {
    if (lines === 1) return true;
    const step = units / lines;
    // A tuplet is as fine as the plain values it is written in.
    const plain = isCompound || lines % 2 === 0 ? step : (step * lines) / 2 ** Math.floor(Math.log2(lines));
    const written = lines === 6 && !isCompound ? (step * 6) / 4 : plain;
    return (
      written >= finest &&
      ms / lines >= LEAST_STEP_MS &&
      Number.isInteger(step) &&
      plainValueOf(written) !== null
    );
  });
}

interface Choice {
  lines: number;
  beats: 1 | 2;
  kind: Kind;
  cost: number;
  /** Strokes on its first line and on the first of the next beat. */
  first: number[];
  last: number[];
}

/**
 * How strokes are read: the cheapest way to divide the beats (a path over them), each stroke on its nearest line. What
 * a beat costs: how far strokes are from their lines, the logarithm of the count of lines for each stroke (to say
 * which one), what a reader minds about the division, strokes that would share a line, and a change of kind. Minimum
 * description length; the figures by trial. `struck` in order of time.
 */
export function readGrid(
  struck: readonly Struck[],
  beats: readonly Beat[],
  finestOf: (beat: Beat) => number,
  habits: PlayingHabits = USUAL_HABITS,
): Reading {
  const rows = rowsOfBeats(struck, beats);
  const choices = beats.map((beat, index) => {
    const own = candidatesOf(beat, finestOf(beat), habits.isPlain ?? false).map((lines) =>
      choiceOf(struck, rows[index], beat.at, beat.units, beat.ms, lines, 1, beat.isCompound, habits),
    );
    const next = beats[index + 1];
    // Three over two beats of a bar, from an even one on.
    const mayReach =
      next?.bar === beat.bar &&
      !beat.isCompound &&
      beat.units === next.units &&
      ((beat.at - firstOfBar(beats, index).at) / beat.units) % 2 === 0 &&
      beat.units >= QUARTER &&
      rows[index].length + rows[index + 1].length > 1;
    if (mayReach) {
      const both = [...rows[index], ...rows[index + 1]];
      own.push(choiceOf(struck, both, beat.at, 2 * beat.units, beat.ms + next.ms, 3, 2, false, habits));
    }
    return own;
  });
  return backThrough(struck, beats, rows, choices);
}

function firstOfBar(beats: readonly Beat[], index: number): Beat {
  let first = index;
  while (first > 0 && beats[first - 1].bar === beats[index].bar) first--;
  return beats[first];
}

/** The strokes of each beat, by row. */
function rowsOfBeats(struck: readonly Struck[], beats: readonly Beat[]): number[][] {
  const rows = beats.map((): number[] => []);
  let beat = 0;
  struck.forEach(({ at }, row) => {
    while (beat + 1 < beats.length && at >= beats[beat].at + beats[beat].units) beat++;
    rows[beat].push(row);
  });
  return rows;
}

const lineOf = (at: number, from: number, units: number, lines: number): number =>
  Math.min(lines, Math.max(0, Math.round(((at - from) * lines) / units)));

function choiceOf(
  struck: readonly Struck[],
  rows: readonly number[],
  from: number,
  units: number,
  ms: number,
  lines: number,
  beats: 1 | 2,
  isCompound: boolean,
  { spreadMs, placeCosts }: PlayingHabits,
): Choice {
  const kind = beats === 2 ? 'three' : kindOf(lines, isCompound);
  let cost = beats === 2 ? ACROSS_PRIOR : ((isCompound ? COMPOUND_PRIOR : PRIOR)[lines] ?? 9);
  const [first, last]: [number[], number[]] = [[], []];
  let [line, on]: [number, number[]] = [-1, []];
  for (const row of rows) {
    const { at } = struck[row];
    const nearest = lineOf(at, from, units, lines);
    const off = ((at - from) / units - nearest / lines) * ms;
    const place = placeCosts && beats === 1 ? placeCosts[placeIn(nearest / lines)] : Math.log(lines);
    cost += Math.min(MOST, (off / spreadMs) ** 2 / 2) + place;
    if (nearest === line) cost += shared(struck, on, row);
    else [line, on] = [nearest, []];
    on.push(row);
    if (nearest === 0) first.push(row);
    if (nearest === lines) last.push(row);
  }
  return { lines, beats, kind, cost, first, last };
}

/** A share of a beat in 48ths; fifths and sevenths come to the nearest. */
const placeIn = (share: number): number => Math.round(share * PLACES) % PLACES;

/**
 * What it costs to say which place of a beat is meant, from how often each was: the logarithm of its share, with some
 * that every line of a division has before any is struck.
 */
export function placeCostsOf(
  reading: Reading,
  struck: readonly Struck[],
  beats: readonly Beat[],
): Float64Array {
  const counts = new Float64Array(PLACES);
  for (const [lines, weight] of [
    [1, 4],
    [2, 4],
    [4, 3],
    [3, 2],
    [8, 1],
    [6, 1],
    [12, 1],
    [5, 0.5],
    [7, 0.5],
  ] as const)
    // prettier-ignore
    for (let line = 0; line < lines; line++) counts[placeIn(line / lines)] += (BEFORE * weight) / lines;
  let beat = 0;
  let all = counts.reduce((sum, each) => sum + each, 0);
  struck.forEach((_, row) => {
    const at = reading.places[row];
    while (beat + 1 < beats.length && at >= beats[beat].at + beats[beat].units) beat++;
    while (beat > 0 && at < beats[beat].at) beat--;
    counts[placeIn((at - beats[beat].at) / beats[beat].units)]++;
    all++;
  });
  return counts.map((count) => -Math.log(Math.max(count, 1e-3) / all));
}

/** What it costs that a stroke comes to the line others are on. */
const shared = (struck: readonly Struck[], others: readonly number[], row: number): number =>
  others.some((other) => struck[other].pitches.some((pitch) => struck[row].pitches.includes(pitch)))
    ? SAME_PITCH
    : TOGETHER;

interface Node {
  choice: Choice;
  cost: number;
  before: Node | null;
  /** The last kind there was: a beat without lines changes nothing. */
  kind: Kind;
  beat: number;
}

function backThrough(
  struck: readonly Struck[],
  beats: readonly Beat[],
  rows: readonly number[][],
  choices: readonly Choice[][],
): Reading {
  // The best ways up to each beat, one for each choice that ends there.
  const ways: Node[][] = beats.map(() => []);
  ways.push([]);
  const start: Node = {
    choice: { lines: 1, beats: 1, kind: 'any', cost: 0, first: [], last: [] },
    cost: 0,
    before: null,
    kind: 'any',
    beat: -1,
  };
  ways[0] = [start];
  for (let beat = 0; beat < beats.length; beat++)
    for (const choice of choices[beat]) {
      let best: Node | null = null;
      for (const before of ways[beat]) {
        let cost = before.cost + choice.cost;
        if (choice.kind !== 'any' && before.kind !== 'any' && choice.kind !== before.kind) cost += CHANGE;
        if (before.choice.last.length > 0)
          for (const row of choice.first) cost += shared(struck, before.choice.last, row);
        if (!best || cost < best.cost)
          best = { choice, cost, before, kind: choice.kind === 'any' ? before.kind : choice.kind, beat };
      }
      if (best) ways[beat + choice.beats].push(best);
    }
  const read: ReadBeat[] = [];
  const places = new Float64Array(struck.length);
  const off = new Float64Array(struck.length);
  let node: Node | null = ways[beats.length].reduce<Node | null>(
    (least, each) => (!least || each.cost < least.cost ? each : least),
    null,
  );
  for (; node && node.beat >= 0; node = node.before) {
    const { beat, choice } = node;
    read.push({ beat, beats: choice.beats, lines: choice.lines });
    const from = beats[beat].at;
    const last = beats[beat + choice.beats - 1];
    const units = last.at + last.units - from;
    const ms = choice.beats === 2 ? beats[beat].ms + last.ms : beats[beat].ms;
    for (let each = beat; each < beat + choice.beats; each++)
      for (const row of rows[each]) {
        const line = lineOf(struck[row].at, from, units, choice.lines);
        places[row] = from + (line * units) / choice.lines;
        off[row] = ((struck[row].at - places[row]) / units) * ms;
      }
  }
  return { beats: read.reverse(), places, off };
}
