import { MOST_IN_CHORD, type Chords, type Grouped, type PlayedNotes } from './chords';
import type { Score } from './score';

/** What a step along the score gains and costs; found by trial on performances whose written notes are known. */
const COMMON = 1.6;
/** A stroke a step or an octave off a written note that is not there otherwise. */
const NEARLY = 0.1;
const EXTRA = -0.55;
const MISSING = -0.45;
const PASSED_OVER = -0.8;
export const JUMP = -5;
/** A jump that hardly anything but a repeat of some bars is worth. */
export const SURE_JUMP = -25;
/** Of places that are written alike the nearer is meant: by the logarithm to 2 of the bars jumped over. */
const FARTHER = 0.6;
/** A jump that the score itself asks for. */
const WRITTEN_JUMP = -0.5;
/** PlayedNotes that begins elsewhere than the score. */
const BEGINS_ELSEWHERE = -6;
/** So many places in the score are kept in mind. */
const BEAM = 90;
/** Never further ahead in one step, in chords. */
const REACH = 12;
/** How much a step of tempo and one stroke scatter: in logarithms, and in seconds. */
const [TEMPO_SPREAD, STROKE_SPREAD] = [0.22, 0.03];
const MOST_TEMPO_COST = 4;
/** A chord is rolled for so long, in seconds. */
const ROLLED = 0.4;
/** Seconds a quarter, before anything is known and at the ends. */
const [FASTEST, SLOWEST] = [0.12, 4];

/** At a second the playing is said to be at the beginning of a bar, by index. */
export interface Said {
  seconds: number;
  bar: number;
}

/** For each group of strokes the chord it was taken for, or -1, and whether it was reached by a jump. */
export interface Path {
  chord: Int32Array;
  isJump: Uint8Array;
}

/**
 * The way of a performance along a score: a beam search over groups of strokes, each taken for a written chord, going
 * on, or passed by, with the tempo carried along. `jumpCost` is what a jump to any bar line gains (below 0).
 */
export function findPath(
  playing: PlayedNotes,
  groups: Grouped,
  score: Score,
  chords: Chords,
  said: readonly Said[],
  jumpCost: number,
): Path {
  const chord = new Int32Array(groups.count).fill(-1);
  const isJump = new Uint8Array(groups.count);
  if (groups.count === 0 || chords.count === 0) return { chord, isJump };

  const forced = forcedGroups(playing, groups, chords, said);
  const writtenJumps = jumpsOfOrder(score, chords);
  const openings = createOpenings(score, chords);
  const start = openingTempo(playing, chords);

  // What is known of each chord as the last one played, of the group before and of this one.
  let now = createFront(chords.count);
  let next = createFront(chords.count);
  // One record a step that was kept: where it came from, and what it was.
  const kept = createRecords();
  let best = { score: 0, record: -1, chord: -1, spq: start };
  let isBegun = false;

  const masks = new Uint32Array(3);
  /** Notes in common with a chord whose notes in `used` are taken already: gain, and by `masks` which. */
  function gainOf(group: number, target: number, used: number): number {
    const first = chords.from[target];
    const end = first + sizeOf(target);
    let [mask, nearly, extra] = [used, 0, 0];
    let gain = 0;
    for (let row = groups.from[group]; row < groups.from[group + 1]; row++) {
      const pitch = playing.pitch[row];
      let found = -1;
      for (let note = first; note < end && note - first < MOST_IN_CHORD; note++)
        if (score.pitch[note] === pitch && ((mask >>> (note - first)) & 1) === 0) {
          found = note - first;
          break;
        }
      if (found >= 0) {
        mask |= 1 << found;
        gain += COMMON;
      } else extra++;
    }
    const left = end - first - bits(mask);
    if (extra > 0 && left > 0)
      for (
        let row = groups.from[group];
        row < groups.from[group + 1] && nearly < Math.min(extra, left);
        row++
      )
        for (let note = first; note < end && note - first < MOST_IN_CHORD; note++) {
          const off = Math.abs(score.pitch[note] - playing.pitch[row]);
          if ((off === 1 || off === 2 || off === 12) && ((mask >>> (note - first)) & 1) === 0) {
            nearly++;
            break;
          }
        }
    masks[0] = mask >>> 0;
    return gain + nearly * NEARLY + (extra - nearly) * EXTRA;
  }
  const sizeOf = (target: number) => Math.min(MOST_IN_CHORD, chords.from[target + 1] - chords.from[target]);
  const missingOf = (target: number, mask: number) => MISSING * (sizeOf(target) - bits(mask));

  for (let group = 0; group < groups.count; group++) {
    const time = playing.seconds[groups.from[group]];
    const size = groups.from[group + 1] - groups.from[group];
    next.clear();
    const force = forced.get(group);
    if (force !== undefined) {
      // Said by a person: nothing else is thought of.
      const source = best;
      const gain = gainOf(group, force, 0);
      next.offer(force, source.score + Math.max(0, gain), time, source.spq, masks[0], source.record, 1);
    } else {
      for (const at of now.active) {
        const from = now.score[at];
        const [last, spq] = [now.time[at], now.spq[at]];
        const dt = time - last;
        // Nothing of this is written.
        next.offer(at, from + EXTRA * size, last, spq, now.used[at], now.record[at], -1);
        // More of the same chord.
        if (dt <= ROLLED) {
          const gain = gainOf(group, at, now.used[at]);
          if (gain > 0) {
            const back = -MISSING * (bits(masks[0]) - bits(now.used[at]));
            const late = -Math.min(2, ((dt / ROLLED) * 1.5) ** 2);
            next.offer(at, from + gain + back + late, last, spq, masks[0], now.record[at], 0);
          }
        }
        let passed = 0;
        for (let target = at + 1; target < chords.count && target <= at + REACH; target++) {
          const distance = chords.at[target] - chords.at[at];
          const ratio = Math.log(Math.max(1e-3, dt) / (distance * spq));
          if (target > at + 3 && ratio < -1.1) break;
          const gain = gainOf(group, target, 0);
          const mask = masks[0];
          const value = from + gain + missingOf(target, mask) + passed - tempoCost(ratio, dt, distance, spq);
          passed += PASSED_OVER * sizeOf(target);
          if (gain <= EXTRA * size) continue;
          next.offer(target, value, time, movedTempo(spq, ratio, distance), mask, now.record[at], 0);
        }
        // Where the score itself goes on elsewhere than at the next bar.
        for (const { target, distance } of writtenJumps.get(at) ?? []) {
          const ratio = Math.log(Math.max(1e-3, dt) / (Math.max(0.01, distance) * spq));
          const gain = gainOf(group, target, 0);
          const value =
            from + gain + missingOf(target, masks[0]) + WRITTEN_JUMP - tempoCost(ratio, dt, distance, spq);
          next.offer(target, value, time, movedTempo(spq, ratio, distance), masks[0], now.record[at], 1);
        }
      }
      // To any bar line.
      const bestBar = best.chord < 0 ? 0 : chords.bar[best.chord];
      for (const bar of openings(playing.pitch, groups.from[group], groups.from[group + 1])) {
        const target = chords.firstOfBar[bar];
        const gain = gainOf(group, target, 0);
        if (gain <= 0) continue;
        const price = isBegun
          ? jumpCost - FARTHER * Math.log2(1 + Math.abs(bar - bestBar))
          : target === 0
            ? 0
            : BEGINS_ELSEWHERE + (jumpCost - JUMP);
        const value = best.score + price + gain + missingOf(target, masks[0]);
        next.offer(target, value, time, best.spq, masks[0], best.record, 1);
      }
      if (!isBegun) best.score += EXTRA * size;
    }
    if (next.active.length > 0) {
      next.keepBest(BEAM);
      for (const at of next.active)
        if (next.what[at] >= 0) next.record[at] = kept.add(next.record[at], group, at, next.what[at]);
      isBegun = true;
      const top = next.best();
      best = { score: next.score[top], record: next.record[top], chord: top, spq: next.spq[top] };
    }
    [now, next] = [next, now];
  }

  for (let record = best.record; record >= 0; record = kept.parent[record]) {
    const group = kept.group[record];
    chord[group] = kept.chord[record];
    isJump[group] = kept.isJump[record];
  }
  return { chord, isJump };
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

/** Groups that a person said are the beginning of a bar, with its first chord. */
function forcedGroups(
  { seconds }: PlayedNotes,
  groups: Grouped,
  chords: Chords,
  said: readonly Said[],
): Map<number, number> {
  const forced = new Map<number, number>();
  for (const each of said) {
    const target = chords.firstOfBar[each.bar] ?? chords.count;
    if (target >= chords.count) continue;
    let [nearest, least] = [0, Infinity];
    for (let group = 0; group < groups.count; group++) {
      const off = Math.abs(seconds[groups.from[group]] - each.seconds);
      if (off < least) [nearest, least] = [group, off];
    }
    forced.set(nearest, target);
  }
  return forced;
}

interface WrittenJump {
  target: number;
  /** In quarters as played: to the end of the bar, and from the start of the next. */
  distance: number;
}

/** Where the order of bars does not go on to the next one: from each chord of the bar it leaves. */
function jumpsOfOrder({ order, bars }: Score, chords: Chords): Map<number, WrittenJump[]> {
  const jumps = new Map<number, WrittenJump[]>();
  const seen = new Set<string>();
  order?.forEach((bar, index) => {
    const to = order[index + 1];
    if (to === undefined || to === bar + 1 || seen.has(`${bar} ${to}`)) return;
    seen.add(`${bar} ${to}`);
    const target = chords.firstOfBar[to];
    if (target >= chords.count) return;
    const last = bar + 1 < chords.firstOfBar.length ? chords.firstOfBar[bar + 1] : chords.count;
    for (let chord = last - 1; chord >= Math.max(0, last - 4); chord--) {
      const distance = bars[bar + 1] - chords.at[chord] + (chords.at[target] - bars[to]);
      jumps.set(chord, [...(jumps.get(chord) ?? []), { target, distance }]);
    }
  });
  return jumps;
}

/** Bars by the pitches they begin with: for some strokes those that begin with one of them. */
function createOpenings({ pitch }: Score, { firstOfBar, from, count }: Chords) {
  const byPitch = Array.from({ length: 128 }, (): number[] => []);
  firstOfBar.forEach((chord, bar) => {
    // A bar without a stroke begins with what comes behind it.
    if (chord >= count || (bar > 0 && firstOfBar[bar - 1] === chord)) return;
    const end = from[chord] + Math.min(MOST_IN_CHORD, from[chord + 1] - from[chord]);
    for (const each of new Set(pitch.subarray(from[chord], end))) byPitch[each].push(bar);
  });
  const seen = new Int32Array(firstOfBar.length).fill(-1);
  let asked = 0;
  return (played: Uint8Array, first: number, end: number): number[] => {
    const found: number[] = [];
    asked++;
    for (let row = first; row < end; row++)
      for (const bar of byPitch[played[row]])
        if (seen[bar] !== asked) {
          seen[bar] = asked;
          found.push(bar);
        }
    return found;
  };
}

/** Steps that were kept, as columns that grow. */
function createRecords() {
  const records = {
    parent: [] as number[],
    group: [] as number[],
    chord: [] as number[],
    isJump: [] as number[],
    add(parent: number, group: number, chord: number, what: number) {
      records.parent.push(parent);
      records.group.push(group);
      records.chord.push(chord);
      records.isJump.push(what);
      return records.parent.length - 1;
    },
  };
  return records;
}

/** The best way to each chord that is thought of, as columns by chord. */
function createFront(count: number) {
  const score = new Float64Array(count);
  const isThere = new Uint8Array(count);
  const front = {
    active: [] as number[],
    score,
    time: new Float64Array(count),
    spq: new Float64Array(count),
    used: new Uint32Array(count),
    record: new Int32Array(count),
    /** How this group came there: -1 not at all, 0 on, 1 by a jump. */
    what: new Int8Array(count),
    clear() {
      for (const at of front.active) isThere[at] = 0;
      front.active = [];
    },
    offer(at: number, value: number, time: number, spq: number, used: number, record: number, what: number) {
      if (isThere[at] === 1 && score[at] >= value) return;
      if (isThere[at] === 0) {
        isThere[at] = 1;
        front.active.push(at);
      }
      score[at] = value;
      front.time[at] = time;
      front.spq[at] = spq;
      front.used[at] = used;
      front.record[at] = record;
      front.what[at] = what;
    },
    keepBest(most: number) {
      if (front.active.length <= most) return;
      const sorted = Float64Array.from(front.active, (at) => score[at]).sort();
      const least = sorted[sorted.length - most];
      const kept: number[] = [];
      for (const at of front.active)
        if (score[at] >= least && kept.length < most) kept.push(at);
        else isThere[at] = 0;
      front.active = kept;
    },
    best() {
      let best = front.active[0];
      for (const at of front.active) if (score[at] > score[best]) best = at;
      return best;
    },
  };
  return front;
}

function bits(mask: number): number {
  let count = 0;
  for (let left = mask; left !== 0; left &= left - 1) count++;
  return count;
}
