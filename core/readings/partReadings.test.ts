import { createEvaluator } from '../evaluate';
import { readMidi, writeMidi } from '../midi';
import { listOf, mapItems, orderedOf, sessionOfFile, timelineOf } from '../session';
import { createStep } from '../steps';
import { fileOfNotes } from '../testing/files';
import { notesOfChart, readingsOfParts } from './partReadings';

/** Sixteenths of 120 ticks at 120 bpm (0.96 ticks a ms), each `late` ticks after its line. */
const read = (late: number, quantized = false) => {
  const notes = Array.from({ length: 32 }, (_, at): [number, number, number, number] => [
    at * 120 + late,
    at * 120 + late + 90,
    60 + (at % 12),
    50 + at,
  ]);
  const file = readMidi(writeMidi(fileOfNotes(notes, 480))).file;
  let next = 0;
  const { session: opened, takes } = sessionOfFile(file, '', () => `id${next++}`, 0);
  const steps = orderedOf(quantized ? [{ id: 's', step: createStep('quantize', { grid: '1/16' }) }] : []);
  const session = { ...opened, parts: mapItems(opened.parts, (part) => ({ ...part, steps })) };
  const evaluator = createEvaluator((key) => takes.find((take) => take.key === key) ?? takes[0]);
  const timeline = timelineOf(session);
  const parts = listOf(session.parts).map((part) => ({
    part,
    evaluation: evaluator.evaluate(part, session, timeline),
  }));
  return { parts, by: { shown: '1/16', timeline, where: {} } };
};
const view = (...asked: Parameters<typeof read>) => {
  const { parts, by } = read(...asked);
  return readingsOfParts(parts, by).parts[0];
};

describe('readings of parts', () => {
  it('are milliseconds: 12 ticks late at 480 a quarter and 120 bpm are 12.5 ms', () => {
    const { played, charts } = view(12);
    expect(played.biasMs).toBeCloseTo(12.5, 4);
    expect(played.spreadMs).toBeCloseTo(0, 2);
    expect(played.velocity).toBeCloseTo(65.5, 6);
    const off = charts['off-the-lines'];
    expect(off.reduce((sum, { before }) => sum + before.notes, 0)).toBe(32);
    const there = off.filter(({ before }) => before.notes > 0);
    expect(there.every(({ from, to }) => from <= 12.5001 && to >= 12.4999)).toBe(true);
  });

  it('tell the part as cleaned beside the part as played', () => {
    const { played, cleaned, charts, grids } = view(12, true);
    expect(played.biasMs).toBeCloseTo(12.5, 4);
    expect(cleaned.biasMs).toBeCloseTo(0, 6);
    expect(charts['off-the-lines'].find(({ after }) => after.notes > 0)).toMatchObject({
      from: -2.5,
      after: { notes: 32 },
    });
    expect(charts['by-place'].map(({ from }) => from)).toHaveLength(16);
    expect(grids.find(({ grid }) => grid === '1/16')?.fit).toBeCloseTo(1, 3);
  });

  it('of some bars are of the notes of those bars, and name the notes of a bin', () => {
    const { parts, by } = read(12);
    const second = { ...by, where: { bars: [2, 3] as [number, number] } };
    expect(readingsOfParts(parts, second).parts[0].played.notes).toBe(16);
    const asked = { kind: 'by-place', side: 'after', bin: 4 } as const;
    const { ids, tick } = notesOfChart(asked, parts[0], second);
    expect(ids).toHaveLength(1);
    expect(tick).toBe(1920 + 480 + 12);
  });
});
