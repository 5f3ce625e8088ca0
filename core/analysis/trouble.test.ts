import fc from 'fast-check';
import { noteTableOf } from '../model';
import { createTempoMap } from '../time';
import { TROUBLE_MS, latenessStrip, reachOfStrip, troublesOf } from '.';

/** 480 ticks a quarter at 120 quarters a minute: a tick is 1/960 second. */
const tempo = createTempoMap({ kind: 'metrical', ticksPerQuarter: 480 }, []);
const notesAt = (starts: number[]) =>
  noteTableOf(starts.map((start, id) => ({ id, start, end: start + 100, pitch: 60 })));

describe('trouble', () => {
  it('is where notes are audibly off, those close together in one place', () => {
    const notes = notesAt([0, 480, 720, 2000, 2100]);
    const places = troublesOf(notes, [0, 25, -40, 30, 19], tempo);
    expect(places).toEqual([
      { from: 480, to: 820, rows: [1, 2], worst: -40 },
      { from: 2000, to: 2100, rows: [3], worst: 30 },
    ]);
    expect(troublesOf(notes, [0, 1, -20, NaN, 20], tempo)).toEqual([]);
  });

  it('holds each note that is too far off once, and no other', () => {
    const list = fc.array(fc.tuple(fc.nat(5000), fc.integer({ min: -80, max: 80 })), { maxLength: 60 });
    fc.assert(
      fc.property(list, (pairs) => {
        const sorted = [...pairs].sort((a, b) => a[0] - b[0]);
        const late = sorted.map(([, ms]) => ms);
        const found = troublesOf(notesAt(sorted.map(([start]) => start)), late, tempo);
        const far = late.flatMap((ms, row) => (Math.abs(ms) > TROUBLE_MS ? [row] : []));
        expect(found.flatMap(({ rows }) => rows)).toEqual(far);
        for (const { rows, worst } of found)
          expect(Math.abs(worst)).toBe(Math.max(...rows.map((row) => Math.abs(late[row]))));
      }),
    );
  });

  it('is told along the part: the most late and the most early of each stretch', () => {
    const strip = latenessStrip(Float64Array.of(0, 10, 20, 990, 1000), [5, -7, 12, -3, 4], 1000, 2);
    expect([...strip.late]).toEqual([12, 4]);
    expect([...strip.early]).toEqual([7, 3]);
    expect(reachOfStrip(strip)).toBe(20);
    expect(reachOfStrip({ late: Float32Array.of(0, 31), early: Float32Array.of(58, 44) })).toBe(50);
  });
});
