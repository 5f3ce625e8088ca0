import fc from 'fast-check';
import { viewNotes } from '../testing/notes';
import { BLOCK, blocksOf } from './noteBlocks';

const note = fc.tuple(
  fc.integer({ min: 0, max: 100_000 }),
  fc.integer({ min: 1, max: 4000 }),
  fc.integer({ min: 0, max: 127 }),
  fc.integer({ min: 1, max: 127 }),
);

test('a block tells of its rows what looking at each would tell', () => {
  fc.assert(
    fc.property(fc.array(note, { maxLength: 3 * BLOCK }), (made) => {
      const rows = made.map(([start, length, ...rest]) => [start, start + length, ...rest] as const);
      const notes = viewNotes(rows.toSorted((one, other) => one[0] - other[0]).map((row) => [...row]));
      const blocks = blocksOf(notes);
      expect(blocks.loudest).toHaveLength(Math.ceil(rows.length / BLOCK));
      blocks.loudest.forEach((loudest, block) => {
        const [first, end] = [block * BLOCK, Math.min(notes.length, (block + 1) * BLOCK)];
        const within = <T extends Float64Array | Uint8Array>(column: T) => [...column.subarray(first, end)];
        expect(loudest).toBe(Math.max(...within(notes.velocity)));
        expect(blocks.lastStart[block]).toBe(notes.start[end - 1]);
        expect(blocks.lastEnd[block]).toBe(Math.max(...within(notes.end)));
        const pitches = Array.from({ length: 128 }, (_, pitch) => pitch).filter(
          (pitch) => (blocks.pitches[4 * block + (pitch >> 5)] >>> (pitch & 31)) & 1,
        );
        expect(pitches).toEqual([...new Set(within(notes.pitch))].sort((one, other) => one - other));
      });
    }),
  );
});
