import fc from 'fast-check';
import { noteTableOf, type Note } from '../model';
import { createStep } from '../steps';
import { applyStep } from '../steps';
import { context, material } from '../testing/stepBench';
import { readPart, swingOf } from './partReading';

// 960 ticks a quarter at 120 bpm: a sixteenth is 240 ticks, a millisecond 1.92.
const { timeline } = context;
const notesAt = (starts: readonly number[], more: Partial<Note> = {}) =>
  noteTableOf(
    starts.map((start, id) => ({
      id,
      start,
      end: start + 96,
      pitch: 60 + (id % 7),
      velocity: 80,
      release: 64,
      channel: 0,
      ...more,
    })),
  );

describe('what is measured of a part', () => {
  it('is the mean of the deviations, their spread about it, and both together', () => {
    // 10, 20 and 30 ms late.
    const read = readPart(notesAt([19.2, 240 + 38.4, 480 + 57.6]), '1/16', timeline);
    expect(read.biasMs).toBeCloseTo(20, 6);
    expect(read.spreadMs).toBeCloseTo(Math.sqrt(200 / 3), 6);
    expect(read.offMs).toBeCloseTo(Math.sqrt((100 + 400 + 900) / 3), 6);
    expect(read.medianLengthMs).toBeCloseTo(50, 6);
    expect(read.velocity).toEqual({ mean: 80, deviation: 0, low: 80, high: 80 });
  });

  it('is nothing without notes, and no key of drums', () => {
    expect(readPart(notesAt([]), '1/16', timeline)).toMatchObject({ notes: 0, biasMs: null, grids: [] });
    expect(readPart(notesAt([0, 240], { channel: 9 }), '1/16', timeline).key).toBeNull();
  });

  it('finds the swing that a quantize step gave', () => {
    const starts = Array.from({ length: 32 }, (_, at) => at * 240);
    fc.assert(
      // From 62.5 on the nearest straight line is another one.
      fc.property(fc.integer({ min: 50, max: 61 }), (swing) => {
        const straight = material(starts.map((start) => ({ start, end: start + 100 })));
        const swung = applyStep(straight, createStep('quantize', { grid: '1/16', swing }), context);
        expect(swingOf(swung.notes, '1/16', timeline)).toBeCloseTo(swing, 6);
      }),
    );
    expect(swingOf(notesAt([0, 480, 960]), '1/16', timeline)).toBeNull();
  });

  it('counts as colliding what a count of all pairs of key and line finds', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 4000 }), { minLength: 2, maxLength: 40 }), (list) => {
        // Never halfway between two lines, where either may be meant.
        const starts = list
          .map((start) => start + (start % 240 === 120 ? 1 : 0))
          .sort((one, other) => one - other);
        const { grids } = readPart(notesAt(starts), '1/16', timeline);
        const places = starts.map((start, id) => `${60 + (id % 7)} ${Math.round(start / 240)}`);
        expect(grids.find(({ grid }) => grid === '1/16')?.collisions).toBe(
          places.length - new Set(places).size,
        );
      }),
    );
  });

  it('counts pairs that sound at once, and notes a grid would put on each other', () => {
    const held = notesAt([0, 100, 200], { pitch: 60, end: 1000 });
    expect(readPart(held, '1/16', timeline).overlaps).toBe(3);
    const grids = Object.fromEntries(
      readPart(held, '1/16', timeline).grids.map(({ grid, collisions }) => [grid, collisions]),
    );
    expect(grids).toMatchObject({ '1/4': 2, '1/16': 1 });
  });

  it('counts as overlapping what a count of all pairs finds', () => {
    const spans = fc.array(
      fc.tuple(fc.nat(300), fc.integer({ min: 1, max: 200 }), fc.integer({ min: 60, max: 62 })),
      {
        maxLength: 30,
      },
    );
    fc.assert(
      fc.property(spans, (list) => {
        const sorted = [...list].sort((a, b) => a[0] - b[0]);
        const notes = noteTableOf(
          sorted.map(([start, length, pitch], id) => ({
            id,
            start,
            end: start + length,
            pitch,
            velocity: 80,
            release: 64,
            channel: 0,
          })),
        );
        let pairs = 0;
        for (let row = 0; row < notes.length; row++)
          for (let before = 0; before < row; before++)
            if (notes.pitch[before] === notes.pitch[row] && notes.end[before] > notes.start[row]) pairs++;
        expect(readPart(notes, '1/16', timeline).overlaps).toBe(pairs);
      }),
    );
  });

  it('says of a grid how much better it fits than chance, a finer one no better for being finer', () => {
    const eighths = notesAt(Array.from({ length: 40 }, (_, at) => at * 480 + ((at * 7919) % 29)));
    const fit = Object.fromEntries(
      readPart(eighths, '1/8', timeline).grids.map((each) => [each.grid, each.fit]),
    );
    expect(fit['1/8']).toBeGreaterThan(0.9);
    expect(fit['1/8']).toBeGreaterThan(fit['1/16']);
    expect(fit['1/16']).toBeGreaterThan(fit['1/32']);
    expect(fit['1/4']).toBeLessThan(0.3);
  });
});
