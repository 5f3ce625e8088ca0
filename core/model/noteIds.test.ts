import fc from 'fast-check';
import {
  FIRST_DRAWN_ID,
  MAX_NOTE_ID,
  drawnBy,
  firstIdOfPiece,
  indexIds,
  mixIds,
  pieceAndRow,
  unnamedId,
} from '.';

const anyId = fc.oneof(
  fc.tuple(fc.nat(2 ** 25 - 1), fc.nat(2 ** 26 - 1)).map(([piece, row]) => firstIdOfPiece(piece) + row),
  fc.nat(5000).map((count) => FIRST_DRAWN_ID + count),
  fc.nat(5000).map(unnamedId),
  fc.tuple(fc.nat(), fc.nat()).map(([through, id]) => mixIds(through, id, new Set())),
);

describe('identities of notes', () => {
  it('of takes are a piece and a row, and come apart again; all others are none', () => {
    fc.assert(
      fc.property(fc.nat(2 ** 25 - 1), fc.nat(2 ** 26 - 1), (piece, row) => {
        expect(pieceAndRow(firstIdOfPiece(piece) + row)).toEqual({ piece, row });
      }),
    );
    for (const id of [FIRST_DRAWN_ID, unnamedId(0), mixIds(1, 2, new Set())])
      expect(pieceAndRow(id)).toBeNull();
    expect(() => firstIdOfPiece(2 ** 25)).toThrow('more pieces');
  });

  it('are whole numbers that a file of JSON and a column of doubles hold exactly', () => {
    fc.assert(
      fc.property(anyId, (id) => {
        expect(Number.isSafeInteger(id) && id >= 0 && id <= MAX_NOTE_ID).toBe(true);
        expect(new Float64Array([id])[0]).toBe(id);
      }),
    );
  });

  it('mixed from two do not meet among a million, and make way for one another the same each time', () => {
    const none = new Set<number>();
    const mixed = Float64Array.from({ length: 1_000_000 }, (_, row) =>
      mixIds(row % 7, firstIdOfPiece(row >> 12) + row, none),
    ).sort();
    expect(mixed.every((id, row) => row === 0 || id > mixed[row - 1])).toBe(true);
    const taken = new Set([mixIds(1, 2, new Set())]);
    const second = mixIds(1, 2, taken);
    expect(taken.has(second)).toBe(false);
    expect(mixIds(1, 2, taken)).toBe(second);
  });

  it('are found again by row, wherever they lie', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(anyId, { maxLength: 200 }),
        anyId,
        fc.array(fc.nat(199)),
        (ids, other, order) => {
          const index = indexIds(ids);
          ids.forEach((id, row) => expect(index.rowOf(id)).toBe(row));
          // In any order, and asked again.
          for (const row of [...ids.keys()].reverse()) expect(index.rowOf(ids[row])).toBe(row);
          const late = indexIds(ids);
          for (const row of order.filter((each) => each < ids.length)) expect(late.rowOf(ids[row])).toBe(row);
          if (!ids.includes(other)) expect(index.has(other)).toBe(false);
        },
      ),
    );
    const scattered = Array.from({ length: 5000 }, (_, row) => row * 7919);
    const index = indexIds(scattered);
    expect(scattered.map((id) => index.rowOf(id))).toEqual([...scattered.keys()]);
    expect(index.rowOf(7918)).toBe(-1);
  });

  it('of drawn notes draw by their count, as they did before pieces had numbers', () => {
    expect([FIRST_DRAWN_ID + 5, unnamedId(3), 77].map(drawnBy)).toEqual([5, 0xffffffff - 3, 77]);
  });
});
