import { QUARTER } from './units';

/** A note to be written: a row of the part, its pitch, and where it sounds to, in units and real. */
export interface Sounding {
  row: number;
  pitch: number;
  end: number;
}

/** What is struck together on one staff, at a place in units; lowest pitch first. */
export interface Struck {
  at: number;
  notes: readonly Sounding[];
  graces: readonly number[];
  isRolled: boolean;
}

/** A chord of one voice. */
export interface VoicedChord extends Struck {
  /** 1 is the upper voice. */
  voice: 1 | 2;
}

/** Ways of going on that are kept at each place. */
const BEAM = 32;
/** Over so many units a note may sound into the next one: that is legato. */
const LEGATO = QUARTER / 4;
/** What a reader minds, by trial: a note that is cut short (at most, and a quarter of it), unlike ends in a chord, */
const [CUT, CUT_QUARTER, CUT_MOST] = [0.4, 1.2, 3];
const [UNLIKE_QUARTER, UNLIKE_MOST] = [0.9, 2];
/** a chord in the second voice, that voice coming after so long, crossing. */
const [SECOND, COMES, LONG] = [0.35, 1.3, 2 * QUARTER];
const CROSSES = 1;

/** What one voice would have of a chord. */
interface Share {
  notes: readonly Sounding[];
  end: number;
  low: number;
  high: number;
  unlike: number;
}

/** A way to go on: the voices as they sound after a chord. */
interface Way {
  cost: number;
  before: Way | null;
  /** How many of the lowest notes are the second voice's. */
  cut: number;
  /** To where each voice sounds, and from its lowest to its highest pitch. */
  upperEnd: number;
  upperLow: number;
  lowerEnd: number;
  lowerHigh: number;
}

/** To where a chord is written as sounding: the middle of its notes' ends. */
export const endOfChord = (notes: readonly Sounding[]): number => {
  if (notes.length === 1) return notes[0].end;
  const ends = notes.map(({ end }) => end).sort((a, b) => a - b);
  return ends[ends.length >> 1];
};

/** What unlike ends in a chord cost. */
function unlike(notes: readonly Sounding[]): number {
  let [least, most] = [Infinity, -Infinity];
  for (const { end } of notes) {
    least = Math.min(least, end);
    most = Math.max(most, end);
  }
  return Math.min(UNLIKE_MOST, (UNLIKE_QUARTER * Math.max(0, most - least - LEGATO)) / QUARTER);
}

const shareOf = (notes: readonly Sounding[]): Share | null =>
  notes.length === 0
    ? null
    : {
        notes,
        end: endOfChord(notes),
        low: notes[0].pitch,
        high: notes[notes.length - 1].pitch,
        unlike: notes.length > 1 ? unlike(notes) : 0,
      };

/**
 * The one or two voices of a staff: a beam search over the ways to cut each chord in two by pitch, the costs what a
 * reader minds. `struck` in order of place, one a place.
 */
export function voicesOf(struck: readonly Struck[]): VoicedChord[] {
  let ways: Way[] = [
    { cost: 0, before: null, cut: 0, upperEnd: -Infinity, upperLow: 0, lowerEnd: -Infinity, lowerHigh: 0 },
  ];
  for (const { at, notes } of struck) {
    const cuts = Array.from({ length: notes.length + 1 }, (_, cut) => ({
      lower: shareOf(notes.slice(0, cut)),
      upper: shareOf(notes.slice(cut)),
    }));
    const next = ways.flatMap((way) => cuts.map((shares, cut) => wayOn(way, at, shares, cut)));
    ways = next.sort((a, b) => a.cost - b.cost).slice(0, BEAM);
  }
  const chords: VoicedChord[] = [];
  let way: Way | null = ways[0];
  for (let index = struck.length - 1; index >= 0 && way; index--, way = way.before) {
    const { notes, graces, ...rest } = struck[index];
    const [lower, upper] = [notes.slice(0, way.cut), notes.slice(way.cut)];
    if (lower.length > 0)
      chords.push({ ...rest, notes: lower, graces: upper.length > 0 ? [] : graces, voice: 2 });
    if (upper.length > 0) chords.push({ ...rest, notes: upper, graces, voice: 1 });
  }
  return chords.reverse();
}

/** What it costs that a note which sounds to `end` gives way at `at`. */
function cutShort(end: number, at: number): number {
  const over = end - at - LEGATO;
  return over > 0 ? Math.min(CUT_MOST, CUT + (CUT_QUARTER * over) / QUARTER) : 0;
}

function wayOn(
  way: Way,
  at: number,
  { lower, upper }: { lower: Share | null; upper: Share | null },
  cut: number,
): Way {
  let cost = way.cost + (upper?.unlike ?? 0) + (lower?.unlike ?? 0);
  // The upper voice under what the lower still sounds, or the other way round.
  if (upper) {
    cost += cutShort(way.upperEnd, at);
    if (way.lowerEnd > at + LEGATO && upper.low < way.lowerHigh) cost += CROSSES;
  }
  if (lower) {
    cost += cutShort(way.lowerEnd, at) + SECOND;
    if (way.lowerEnd < at - LONG) cost += COMES;
    if (way.upperEnd > at + LEGATO && lower.high > way.upperLow) cost += CROSSES;
  }
  return {
    cost,
    before: way,
    cut,
    upperEnd: upper?.end ?? way.upperEnd,
    upperLow: upper?.low ?? way.upperLow,
    lowerEnd: lower?.end ?? way.lowerEnd,
    lowerHigh: lower?.high ?? way.lowerHigh,
  };
}

/** Pieces that feet play: bass drums and the pedal of the hi-hat. */
export const FEET: ReadonlySet<number> = new Set([35, 36, 44]);

/** The voices of a kit, hands up and feet down. */
export function voicesOfDrums(struck: readonly Struck[]): VoicedChord[] {
  return struck.flatMap(({ notes, graces, ...rest }) => {
    const feet = notes.filter(({ pitch }) => FEET.has(pitch));
    const hands = notes.filter(({ pitch }) => !FEET.has(pitch));
    return [
      ...(hands.length > 0 ? [{ ...rest, notes: hands, graces, voice: 1 as const }] : []),
      ...(feet.length > 0
        ? [{ ...rest, notes: feet, graces: hands.length > 0 ? [] : graces, voice: 2 as const }]
        : []),
    ];
  });
}
