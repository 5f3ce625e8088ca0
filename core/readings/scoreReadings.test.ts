import { createStep } from '../steps';
import { playerReport } from '../report';
import { playedAsWritten, scoredSession } from '../testing/scoredSession';
import { scoreReadingsOf } from '.';

describe('a part read against its score', () => {
  // 48 ticks late in every second bar, 50 ms at 120 bpm; the first note far too short.
  const played = playedAsWritten((at) => (Math.floor(at / 4) % 2 === 1 ? 48 : 0)).map(
    ([start, end, pitch, velocity], at): [number, number, number, number] => [
      start,
      at === 0 ? start + 100 : end,
      pitch,
      velocity,
    ],
  );

  it('tells how late it is on average, by place and along the bars, as played and as cleaned', () => {
    const { withSteps, evaluator, timeline } = scoredSession(played);
    const { part, session } = withSteps(createStep('score'));
    const readings = scoreReadingsOf(part, session, evaluator, timeline);
    expect(readings?.played).toMatchObject({ written: 16, right: 16, wrong: 0, missing: 0, extra: 0 });
    expect(readings?.played.biasMs).toBeCloseTo(25, 6);
    expect(readings?.played.spreadMs).toBeCloseTo(25, 6);
    expect([readings?.played.late, readings?.played.early]).toEqual([8, 0]);
    expect(readings?.cleaned.biasMs).toBeCloseTo(0, 6);
    expect(readings?.alongBars.map(({ before }) => Math.round(before.value ?? -1))).toEqual([0, 50, 0, 50]);
    expect(readings?.alongBars.map(({ after }) => Math.round(after.value ?? -1))).toEqual([0, 0, 0, 0]);
    // Eighths of the bar: notes on every second.
    expect(readings?.byPlace.map(({ before }) => before.notes)).toEqual([4, 0, 4, 0, 4, 0, 4, 0]);
    expect(readings?.byPlace[0].before.value).toBeCloseTo(25, 6);
  });

  it('tells how long notes are held beside what is written, and how loud they are', () => {
    const { part, session, evaluator, timeline } = scoredSession(played);
    const figures = scoreReadingsOf(part, session, evaluator, timeline)?.played;
    expect(figures?.lengthPct).toBeCloseTo((100 * 400) / 480, 6);
    expect([figures?.short, figures?.long]).toEqual([1, 0]);
    // Velocities 70 to 85 where 80 is written.
    expect(figures?.louder).toBeCloseTo(-2.5, 6);
    expect(figures?.unevenness).toBeCloseTo(Math.sqrt(21.25), 6);
  });

  it('names the bars in which something is wrong', () => {
    const { part, session, evaluator, timeline } = scoredSession(played.filter((_, at) => at !== 6));
    const readings = scoreReadingsOf(part, session, evaluator, timeline);
    expect(readings?.bars.map(({ name, missing }) => [name, missing])).toEqual([
      ['1', 0],
      ['2', 1],
      ['3', 0],
      ['4', 0],
    ]);
  });
});

describe('a report for a player', () => {
  it('says what it is given, and takes names for text', () => {
    const page = playerReport({
      part: 'Quay <b>',
      score: 'Tide & "table"',
      made: 'Made today.',
      sentences: ['15 of 16 notes were played right.'],
      charts: [],
      bars: [{ name: '2', wrong: 0, missing: 1, extra: 0, offMs: 12.4 }],
      faults: [{ place: '2.3', what: 'C4 is written <here>' }],
    });
    expect(page).toContain('<h1>Quay &lt;b&gt;</h1>');
    expect(page).toContain('Tide &amp; &quot;table&quot;');
    expect(page).toContain('C4 is written &lt;here&gt;');
    expect(page).toContain('<td>12</td>');
  });
});
