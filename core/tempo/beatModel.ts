/** Periods of a beat that are tried without a hint, in seconds, evenly spread by ratio. */
const [SHORTEST, LONGEST, PERIODS] = [0.3, 1.28, 45];
const RATIO = (LONGEST / SHORTEST) ** (1 / (PERIODS - 1));
/** With a hint they go on, evenly, to about these. */
const [LEAST, MOST] = [0.18, 2.6];

/** The periods from `least` to `most` seconds; without those the usual ones. At least two. */
export function periodsBetween(least = SHORTEST, most = LONGEST): Float64Array {
  const stepOf = (period: number) => Math.log(period / SHORTEST) / Math.log(RATIO);
  const first = Math.round(stepOf(Math.min(MOST, Math.max(LEAST, least))));
  const last = Math.max(first + 1, Math.round(stepOf(Math.max(LEAST, Math.min(MOST, most)))));
  return Float64Array.from({ length: last - first + 1 }, (_, at) => SHORTEST * RATIO ** (first + at));
}

/** By how much the logarithm of a period grows from one to the next. */
export const PERIOD_STEP = Math.log(RATIO);

/** How a beat is divided: in halves and quarters, or in thirds. */
export type Division = 'binary' | 'ternary';

/**
 * Where strokes fall within a beat: the place as a share of it, how many are expected there, and how they lean (above
 * 0 to strong ones, below to weak ones).
 */
interface Bump {
  at: number;
  rate: number;
  lean: number;
}

/** Figures that were tuned on performances of our own (`npm run bench -- tempo`). */
export const TUNED = {
  beat: 0.8,
  beatLean: 1.5,
  /** A beat that is not divided has nothing weaker beside it to stand out from. */
  plainLean: 0.3,
  half: 0.544,
  halfLean: -0.8,
  quarter: 0.6,
  quarterLean: -1.72,
  third: 0.6,
  thirdLean: -1,
  /** Strokes a second that belong to no place. */
  stray: 0.28,
  /** How often beats are not divided, divided in halves, in quarters. */
  plainShare: 0.49,
  halfShare: 0.4,
  /** Usual tempo in bpm, its spread as a ratio's logarithm, and how much it counts, a second. */
  usual: 104,
  tempoSpread: 0.5,
  tempoWeight: 0.4,
  /** Slower than this, in bpm, hardly anybody taps; what it costs by the logarithm of the ratio, a second. */
  slowest: 60,
  slowWeight: 15,
  /** What a beat in three costs by its strokes, and what it costs that beats begin or cease to be divided in three. */
  ternaryCost: 0.1,
  turn: 2,
};

/** Deviation of strokes from their places: in seconds, and as a share of the beat. */
const [SPREAD, SPREAD_SHARE] = [0.021, 0.009];
/** Classes of strength, and seconds a column of a table covers. */
export const STRENGTHS = 16;
export const COLUMN = 0.004;

/** Ways in which a beat may be filled: its bumps, and how often it is. */
function fillings(division: Division): { share: number; bumps: Bump[] }[] {
  const t = TUNED;
  const beat = { at: 0, rate: t.beat, lean: t.beatLean };
  const plain = { share: t.plainShare, bumps: [{ ...beat, lean: t.plainLean }] };
  if (division === 'ternary') {
    const thirds = [1 / 3, 2 / 3].map((at) => ({ at, rate: t.third, lean: t.thirdLean }));
    return [
      plain,
      { share: (1 - t.plainShare) / 2, bumps: [beat, thirds[1]] },
      { share: (1 - t.plainShare) / 2, bumps: [beat, ...thirds] },
    ];
  }
  const half = { at: 0.5, rate: t.half, lean: t.halfLean };
  const quarters = [0.25, 0.75].map((at) => ({ at, rate: t.quarter, lean: t.quarterLean }));
  return [
    plain,
    { share: t.halfShare, bumps: [beat, half] },
    { share: 1 - t.plainShare - t.halfShare, bumps: [beat, half, ...quarters] },
  ];
}

/**
 * How likely a stroke of strength r (0-1) is for a lean: (1 + k) r^k for k above 0, the same of weakness below; mean
 * 1 over all r.
 */
const leaning = (lean: number, r: number): number =>
  lean >= 0 ? (1 + lean) * r ** lean : (1 - lean) * (1 - r) ** -lean;

export interface BeatModel {
  periods: Float64Array;
  /**
   * For each period the logarithm of the rate of strokes by way of filling, time after the beat (columns of `COLUMN`
   * seconds) and strength (`STRENGTHS` classes), in this order.
   */
  tables: Float32Array[];
  /** How many ways of filling there are, and columns a table has. */
  ways: number;
  columns: Int32Array;
  /**
   * What a whole beat costs or brings without its strokes, by period and way: strokes expected, how often the way is,
   * the prior of the tempo.
   */
  perBeat: Float64Array;
  /** Log rate of a stroke that belongs to no beat. */
  stray: number;
}

/**
 * The likelihood of strokes within a beat: they come at a rate with bumps at the beat and its divisions, stronger
 * ones rather on the beat and weaker ones off it; a beat may be plain or divided. The prior of the tempo (log-normal)
 * is charged by the second, so that a tempo and its half compare fairly. After the bar-pointer models of Whiteley et
 * al. 2006 and Krebs et al. 2015; the ways of filling and the figures are ours.
 */
export function createBeatModel(division: Division, periods = periodsBetween()): BeatModel {
  const ways = fillings(division);
  const columns = Int32Array.from(periods, (period) => Math.ceil(period / COLUMN) + 1);
  const perBeat = new Float64Array(periods.length * ways.length);
  periods.forEach((period, at) => {
    const off = Math.log(60 / period / TUNED.usual) / TUNED.tempoSpread;
    const slow = Math.max(0, Math.log((TUNED.slowest * period) / 60));
    const prior = -period * (TUNED.tempoWeight * 0.5 * off * off + TUNED.slowWeight * slow);
    ways.forEach(({ share, bumps }, way) => {
      const expected = bumps.reduce((sum, { rate }) => sum + rate, 0) + TUNED.stray * period;
      perBeat[at * ways.length + way] = prior - expected + Math.log(share);
    });
  });
  const tables = Array.from(periods, (period, at) => {
    const table = new Float32Array(ways.length * columns[at] * STRENGTHS);
    ways.forEach(({ bumps }, way) =>
      fillTable(table.subarray(way * columns[at] * STRENGTHS), columns[at], bumps, period),
    );
    if (division === 'ternary') table.forEach((rate, place) => (table[place] = rate - TUNED.ternaryCost));
    return table;
  });
  return { periods, tables, ways: ways.length, columns, perBeat, stray: Math.log(TUNED.stray) };
}

function fillTable(table: Float32Array, columns: number, bumps: readonly Bump[], period: number): void {
  const spread = Math.hypot(SPREAD, SPREAD_SHARE * period);
  const bump = (seconds: number) =>
    Math.exp(-0.5 * (seconds / spread) ** 2) / (spread * Math.sqrt(2 * Math.PI));
  for (let column = 0; column < columns; column++) {
    const seconds = (column + 0.5) * COLUMN;
    for (let strength = 0; strength < STRENGTHS; strength++) {
      const r = (strength + 0.5) / STRENGTHS;
      let rate = TUNED.stray;
      for (const { at, rate: expected, lean } of bumps) {
        // A stroke a little ahead of the next beat is meant for that one.
        const density = at === 0 ? bump(seconds) + bump(seconds - period) : bump(seconds - at * period);
        rate += expected * leaning(lean, r) * density;
      }
      table[column * STRENGTHS + strength] = Math.log(rate);
    }
  }
}
