import { momentsOf, type ChartBin } from '../analysis';
import { latenessByScore, standingOf, type Evaluator, type Followed } from '../evaluate';
import type { NoteTable } from '../model';
import type { Part, Session } from '../session';
import { secondsToTicks, type Timeline } from '../time';
import { barsPlayed, secondsAt } from '../following';
import { tablesAt } from './scorePage';

/** How a part was played beside what is written. Ms, late above 0. */
export interface PlayedByScore {
  written: number;
  right: number;
  wrong: number;
  missing: number;
  extra: number;
  /** Mean lateness, standard deviation about it; 0 without notes. */
  biasMs: number;
  spreadMs: number;
  /** Notes more than `NOTICED_MS` early or late. */
  early: number;
  late: number;
  /** Sounding length as a share of the written one, in percent, of the middle note; null without notes. */
  lengthPct: number | null;
  /** Notes held less than half of what is written, and longer than it. */
  short: number;
  long: number;
  /** How much louder than written on average, and how unevenly, in steps of velocity. */
  louder: number;
  unevenness: number;
}

/** A bar of the score in which something is wrong. */
export interface BarOfScore {
  /** What it is called in the score. */
  name: string;
  notes: number;
  wrong: number;
  missing: number;
  extra: number;
  /** Mean distance from the written places, in ms. */
  offMs: number;
}

export interface ScoreReadings {
  name: string;
  isByBars: boolean;
  played: PlayedByScore;
  cleaned: PlayedByScore;
  /** Mean lateness by written place in the bar, an eighth a bin, in quarters, and along the bars that were played. */
  byPlace: ChartBin[];
  alongBars: ChartBin[];
  /** Every bar that was played, in order. */
  bars: BarOfScore[];
}

/** Less early or late than this is not heard as that, in ms (from memory: some 20 to 30 in ordinary music). */
export const NOTICED_MS = 25;
const EIGHTH = 0.5;

/** Reads a part against the score beside it, as played and as cleaned; null where none is. */
export function scoreReadingsOf(
  part: Part,
  session: Session,
  evaluator: Pick<Evaluator, 'evaluate' | 'followed'>,
  timeline: Timeline,
): ScoreReadings | null {
  const followed = evaluator.followed(part, session, timeline);
  if (!followed) return null;
  const [before, after] = (['played', 'cleaned'] as const).map((version) =>
    readSide(followed, tablesAt(followed, version, session, evaluator, timeline), timeline),
  );
  const { bars, barOf, placeOf } = occurrencesInBars(followed);
  const bins = (of: (index: number) => number, count: number, width: number): ChartBin[] => {
    const [was, is] = [before, after].map(({ late }) => meansOf(late, of, count));
    return Array.from({ length: count }, (_, bin) => ({
      // Beats and bars are counted from 1.
      from: 1 + bin * width,
      to: 1 + (bin + 1) * width,
      before: was[bin],
      after: is[bin],
    }));
  };
  const longest = bars.reduce((most, { length }) => Math.max(most, length), 0);
  return {
    name: followed.reference.name,
    isByBars: before.isByBars,
    played: before.figures,
    cleaned: after.figures,
    byPlace: bins(
      (index) => Math.floor(placeOf[index] / EIGHTH + 1e-6),
      Math.max(1, Math.ceil(longest / EIGHTH)),
      EIGHTH,
    ),
    alongBars: bins((index) => barOf[index], bars.length, 1),
    bars: bars.map(({ name }, bar) => before.bars[bar] && { name, ...before.bars[bar] }),
  };

  function meansOf(late: Float64Array, of: (index: number) => number, count: number) {
    const [sums, notes] = [new Float64Array(count), new Uint32Array(count)];
    late.forEach((ms, index) => {
      const bin = of(index);
      if (Number.isNaN(ms) || bin < 0 || bin >= count) return;
      sums[bin] += ms;
      notes[bin]++;
    });
    return Array.from(sums, (sum, bin) => ({
      notes: notes[bin],
      value: notes[bin] === 0 ? null : sum / notes[bin],
    }));
  }
}

/** The bars as they were played, and for each occurrence which of them it is in and where in it. */
function occurrencesInBars({ following: { passages, occurrences }, score }: Followed) {
  const bars = barsPlayed(passages, score);
  let bar = 0;
  const barOf = Int32Array.from(occurrences, ({ place }) => {
    while (bar + 1 < bars.length && bars[bar + 1].at <= place + 1e-6) bar++;
    return bar;
  });
  const placeOf = Float64Array.from(occurrences, ({ place }, index) => place - bars[barOf[index]].at);
  return { bars, barOf, placeOf };
}

function readSide(followed: Followed, tables: readonly NoteTable[], timeline: Timeline) {
  const { following, score } = followed;
  const { occurrences, clock } = following;
  const standing = standingOf(followed, tables, timeline);
  const { late, isByBars } = latenessByScore(followed, standing, tables, timeline);
  const { bars: played, barOf } = occurrencesInBars(followed);
  const bars = played.map(() => ({ notes: 0, wrong: 0, missing: 0, extra: 0, offMs: 0 }));
  const lengths: number[] = [];
  const louder: number[] = [];
  const known: number[] = [];
  const figures = { written: occurrences.length, right: 0, wrong: 0, missing: 0, extra: standing.extra.length, early: 0, late: 0, short: 0, long: 0 }; // prettier-ignore
  const tickOfClock = (place: number) => secondsToTicks(timeline.tempo, secondsAt(clock, place));
  occurrences.forEach(({ row, place }, index) => {
    const bar = bars[barOf[index]];
    bar.notes++;
    const of = standing.partOf[index];
    if (of < 0) {
      figures.missing++;
      bar.missing++;
      return;
    }
    if (standing.isRight[index] === 1) figures.right++;
    else {
      figures.wrong++;
      bar.wrong++;
    }
    known.push(late[index]);
    bar.offMs += Math.abs(late[index]);
    if (late[index] > NOTICED_MS) figures.late++;
    if (late[index] < -NOTICED_MS) figures.early++;
    const at = standing.rowOf[index];
    const written = isByBars
      ? score.lengths[row] * timeline.ticksPerQuarter
      : tickOfClock(place + score.lengths[row]) - tickOfClock(place);
    if (written > 0) {
      const share = (tables[of].end[at] - tables[of].start[at]) / written;
      lengths.push(share);
      if (share < 0.5) figures.short++;
      if (share > 1.1) figures.long++;
    }
    louder.push(tables[of].velocity[at] - score.velocity[row]);
  });
  for (const { part, row } of standing.extra) {
    const tick = tables[part].start[row];
    let bar = 0;
    while (bar + 1 < played.length && tickAtPlace(played[bar + 1].at) <= tick) bar++;
    if (bars[bar]) bars[bar].extra++;
  }
  for (const bar of bars) bar.offMs = bar.notes > bar.missing ? bar.offMs / (bar.notes - bar.missing) : 0;
  lengths.sort((a, b) => a - b);
  const [timing, loudness] = [known, louder].map((each) =>
    each.length === 0 ? { mean: 0, deviation: 0 } : momentsOf(Float64Array.from(each)),
  );
  return {
    late,
    isByBars,
    bars,
    figures: {
      ...figures,
      biasMs: timing.mean,
      spreadMs: timing.deviation,
      lengthPct: lengths.length === 0 ? null : 100 * lengths[lengths.length >> 1],
      louder: loudness.mean,
      unevenness: loudness.deviation,
    },
  };

  function tickAtPlace(place: number): number {
    const origin = following.passages.at(0)?.from ?? 0;
    return isByBars ? (followed.beginsAt + place - origin) * timeline.ticksPerQuarter : tickOfClock(place);
  }
}
