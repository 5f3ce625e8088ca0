import fc from 'fast-check';
import { lanesIn, readLane } from '../curves';
import { createEventBuilder } from '../midi';
import type { Material } from '../model';
import { applyStep, createStep } from '../steps';
import { context, material } from '../testing/stepBench';
import type { Block } from './blocks';
import { independent } from './independent';

// 960 ticks a quarter, 4/4 at 120 bpm. Places of blocks are quarters.
const block = (id: string, from: number, to: number, at: number, times = 1): Block => ({
  id,
  from,
  to,
  at,
  times,
  stretch: 1,
  held: 'ring',
});
const events = (points: readonly (readonly [quarter: number, controller: number, value: number])[]) => {
  const builder = createEventBuilder(points.length);
  for (const [quarter, controller, value] of [...points].sort((a, b) => a[0] - b[0]))
    builder.add(quarter * 960, 0xb0, controller, value);
  return builder.build();
};
const heard = ({ notes }: Material) =>
  Array.from(notes.start, (start, row) => [
    start,
    notes.end[row],
    notes.pitch[row],
    notes.velocity[row],
    notes.release[row],
  ]).sort((a, b) => a[0] - b[0] || a[2] - b[2] || a[1] - b[1] || a[3] - b[3] || a[4] - b[4]);
const lanes = ({ events: all }: Material) =>
  lanesIn(all)
    .map(({ lane }) => lane)
    .sort()
    .map((lane) => {
      const { tick, value } = readLane(all, lane, 0);
      return [lane, [...tick], [...value]];
    });
const after = (before: Material, blocks: readonly Block[], edits?: object) => {
  const laid = applyStep(before, createStep('layout', { blocks: [...blocks] }), context);
  return edits ? applyStep(laid, createStep('edits', edits), context) : laid;
};

test('blocks made independent leave what is heard as it was, and no longer follow their source', () => {
  const before = material(
    [0, 1, 2, 3].map((quarter) => ({
      id: quarter,
      start: quarter * 960,
      end: quarter * 960 + 500,
      pitch: 60 + quarter,
      release: 20 + 40 * quarter,
    })),
    events([
      [0, 7, 100],
      [1, 7, 50],
    ]),
  );
  const blocks = [block('a', 0, 4, 0), block('b', 0, 2, 4)];
  const made = independent(before, blocks, new Set(['b']), context);
  expect(made?.notes).toBe(2);
  expect(made?.blocks).toEqual([blocks[0]]);
  const own = after(before, made?.blocks ?? [], made?.edits);
  expect(heard(own)).toEqual(heard(after(before, blocks)));
  expect(lanes(own)).toEqual(lanes(after(before, blocks)));
  // Ids stay, so that edits of the copy still find its notes.
  expect([...own.notes.id]).toEqual([...after(before, blocks).notes.id]);
  const higher = material(
    [0, 1, 2, 3].map((quarter) => ({
      id: quarter,
      start: quarter * 960,
      end: quarter * 960 + 500,
      pitch: 72 + quarter,
    })),
  );
  expect(heard(after(higher, made?.blocks ?? [], made?.edits)).map(([, , pitch]) => pitch)).toEqual([
    72, 73, 74, 75, 60, 61,
  ]);
  // The last block there is cannot leave: a layout holds one at least.
  expect(independent(before, blocks, new Set(['a', 'b']), context)).toBeNull();
  expect(independent(before, blocks, new Set(['c']), context)).toBeNull();
});

test('that holds for any blocks, notes and controllers', () => {
  const anyNotes = fc.array(
    fc.record({
      start: fc.integer({ min: 0, max: 15 }).map((at) => at * 480),
      length: fc.integer({ min: 1, max: 6 }).map((at) => at * 480),
      pitch: fc.integer({ min: 60, max: 63 }),
    }),
    { maxLength: 10 },
  );
  const anyPoints = fc.array(
    fc.tuple(
      fc.integer({ min: 0, max: 16 }).map((at) => at / 2),
      fc.constantFrom(7, 64),
      fc.integer({ min: 0, max: 127 }),
    ),
    { maxLength: 6 },
  );
  const anyBlock = fc.tuple(
    fc.integer({ min: 0, max: 6 }),
    fc.integer({ min: 1, max: 4 }),
    fc.integer({ min: 0, max: 12 }),
    fc.integer({ min: 1, max: 2 }),
  );
  fc.assert(
    fc.property(
      anyNotes,
      anyPoints,
      fc.array(anyBlock, { minLength: 2, maxLength: 4 }),
      (notes, points, places) => {
        const before = material(
          notes.map(({ start, length, pitch }, id) => ({
            id,
            start,
            end: start + length,
            pitch,
            velocity: 50 + id,
          })),
          events(points),
        );
        const blocks = places.map(([from, length, at, times], index) =>
          block(`b${index}`, from, from + length, at, times),
        );
        const made = independent(before, blocks, new Set(['b0']), context);
        const own = after(before, made?.blocks ?? [], made?.edits);
        expect(heard(own)).toEqual(heard(after(before, blocks)));
        expect(lanes(own)).toEqual(lanes(after(before, blocks)));
        expect(new Set(own.notes.id).size).toBe(own.notes.length);
      },
    ),
    { numRuns: 400 },
  );
});
