import { comparisonReport, readingsReport } from '.';

const figures = { notes: 12, biasMs: -14.26, spreadMs: 11.04, swing: null, velocity: 80.4 };
const bin = (from: number, before: number, after: number) => ({
  from,
  to: from + 5,
  before: { notes: before, value: before },
  after: { notes: after, value: after },
});

describe('reports', () => {
  const page = readingsReport({
    session: 'Quay <b>',
    made: 'Made today.',
    where: 'bars 1 to 4',
    parts: [
      {
        name: 'Bass & drums',
        grid: '1/8',
        before: figures,
        after: { ...figures, spreadMs: 2.2, biasMs: 0 },
        charts: [
          {
            caption: 'off the lines',
            bins: [bin(-5, 3, 0), bin(0, 4, 9)],
            marks: [{ bin: 1, mark: '0' }],
            isCounted: true,
          },
        ],
        steps: ['Nudge +14 ms', 'Quantize 1/8'],
      },
    ],
    findings: [{ part: 'Bass & drums', place: '3.1', kind: 'overlap', reason: 'C2 < C3' }],
  });

  it('tell before and after, with nothing of a name taken for markup, and fetch nothing', () => {
    expect(page).toContain('2.2 <span class="quiet">was 11.0</span>');
    expect(page).toContain('0.0 <span class="quiet">was −14.3</span>');
    expect(page).toContain('Quay &lt;b&gt;');
    expect(page).toContain('Bass &amp; drums');
    expect(page).toContain('C2 &lt; C3');
    expect(page).toContain('Nudge +14 ms; Quantize 1/8');
    expect(page).not.toMatch(/<script|https?:|<b>/);
    // Nine of ten, the round end of the scale, which tells it and 0.
    expect(page).toContain('height="54.0" fill="#2f4487"');
    for (const told of ['>0</text>', '>10</text>']) expect(page).toContain(told);
  });

  it('tell how two performances differ', () => {
    const compared = comparisonReport({
      one: 'Take 2',
      other: 'Take 1',
      made: '',
      counts: { same: 3, moved: 1, changed: 0, missing: 2, extra: 0 },
      slidMs: -1200,
      laterMs: { mean: 4.04, deviation: 7.2 },
      differences: [{ kind: 'moved', place: '1.2.000', note: 'C4', laterMs: 18.4, louder: 0, longerMs: -30 }],
    });
    expect(compared).toContain('Take 1 was slid 1200 ms earlier');
    expect(compared).toContain('4.0 ms later on average, 7.2 ms about that');
    expect(compared).toContain(
      '<th scope="row">1.2.000</th><td>C4</td><td>moved</td><td>18.4</td><td></td><td>−30</td>',
    );
    expect(compared).toContain('<th scope="row">missing</th><td>2</td>');
  });
});
