import { DRUM_CHANNEL } from '../midi';
import type { NoteTable } from '../model';
import { firstAtOrAfter, ticksToSeconds, type TempoMap } from '../time';
import { median } from '../analysis';
import { stretchesOf } from './slips';

/** A stroke is a beat's where it is nearer than this: seconds. */
const NEAR = 0.05;
/** Notes held for longer count no more, in seconds; and a note is held over a beat that ends so long after it. */
const [LONGEST, HELD] = [2, 0.08];
const LOOKED_BACK = 10;
/**
 * What speaks for the places between the beats, and how much: that harmonies change there, that fewer notes are held
 * over them, that longer ones begin there, cymbals and bass drum, and that the music begins with one. Set by hand on
 * every second of the pieces by others that the benchmark names, and held against the other half.
 */
const WEIGHTS = { change: 6, held: 1.2, length: 0.8, crash: 1.5, kick: 0.8, begins: 1.5, bias: -1 };

const isKick = (pitch: number) => pitch === 35 || pitch === 36;
const isCrash = (pitch: number) => pitch === 49 || pitch === 52 || pitch === 55 || pitch === 57;

/** What happens at some places of the music, on average. */
interface AtPlaces {
  /** How much harmonies change there, 0 to 1. */
  change: number;
  /** Notes that sound on over one. */
  held: number;
  /** Seconds of notes that begin there. */
  length: number;
  crash: number;
  kick: number;
}

/** What is needed of the music to judge places in it: notes with their starts and ends in seconds. */
export interface Sounding {
  start: Float64Array;
  end: Float64Array;
  notes: NoteTable;
}

export const soundingOf = (notes: NoteTable, tempo: TempoMap): Sounding => ({
  start: notes.start.map((tick) => ticksToSeconds(tempo, tick)),
  end: notes.end.map((tick) => ticksToSeconds(tempo, tick)),
  notes,
});

/** How much speaks for some places (seconds) being beats rather than others, as a logit; 0 where either are too few. */
export function oddsOfPlaces(there: Float64Array, here: Float64Array, sounding: Sounding): number {
  if (there.length < 4 || here.length < 4 || sounding.notes.length === 0) return 0;
  const [one, other] = [happensAt(there, sounding), happensAt(here, sounding)];
  const ratio = (a: number, b: number, least: number) => Math.log((a + least) / (b + least));
  return (
    WEIGHTS.change * (one.change - other.change) +
    WEIGHTS.held * ratio(other.held, one.held, 0.2) +
    WEIGHTS.length * ratio(one.length, other.length, 0.1) +
    WEIGHTS.crash * (one.crash - other.crash) +
    WEIGHTS.kick * (one.kick - other.kick)
  );
}

const between = (beats: Float64Array): Float64Array =>
  beats.subarray(1).map((at, beat) => (at + beats[beat]) / 2);

/** What a pulse that jumps by half a beat costs: music does not. And what, where the strokes say that it slid. */
const [JUMP, SLIDE] = [0.2, 3];
/** And what it costs where a person said the phase: then the music has to speak strongly for another. */
const JUMP_FROM_SET = 6;
/** Nothing speaks against beats that were set by hand. */
const STAYS = -1000;
/** So many beats on either side of a jump say how long those in it are. */
const AROUND = 7;
/** A stretch of fewer beats says less. */
const SAYS_ALL = 16;

/**
 * Beats in the phase that the music speaks for, and how much speaks for the places half way between them, as a logit.
 * Where the pulse jumps by half a beat and one side of the jump is as likely half way off, it no longer jumps. What
 * goes on from beats that a person `set` keeps their phase.
 */
export function inPhase(
  beats: Float64Array,
  sounding: Sounding,
  set: readonly number[] = [],
): { beats: Float64Array; odds: number } {
  if (beats.length < 5) return { beats, odds: 0 };
  const stretches = stretchesOf(beats, sounding.start);
  const begins = beginsHalfWay(beats, sounding) ? WEIGHTS.begins : 0;
  const odds = stretches.map(({ first, end }, at) => {
    const own = beats.subarray(first, end);
    if (set.some((each) => own.includes(each))) return STAYS;
    const share = (end - first) / beats.length;
    const says = Math.min(1, (end - first) / SAYS_ALL) * oddsOfPlaces(between(own), own, sounding);
    return says + WEIGHTS.bias * share + (at === 0 ? begins : 0);
  });
  const jump = set.length > 0 ? JUMP_FROM_SET : JUMP;
  const jumps = stretches.map(({ slidInto }) => (slidInto ? Math.max(SLIDE, jump) : jump));
  const flips = likeliestFlips(odds, jumps);
  // Where the pulse jumps and stays so, what was found between stands.
  const alike: { first: number; end: number; isTurned: boolean }[] = [];
  stretches.forEach(({ first, end }, at) => {
    const last = alike.at(-1);
    if (last?.isTurned === flips[at]) last.end = end;
    else alike.push({ first, end, isTurned: flips[at] });
  });
  const turned = alike.flatMap(({ first, end, isTurned }) => {
    const own = beats.subarray(first, end);
    if (!isTurned) return [[...own]];
    const half = (own[1] - own[0]) / 2;
    const lead = own[0] - half;
    return [[...(lead >= 0 ? [lead] : []), ...between(own)]];
  });
  const total = odds.reduce((sum, each, at) => sum + (flips[at] ? -each : each), 0);
  return { beats: Float64Array.from(joined(turned)), odds: total / odds.length };
}

/**
 * Which stretches are better half a beat on: a jump between two stays where both are, or neither, and costs what is
 * said for the second of them.
 */
function likeliestFlips(odds: readonly number[], jumps: readonly number[]): boolean[] {
  let best = [0, -odds[0]];
  const from: number[][] = [];
  for (const [at, own] of odds.entries()) {
    if (at === 0) continue;
    const next = [0, 1].map((flip) => {
      const stays = best[flip] + jumps[at];
      const goes = best[1 - flip];
      return { before: stays < goes ? flip : 1 - flip, cost: Math.min(stays, goes) + (flip ? -own : 0) };
    });
    from.push(next.map(({ before }) => before));
    best = next.map(({ cost }) => cost);
  }
  let flip = best[1] < best[0] ? 1 : 0;
  const flips = [flip === 1];
  for (const row of from.reverse()) {
    flip = row[flip];
    flips.unshift(flip === 1);
  }
  return flips;
}

const gapsOf = (beats: readonly number[]): number[] => beats.slice(1).map((at, beat) => at - beats[beat]);

/** Stretches one after the other, with as many beats between them as fit. */
function joined(stretches: readonly (readonly number[])[]): number[] {
  const all: number[] = [];
  for (const own of stretches) {
    const last = all.at(-1);
    if (last !== undefined && own.length > 1) {
      const period = median([...gapsOf(all.slice(-AROUND)), ...gapsOf(own.slice(0, AROUND))]);
      const count = Math.round((own[0] - last) / period);
      for (let beat = 1; beat < count; beat++) all.push(last + ((own[0] - last) * beat) / count);
    }
    for (const at of own) if (at > (all.at(-1) ?? -1) + 0.05) all.push(at);
  }
  return all;
}

function beginsHalfWay(beats: Float64Array, { start }: Sounding): boolean {
  const off = Math.abs(start[0] - beats[0]) / (beats[1] - beats[0]);
  return Math.abs(off - 0.5) < 0.1;
}

function happensAt(places: Float64Array, { start, end, notes }: Sounding): AtPlaces {
  const count = places.length;
  const before = new Float64Array(12 * count);
  const after = new Float64Array(12 * count);
  const sum = { held: 0, length: 0, crash: 0, kick: 0 };
  // Notes that began longer before the first place are hardly held over it.
  const last = places[count - 1] + NEAR;
  for (let row = firstAtOrAfter(start, places[0] - LOOKED_BACK); row < notes.length; row++) {
    if (start[row] > last + 2) break;
    const pitch = notes.pitch[row];
    const first = firstAtOrAfter(places, start[row] - NEAR, count);
    const begins = first < count && places[first] <= start[row] + NEAR;
    if (notes.channel[row] === DRUM_CHANNEL) {
      if (begins && isKick(pitch)) sum.kick++;
      if (begins && isCrash(pitch)) sum.crash++;
      continue;
    }
    if (begins) sum.length += Math.min(LONGEST, end[row] - start[row]);
    const weight = pitch < 55 ? 2 : 1;
    for (let place = Math.max(0, first - 1); place < count; place++) {
      const width = widthAt(places, place);
      if (places[place] - width > end[row]) break;
      const isHeldOver = start[row] < places[place] - NEAR && end[row] > places[place] + HELD;
      if (isHeldOver) sum.held++;
      const line = places[place] - 0.03;
      const shared = (from: number, to: number) =>
        Math.max(0, Math.min(end[row], to) - Math.max(start[row], from));
      before[12 * place + (pitch % 12)] += weight * shared(places[place] - width, line);
      after[12 * place + (pitch % 12)] += weight * shared(line, places[place] + width - 0.03);
    }
  }
  let change = 0;
  for (let place = 0; place < count; place++) change += distance(before, after, 12 * place);
  return {
    change: change / count,
    held: sum.held / count,
    length: sum.length / count,
    crash: sum.crash / count,
    kick: sum.kick / count,
  };
}

const widthAt = (places: Float64Array, place: number): number =>
  place + 1 < places.length ? places[place + 1] - places[place] : places[place] - places[place - 1];

/** 1 minus the cosine of what sounds before and after; a half where one is silent. */
function distance(before: Float64Array, after: Float64Array, from: number): number {
  let [both, one, other] = [0, 0, 0];
  for (let at = from; at < from + 12; at++) {
    both += before[at] * after[at];
    one += before[at] ** 2;
    other += after[at] ** 2;
  }
  return one === 0 || other === 0 ? 0.5 : 1 - both / Math.sqrt(one * other);
}
