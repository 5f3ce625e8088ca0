import fc from 'fast-check';
import { Key } from 'tonal';
import { noteTableOf } from '../model';
import { timeline } from '../testing/stepBench';
import { quartersOf } from '../time';
import { estimateKey, likelyGrid, partFacts } from '.';

/** Notes a beat long on some pitches. */
const sounding = (pitches: number[]) =>
  noteTableOf(pitches.map((pitch, index) => ({ start: index * 960, end: (index + 1) * 960, pitch })));

describe('the likely key', () => {
  // Scales by tonal. A scale that begins and ends on its tonic sounds that one longest, as music does.
  const pitchOf = (name: string) =>
    ({ C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 })[name[0] as 'C'] +
    (name.includes('#') ? 1 : name.includes('b') ? 11 : 0);
  it.each(['C', 'G', 'D', 'F', 'Bb', 'Eb', 'A'])(
    '%s major and its relative minor, each told from its own scale',
    (tonic) => {
      const major = Key.majorKey(tonic);
      const scale = major.scale.map((name) => 60 + (pitchOf(name) % 12));
      const weighted = [...scale, scale[0], scale[4], scale[0], scale[2]];
      expect(estimateKey(sounding(weighted))?.key).toBe(`${tonic} major`);
      const minor = Key.minorKey(major.minorRelative).natural.scale.map((name) => 60 + (pitchOf(name) % 12));
      const dark = [...minor, minor[0], minor[0], minor[4], minor[2]];
      expect(estimateKey(sounding(dark))?.key).toBe(`${major.minorRelative} minor`);
    },
  );

  it('moves with the music, and says nothing where there is nothing to say', () => {
    const tune = [60, 62, 64, 65, 67, 69, 71, 72, 67, 64, 60];
    const tonics = Array.from(
      { length: 12 },
      (_, by) => estimateKey(sounding(tune.map((pitch) => pitch + by)))?.key,
    );
    expect(tonics).toEqual(
      ['C', 'Db', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'].map((name) => `${name} major`),
    );
    expect(estimateKey(noteTableOf([]))).toBeNull();
    expect(estimateKey(sounding(Array.from({ length: 12 }, (_, pitch) => 60 + pitch)))).toBeNull();
  });
});

describe('the likely grid', () => {
  it.each(['1/4', '1/8', '1/8T', '1/16', '1/16T', '1/32'])('finds %s under human unevenness', (grid) => {
    const step = quartersOf(grid) * 960;
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 48, maxLength: 96 }),
        (uneven) => {
          // Up to 8 % of a step to either side, at most 16 ms, and 5 ms late throughout.
          const most = Math.min(0.08 * step, 30);
          const notes = uneven.map((by, index) => ({
            start: 960 + index * step + by * most + 9.6,
            end: 960 + index * step + 400,
          }));
          expect(likelyGrid(noteTableOf(notes), timeline)).toEqual({ grid, swing: 50 });
        },
      ),
      { numRuns: 30 },
    );
  });

  it.each(['1/8', '1/16'])('finds the swing of %s under human unevenness, not a finer grid', (grid) => {
    const step = quartersOf(grid) * 960;
    fc.assert(
      fc.property(
        fc.integer({ min: 57, max: 70 }),
        fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 48, maxLength: 96 }),
        (swing, uneven) => {
          const notes = uneven.map((by, index) => ({
            start: 960 + index * step + (index % 2) * (swing / 50 - 1) * step + by * 12,
            end: 960 + index * step + 400,
          }));
          const found = likelyGrid(noteTableOf(notes), timeline);
          expect(found.grid).toBe(grid);
          expect(Math.abs(found.swing - swing)).toBeLessThanOrEqual(2);
        },
      ),
      { numRuns: 30 },
    );
  });

  it('takes sixteenths where there is nothing to go by', () => {
    expect(likelyGrid(noteTableOf([]), timeline)).toEqual({ grid: '1/16', swing: 50 });
    expect(likelyGrid(noteTableOf([{ start: 77 }]), timeline)).toEqual({ grid: '1/16', swing: 50 });
  });
});

describe('facts of a part', () => {
  it('tells chords, range, loudness, the shortest note and the habit of being late', () => {
    const beats = [0, 1, 2, 3].flatMap((beat) =>
      [60, 64].map((pitch, voice) => ({
        start: 960 * (beat + 1) + 19.2 + voice * 5,
        end: 960 * (beat + 1) + 500,
        pitch,
        velocity: 70 + voice * 20,
      })),
    );
    const facts = partFacts(
      noteTableOf([...beats, { start: 4800, end: 4819.2, pitch: 72, velocity: 100 }]),
      timeline,
    );
    expect(facts).toMatchObject({
      notes: 9,
      chordShare: 8 / 9,
      pitches: [60, 72],
      medianVelocity: 90,
      grid: '1/4',
    });
    expect(facts.shortestMs).toBeCloseTo(10, 6);
    expect(facts.biasMs).toBeCloseTo(10, 5);
    expect(partFacts(noteTableOf([]), timeline)).toMatchObject({
      notes: 0,
      pitches: null,
      biasMs: 0,
      key: null,
    });
  });
});
