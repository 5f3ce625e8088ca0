import fc from 'fast-check';
import { noteTableOf, rowsNamed } from '../model';
import { applyStep, createStep } from '../steps';
import { MS, context, noEvents, timeline } from '../testing/stepBench';
import { collisionsOf, countOfCollisions, mendCollisions } from '.';

describe('notes that came to lie on others', () => {
  it('are told from those that lie so among themselves', () => {
    const table = noteTableOf([
      { id: 1, start: 0, end: 500, pitch: 60 },
      { id: 2, start: 400, end: 900, pitch: 60 },
      { id: 3, start: 400, end: 900, pitch: 64 },
      { id: 4, start: 400, end: 700, pitch: 64 },
      { id: 5, start: 2000, end: 2100, pitch: 60 },
    ]);
    const found = collisionsOf(table, rowsNamed(table.id, new Set([2, 3])), false);
    expect(found.overlaps).toEqual([{ earlier: 0, later: 1 }]);
    expect(found.doubles).toHaveLength(1);
    expect(countOfCollisions(collisionsOf(table, rowsNamed(table.id, new Set([1, 2, 3, 4])), false))).toBe(0);
  });

  it('are put right by a click: a flam is a flam again, the earlier ends, of doubles the longer stays', () => {
    const drums = noteTableOf([
      { id: 1, start: 960, end: 1000, pitch: 38, velocity: 110 },
      { id: 2, start: 960, end: 1000, pitch: 40, velocity: 30 },
    ]);
    const flams = collisionsOf(drums, rowsNamed(drums.id, new Set([2])), true);
    const start = Math.round(960 - 30 * MS);
    expect(mendCollisions(drums, flams, timeline)).toMatchObject({
      change: { 2: { start, end: start + 40 } },
      delete: [],
    });
    const anyTable = fc
      .array(fc.record({ start: fc.nat(40), length: fc.integer({ min: 1, max: 20 }), pitch: fc.integer({ min: 60, max: 61 }) }), { maxLength: 8 })
      .map((list) => noteTableOf(list.map(({ start, length, pitch }, id) => ({ id, start, end: start + length, pitch })))); // prettier-ignore
    fc.assert(
      fc.property(anyTable, fc.nat(255), (table, mask) => {
        const chosen = new Set([...table.id].filter((id) => (mask >> id) & 1));
        const found = collisionsOf(table, rowsNamed(table.id, chosen), false);
        const edits = mendCollisions(table, found, timeline);
        const after = applyStep(
          { notes: table, events: noEvents },
          createStep('edits', edits),
          context,
        ).notes;
        expect(countOfCollisions(collisionsOf(after, rowsNamed(after.id, chosen), false))).toBe(0);
      }),
    );
  });
});
