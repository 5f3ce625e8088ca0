import { createTimeline, partFacts } from '@ordle/core';
import { notesFreely } from './free';
import { KINDS, make } from './made';
import { SEEDS, scoreOf } from './suggest';

describe('suggestions', () => {
  it.each(KINDS)('harm nothing of what was meant: %s', (kind) => {
    const scores = Array.from({ length: SEEDS }, (_, seed) => scoreOf(make(kind, seed)));
    const done = scores.filter(({ isLeft }) => !isLeft);
    expect(done.length).toBeGreaterThan(SEEDS / 2);
    expect(scores.reduce((sum, { onLine }) => sum + onLine, 0) / SEEDS).toBeGreaterThanOrEqual(0.995);
    // Where off-beats are late by chance the swing that is played is not the one that is written.
    expect(done.filter(({ biasMs }) => biasMs >= 2).length).toBeLessThanOrEqual(1);
    for (const { biasMs, roll, swing } of done) {
      expect(biasMs).toBeLessThan(3);
      expect(roll).toBeGreaterThanOrEqual(0.7);
      expect(swing).toBeLessThanOrEqual(1.5);
    }
  });

  it.each(KINDS)('know what keeps to the bars, and what was played freely: %s', (kind) => {
    for (let seed = 0; seed < 2 * SEEDS; seed++) {
      const made = make(kind, seed);
      const at = (bpm: number) =>
        createTimeline(
          { kind: 'metrical', ticksPerQuarter: 960 },
          [{ tick: 0, microsecondsPerQuarter: 60e6 / bpm }],
          [],
        );
      const follows = (notes: typeof made.notes, bpm: number) =>
        partFacts(notes, at(bpm), undefined, made.isDrums).followsBars;
      expect([seed, follows(made.notes, made.bpm)]).toEqual([seed, true]);
      expect([seed, follows(notesFreely(made, seed), 120)]).toEqual([seed, false]);
    }
  });
});
