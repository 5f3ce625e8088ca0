import { plainBars, scoreOf } from '../following';
import { createTimeline } from '../time';
import { compareToScore } from './compareToScore';

const timeline = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);
/** Four bars of quarters, no two bars alike. */
const ROWS = Array.from({ length: 16 }, (_, at) => ({
  at,
  length: 1,
  pitch: 50 + ((at * 5) % 17),
  velocity: 80,
}));
const score = scoreOf(ROWS, plainBars([0, 4, 8, 12, 16]));
const take = (notes: readonly { at: number; pitch: number }[]) => ({
  start: Float64Array.from(notes, ({ at }) => at * 480 + 9),
  pitch: Uint8Array.from(notes, ({ pitch }) => pitch),
});

describe('takes beside their score', () => {
  it('count what is missing, wrong and extra in the bar it is written in or was played in', () => {
    const whole = take(ROWS);
    const faulty = take(
      ROWS.filter(({ at }) => at !== 5)
        .map((note) => (note.at === 13 ? { ...note, pitch: note.pitch + 1 } : note))
        .flatMap((note) => (note.at === 8 ? [note, { at: 8.5, pitch: 90 }] : [note])),
    );
    const [first, second] = compareToScore([whole, faulty], score, 4, timeline);
    expect([[...first.missing], [...first.extra]]).toEqual([
      [0, 0, 0, 0],
      [0, 0, 0, 0],
    ]);
    expect([[...second.missing], [...second.extra]]).toEqual([
      [0, 1, 0, 1],
      [0, 0, 1, 1],
    ]);
  });

  it('takes what was played from bar 3 on as that', () => {
    const [late] = compareToScore([take(ROWS.slice(8))], score, 4, timeline);
    expect([[...late.missing], [...late.extra]]).toEqual([
      [0, 0, 0, 0],
      [0, 0, 0, 0],
    ]);
  });

  it('says nothing of no notes', () => {
    const [none] = compareToScore([take([])], score, 2, timeline);
    expect([...none.missing, ...none.extra]).toEqual([0, 0, 0, 0]);
  });
});
