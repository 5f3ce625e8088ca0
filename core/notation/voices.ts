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

interface Way {
  cost: number;
  before: Way | null;
  /** How many of the lowest notes are the second voice's. */
  cut: number;
  /** To where each voice sounds, from where, and what. */
  end: readonly [number, number];
  low: readonly [number, number];
  high: readonly [number, number];
}

/** To where a chord is written as sounding: the middle of its notes' ends. */
export const endOfChord = (notes: readonly Sounding[]): number => {
  const ends = notes.map(({ end }) => end).sort((a, b) => a - b);
  return ends[ends.length >> 1];
};

/** What unlike ends in a chord cost; `next` is where the next one may begin, and nothing behind it counts. */
function unlike(notes: readonly Sounding[]): number {
  let [least, most] = [Infinity, -Infinity];
  for (const { end } of notes) {
    least = Math.min(least, end);
    most = Math.max(most, end);
  }
  return Math.min(UNLIKE_MOST, (UNLIKE_QUARTER * Math.max(0, most - least - LEGATO)) / QUARTER);
}

/**
 * The one or two voices of a staff: a beam search over the ways to cut each chord in two by pitch, the costs what a
 * reader minds. `struck` in order of place, one a place.
 */
export function voicesOf(struck: readonly Struck[]): VoicedChord[] {
  let ways: Way[] = [
    { cost: 0, before: null, cut: 0, end: [-Infinity, -Infinity], low: [0, 0], high: [0, 0] },
  ];
  const all: Way[][] = [];
  for (const chord of struck) {
    const next: Way[] = [];
    for (const way of ways)
      for (let cut = 0; cut <= chord.notes.length; cut++) next.push(wayOn(way, chord, cut));
    next.sort((a, b) => a.cost - b.cost);
    ways = next.slice(0, BEAM);
    all.push(ways);
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

function wayOn(way: Way, { at, notes }: Struck, cut: number): Way {
  let cost = way.cost;
  const end: [number, number] = [...way.end];
  const low: [number, number] = [...way.low];
  const high: [number, number] = [...way.high];
  for (const voice of [0, 1] as const) {
    const own = voice === 1 ? notes.slice(0, cut) : notes.slice(cut);
    if (own.length === 0) continue;
    const over = way.end[voice] - at - LEGATO;
    if (over > 0) cost += Math.min(CUT_MOST, CUT + (CUT_QUARTER * over) / QUARTER);
    if (own.length > 1) cost += unlike(own);
    if (voice === 1) {
      cost += SECOND;
      if (way.end[1] < at - LONG) cost += COMES;
    }
    const other = voice === 0 ? 1 : 0;
    // The upper voice under what the lower still sounds, or the other way round.
    if (way.end[other] > at + LEGATO) {
      if (voice === 0 && own[0].pitch < way.high[1]) cost += CROSSES;
      if (voice === 1 && own[own.length - 1].pitch > way.low[0]) cost += CROSSES;
    }
    end[voice] = endOfChord(own);
    low[voice] = own[0].pitch;
    high[voice] = own[own.length - 1].pitch;
  }
  return { cost, before: way, cut, end, low, high };
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
