import type { Chords, Grouped, PlayedNotes } from './chords';
import { createFront, createRecords } from './front';
import { EXTRA, MISSING, bits, createGains } from './gains';
import { createOpenings, forcedGroups, jumpsOfOrder, type Said } from './jumps';
import type { Score } from './score';

/** What a step along the score costs; found by trial on performances whose written notes are known. */
const PASSED_OVER = -0.8;
export const JUMP = -5;
/** A jump that hardly anything but a repeat of some bars is worth. */
export const SURE_JUMP = -25;
/** Of places that are written alike the nearer is meant: by the logarithm to 2 of the bars jumped over. */
const FARTHER = 0.6;
/** A jump that the score itself asks for. */
const WRITTEN_JUMP = -0.5;
/** Playing that begins elsewhere than the score. */
const BEGINS_ELSEWHERE = -6;
/** So many places in the score are kept in mind. */
const BEAM = 90;
/** Never further ahead in one step, in chords; and no further than three where that would be so much too fast. */
const REACH = 12;
const TOO_FAST = -1.1;
/** How much a step of tempo and one stroke scatter: in logarithms, and in seconds. */
const [TEMPO_SPREAD, STROKE_SPREAD] = [0.22, 0.03];
const MOST_TEMPO_COST = 4;
/** A chord is rolled for so long, in seconds. */
const ROLLED = 0.4;
/** Seconds a quarter. */
const [FASTEST, SLOWEST] = [0.12, 4];

/** For each group of strokes the chord it was taken for, or -1, and whether it was reached by a jump. */
export interface Path {
  chord: Int32Array;
  isJump: Uint8Array;
}

/** What is followed: strokes that sound together, and written chords. */
export interface Sides {
  playing: PlayedNotes;
  groups: Grouped;
  score: Score;
  chords: Chords;
}

/**
 * The way of a performance along a score: a beam search over groups of strokes, each taken for a written chord, going
 * on, or passed by, with the tempo carried along. `jumpCost` is what a jump to any bar line gains (below 0).
 */
export function findPath(sides: Sides, said: readonly Said[], jumpCost: number): Path {
  const { playing, groups, score, chords } = sides;
  const path: Path = {
    chord: new Int32Array(groups.count).fill(-1),
    isJump: new Uint8Array(groups.count),
  };
  if (groups.count === 0 || chords.count === 0) return path;
  const gains = createGains(playing, groups, score, chords);
  const forced = forcedGroups(playing, groups, chords, said);
  const writtenJumps = jumpsOfOrder(score, chords);
  const openings = createOpenings(score, chords);
  // What is known of each chord as the last one played: of the group before, and of this one.
  let now = createFront(chords.count);
  let next = createFront(chords.count);
  // One record a step that was kept: where it came from, and what it was.
  const kept = createRecords();
  let best = { score: 0, record: -1, chord: -1, spq: openingTempo(playing, chords) };

  for (let group = 0; group < groups.count; group++) {
    next.clear();
    const time = playing.seconds[groups.from[group]];
    const force = forced.get(group);
    if (force !== undefined) offerForced(group, force, time);
    else {
      for (const at of now.active) {
        offerNothing(group, at);
        offerMore(group, at, time);
        offerNext(group, at, time);
        offerWrittenJumps(group, at, time);
      }
      offerJumps(group, time);
    }
    // Before anything written was played, what was played is extra.
    if (best.chord < 0) best.score += EXTRA * sizeOf(group);
    if (next.active.length > 0) settle(group);
    [now, next] = [next, now];
  }
  for (let record = best.record; record >= 0; record = kept.parent[record]) {
    const group = kept.group[record];
    path.chord[group] = kept.chord[record];
    path.isJump[group] = kept.isJump[record];
  }
  return path;

  function sizeOf(group: number): number {
    return groups.from[group + 1] - groups.from[group];
  }

  /** Said by a person: nothing else is thought of. */
  function offerForced(group: number, target: number, time: number) {
    const gain = Math.max(0, gains.of(group, target, 0));
    next.offer(target, best.score + gain, time, best.spq, gains.mask, best.record, 1);
  }

  /** Nothing of the group is written. */
  function offerNothing(group: number, at: number) {
    const value = now.score[at] + EXTRA * sizeOf(group);
    next.offer(at, value, now.time[at], now.spq[at], now.used[at], now.record[at], -1);
  }

  /** It is more of the same chord, which is rolled. */
  function offerMore(group: number, at: number, time: number) {
    const late = time - now.time[at];
    if (late > ROLLED) return;
    const gain = gains.of(group, at, now.used[at]);
    if (gain <= 0) return;
    // What was counted as missing is there.
    const back = -MISSING * (bits(gains.mask) - bits(now.used[at]));
    const value = now.score[at] + gain + back - Math.min(2, ((late / ROLLED) * 1.5) ** 2);
    next.offer(at, value, now.time[at], now.spq[at], gains.mask, now.record[at], 0);
  }

  /** It is one of the chords that follow. */
  function offerNext(group: number, at: number, time: number) {
    const [from, spq] = [now.score[at], now.spq[at]];
    const dt = time - now.time[at];
    const least = EXTRA * sizeOf(group);
    let passed = 0;
    for (let target = at + 1; target < chords.count && target <= at + REACH; target++) {
      const distance = chords.at[target] - chords.at[at];
      const ratio = Math.log(Math.max(1e-3, dt) / (distance * spq));
      if (target > at + 3 && ratio < TOO_FAST) break;
      const gain = gains.of(group, target, 0);
      const value =
        from + gain + gains.missing(target, gains.mask) + passed - tempoCost(ratio, dt, distance, spq);
      passed += PASSED_OVER * gains.sizeOf(target);
      if (gain > least)
        next.offer(target, value, time, movedTempo(spq, ratio, distance), gains.mask, now.record[at], 0);
    }
  }

  /** The score itself goes on elsewhere than at the next bar. */
  function offerWrittenJumps(group: number, at: number, time: number) {
    const spq = now.spq[at];
    const dt = time - now.time[at];
    for (const { target, distance } of writtenJumps.get(at) ?? []) {
      const ratio = Math.log(Math.max(1e-3, dt) / (Math.max(0.01, distance) * spq));
      const gain = gains.of(group, target, 0) + gains.missing(target, gains.mask);
      const value = now.score[at] + gain + WRITTEN_JUMP - tempoCost(ratio, dt, distance, spq);
      next.offer(target, value, time, movedTempo(spq, ratio, distance), gains.mask, now.record[at], 1);
    }
  }

  /** To any bar line, from the best there is. */
  function offerJumps(group: number, time: number) {
    const bestBar = best.chord < 0 ? 0 : chords.bar[best.chord];
    for (const bar of openings(playing.pitch, groups.from[group], groups.from[group + 1])) {
      const target = chords.firstOfBar[bar];
      const gain = gains.of(group, target, 0);
      if (gain <= 0) continue;
      const price =
        best.chord >= 0
          ? jumpCost - FARTHER * Math.log2(1 + Math.abs(bar - bestBar))
          : target === 0
            ? 0
            : BEGINS_ELSEWHERE + (jumpCost - JUMP);
      const value = best.score + price + gain + gains.missing(target, gains.mask);
      next.offer(target, value, time, best.spq, gains.mask, best.record, 1);
    }
  }

  /** The best ways are kept, and what each of them did. */
  function settle(group: number) {
    next.keepBest(BEAM);
    for (const at of next.active)
      if (next.what[at] >= 0) next.record[at] = kept.add(next.record[at], group, at, next.what[at]);
    const top = next.best();
    best = { score: next.score[top], record: next.record[top], chord: top, spq: next.spq[top] };
  }
}

function tempoCost(ratio: number, dt: number, distance: number, spq: number): number {
  const stroke = STROKE_SPREAD / Math.max(0.02, Math.min(dt, distance * spq));
  const variance = TEMPO_SPREAD ** 2 + 2 * stroke ** 2;
  return Math.min(MOST_TEMPO_COST, ratio ** 2 / (2 * variance));
}

/** The tempo follows by a third each quarter. */
function movedTempo(spq: number, ratio: number, distance: number): number {
  const share = 1 - (2 / 3) ** Math.min(4, distance);
  const step = Math.max(-0.7, Math.min(0.7, ratio));
  return Math.min(SLOWEST, Math.max(FASTEST, spq * Math.exp(share * step)));
}

/** Seconds a quarter, if all of it was played once. */
function openingTempo({ seconds }: PlayedNotes, { at, count }: Chords): number {
  const written = at[count - 1] - at[0];
  const played = seconds[seconds.length - 1] - seconds[0];
  const whole = written > 0 && played > 0 ? played / written : 0.5;
  return Math.min(1.5, Math.max(0.25, whole));
}
