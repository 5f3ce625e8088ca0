import { createEvaluator } from '../evaluate';
import { readMidi, writeMidi } from '../midi';
import { orderedOf, listOf, sessionOfFile, type Part } from '../session';
import { createStep, type Step } from '../steps';
import { createTimeline } from '../time';
import { fileOfNotes } from '../testing/files';
import { viewOfPart } from './viewOfPart';

function setUp(steps: Step[]) {
  let next = 0;
  const { file } = readMidi(
    writeMidi(
      fileOfNotes([
        [10, 200, 60, 80],
        [250, 400, 62, 70],
        [470, 600, 64, 60],
      ]),
    ),
  );
  const { session, takes } = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  const part: Part = {
    ...listOf(session.parts)[0],
    steps: orderedOf(steps.map((step, index) => ({ id: `s${index}`, step }))),
  };
  const timeline = createTimeline(session.division, session.tempos, session.meters);
  const evaluation = createEvaluator(() => takes[0]).evaluate(part, session, timeline);
  const view = (stop: number, cleaned = false, details = false) =>
    viewOfPart({ stop, cleaned, grid: '1/16', details }, { part, evaluation, timeline });
  return { view };
}

describe('what the Bench shows of a stop', () => {
  const quantize = createStep('quantize');
  const edits = createStep('edits', {
    change: { '1': { pitch: 65 }, '77': { pitch: 1 } },
    add: [{ id: 9, start: 960, end: 1000, pitch: 50, velocity: 90, channel: 1 }],
  });

  it('are the notes there, with the stop before as the trace; at cleaned it is as played', () => {
    const { view } = setUp([quantize, createStep('nudge', { ticks: 30 })]);
    expect(view(0).traceStart).toBeNull();
    expect([...view(1).notes.start]).toEqual([0, 240, 480]);
    expect([...(view(1).traceStart ?? [])]).toEqual([10, 250, 470]);
    expect([...(view(2).traceStart ?? [])]).toEqual([0, 240, 480]);
    expect([...(view(2, true).traceStart ?? [])]).toEqual([10, 250, 470]);
  });

  it('tells how late notes are, the spread at every stop, and what the step did', () => {
    const { view } = setUp([quantize]);
    expect([...view(0).late].map(Math.round)).toEqual([10, 10, -10]);
    const shown = view(1);
    expect(shown.offMs.map((off) => Math.round(off))).toEqual([10, 0]);
    expect(shown.reading).toMatchObject({ touched: 3, moved: 3 });
    expect(shown.reading?.typicalMs).toBeCloseTo(10.42, 1);
  });

  it('lists edits that find no note, and for the note list who touched what', () => {
    const { view } = setUp([quantize, edits]);
    const shown = view(2, false, true);
    expect(shown.lostEdits).toEqual([77]);
    expect([...(shown.touchedBy ?? [])]).toEqual([1, 3, 1, 2]);
    expect([...(shown.playedStart ?? [])]).toEqual([10, 250, 470, NaN]);
    expect(view(2).touchedBy).toBeNull();
  });
});
