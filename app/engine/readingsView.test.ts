import {
  createEvaluator,
  listOf,
  mapItems,
  orderedOf,
  createStep,
  readMidi,
  sessionOfFile,
  timelineOf,
  writeMidi,
} from '@ordle/core';
import { fileOfNotes } from '../../core/testing/files';
import { BINS, readingsViewOf } from './readingsView';

/** Sixteenths of 120 ticks at 120 bpm (0.96 ticks a ms), each `late` ticks after its line. */
const view = (late: number, quantized = false) => {
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
  return readingsViewOf(parts, '1/16', timeline).parts[0];
};

describe('readings of parts', () => {
  it('are milliseconds: 12 ticks late at 480 a quarter and 120 bpm are 12.5 ms', () => {
    const { played } = view(12);
    expect(played.biasMs).toBeCloseTo(12.5, 4);
    expect(played.spreadMs).toBeCloseTo(0, 2);
    expect(played.velocity).toBeCloseTo(65.5, 6);
    expect(Array.from(played.bins).reduce((sum, each) => sum + each, 0)).toBe(32);
    expect(played.bins[(BINS - 1) / 2 + 3] + played.bins[(BINS - 1) / 2 + 2]).toBe(32);
  });

  it('tell the part as cleaned beside the part as played', () => {
    const { played, cleaned, grids } = view(12, true);
    expect(played.biasMs).toBeCloseTo(12.5, 4);
    expect(cleaned.biasMs).toBeCloseTo(0, 6);
    expect(cleaned.bins[(BINS - 1) / 2]).toBe(32);
    expect(grids.find(({ grid }) => grid === '1/16')?.fit).toBeCloseTo(1, 3);
  });
});
