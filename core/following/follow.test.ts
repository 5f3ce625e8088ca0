import fc from 'fast-check';
import { follow, plainBars, scoreOf, secondsAt, type Score, type ScoreRow } from '.';

const row = (at: number, pitch: number, length = 1): ScoreRow => ({ at, length, pitch, velocity: 80 });
const barsOf = (count: number) => plainBars(Array.from({ length: count + 1 }, (_, bar) => bar * 4));

/** Eight bars in which no two are alike. */
const TUNE = Array.from({ length: 32 }, (_, beat) =>
  row(beat, 60 + ((beat * 5) % 12) + (beat % 7 === 0 ? 12 : 0)),
);
const score = scoreOf(TUNE, barsOf(8));

interface Stroke {
  seconds: number;
  pitch: number;
}
const playing = (strokes: readonly Stroke[]) => {
  const sorted = [...strokes].sort((a, b) => a.seconds - b.seconds || a.pitch - b.pitch);
  return {
    seconds: Float64Array.from(sorted, ({ seconds }) => seconds),
    pitch: Uint8Array.from(sorted, ({ pitch }) => pitch),
  };
};
/** Bars of a score one after the other, each quarter half a second. */
const played = ({ at, pitch, bars, length }: Score, order: readonly number[]): Stroke[] => {
  let start = 0;
  return order.flatMap((bar) => {
    const from = start;
    start += (bars[bar + 1] - bars[bar]) / 2;
    return Array.from({ length }, (_, index) => index)
      .filter((index) => at[index] >= bars[bar] && at[index] < bars[bar + 1])
      .map((index) => ({ seconds: from + (at[index] - bars[bar]) / 2, pitch: pitch[index] }));
  });
};
const straight = [0, 1, 2, 3, 4, 5, 6, 7];
const rowsOf = ({ occurrenceOf, occurrences }: ReturnType<typeof follow>) =>
  Array.from(occurrenceOf, (occurrence) => (occurrence < 0 ? -1 : occurrences[occurrence].row));

describe('a performance along its score', () => {
  it('pairs every note of one that plays what is written, however it breathes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.85, max: 1.18, noNaN: true }), { minLength: 32, maxLength: 32 }),
        (breaths) => {
          let at = 0;
          const strokes = TUNE.map(({ pitch }, index) => {
            at += 0.5 * breaths[index];
            return { seconds: at, pitch };
          });
          const found = follow(score, playing(strokes));
          expect(rowsOf(found)).toEqual(TUNE.map((_, index) => index));
          expect(found.passages).toHaveLength(1);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('tells a wrong note, a missing one and an extra one', () => {
    const strokes = played(score, straight);
    strokes[5] = { ...strokes[5], pitch: strokes[5].pitch + 1 };
    const extra = { seconds: 6.2, pitch: 31 };
    const without = strokes.filter((_, index) => index !== 20);
    const found = follow(score, playing([...without, extra]));
    const at = playing([...without, extra]);
    expect(found.isRight[5]).toBe(0);
    expect(rowsOf(found)[5]).toBe(5);
    expect(
      [...found.playedOf].flatMap((of, index) => (of < 0 ? [found.occurrences[index].row] : [])),
    ).toEqual([20]);
    expect([...found.occurrenceOf].flatMap((of, index) => (of < 0 ? [at.pitch[index]] : []))).toEqual([31]);
  });

  it.each([
    ['a stretch that is played twice', [0, 1, 2, 3, 2, 3, 4, 5, 6, 7], [[3, 2]]],
    ['a bar that is left out', [0, 1, 2, 3, 5, 6, 7], [[3, 5]]],
    ['a start over', [0, 1, 0, 1, 2, 3, 4, 5, 6, 7], [[1, 0]]],
  ])('finds %s', (_, order, jumps) => {
    const found = follow(score, playing(played(score, order)));
    expect(
      found.passages.slice(1).map(({ firstBar }, index) => [found.passages[index].lastBar, firstBar]),
    ).toEqual(jumps);
    expect(found.occurrences).toHaveLength(order.length * 4);
    expect(found.playedOf.includes(-1)).toBe(false);
  });

  it('takes a repeat that is written without calling for anything, and leaves it out as well', () => {
    const repeated = scoreOf(TUNE, { ...barsOf(8), order: [0, 1, 2, 3, 0, 1, 2, 3, 4, 5, 6, 7] });
    for (const order of [repeated.order ?? [], straight]) {
      const found = follow(repeated, playing(played(repeated, order)));
      expect(found.playedOf.includes(-1)).toBe(false);
      expect(found.passages).toHaveLength(order.length > 8 ? 2 : 1);
    }
  });

  it('begins where the playing begins', () => {
    const found = follow(score, playing(played(score, [4, 5, 6, 7])));
    expect(found.passages.map(({ firstBar }) => firstBar)).toEqual([4]);
    expect(found.playedOf.includes(-1)).toBe(false);
  });

  it('holds to what a person said of two bars that are alike', () => {
    const alike = scoreOf(
      [0, 1, 2, 3].flatMap((bar) => [60, 64, 67, 72].map((pitch, beat) => row(bar * 4 + beat, pitch))),
      barsOf(4),
    );
    const strokes = playing(played(alike, [0, 1]));
    expect(follow(alike, strokes).passages[0].firstBar).toBe(0);
    const said = follow(alike, strokes, [{ seconds: 0, bar: 2 }]);
    expect(said.passages[0].firstBar).toBe(2);
    expect(rowsOf(said)).toEqual([8, 9, 10, 11, 12, 13, 14, 15]);
  });

  it('tells when each quarter was played, also of one with no note on it', () => {
    const sparse = scoreOf([row(0, 60), row(1, 62), row(3, 64)], barsOf(1));
    const strokes = [
      { seconds: 1, pitch: 60 },
      { seconds: 1.5, pitch: 62 },
      { seconds: 2.7, pitch: 64 },
    ];
    const { clock } = follow(sparse, playing(strokes));
    expect([0, 1, 2, 3].map((place) => secondsAt(clock, place))).toEqual([1, 1.5, 2.1, 2.7]);
  });

  it('says what it can of nothing', () => {
    const none = playing([]);
    expect(follow(score, none).occurrences).toEqual([]);
    const unwritten = follow(scoreOf([], barsOf(1)), playing([{ seconds: 0, pitch: 60 }]));
    expect([...unwritten.occurrenceOf]).toEqual([-1]);
  });

  it('gives every played note to at most one written note, and the other way round, whatever was played', () => {
    const stroke = fc.record({
      seconds: fc.double({ min: 0, max: 30, noNaN: true }),
      pitch: fc.integer({ min: 55, max: 85 }),
    });
    fc.assert(
      fc.property(fc.array(stroke, { maxLength: 80 }), (strokes) => {
        const { occurrenceOf, playedOf } = follow(score, playing(strokes));
        occurrenceOf.forEach((occurrence, played) => {
          if (occurrence >= 0) expect(playedOf[occurrence]).toBe(played);
        });
        playedOf.forEach((played, occurrence) => {
          if (played >= 0) expect(occurrenceOf[played]).toBe(occurrence);
        });
      }),
      { numRuns: 80 },
    );
  });
});
