import fc from 'fast-check';
import { fileOfNotes } from '../testing/files';
import { contentKey, createSha256, noteTableOf, sortedByStart, takesOfFile } from '.';

describe('the note table and content keys', () => {
  it('sorts like a stable sort, near order and far from it', () => {
    const sortedIds = (values: number[]) =>
      Array.from(noteTableOf(values.map((start, id) => ({ id, start }))).id);
    fc.assert(
      fc.property(fc.array(fc.nat(50)), (values) => {
        const expected = values
          .map((value, index) => [value, index])
          .sort((a, b) => a[0] - b[0] || a[1] - b[1]);
        expect(sortedIds(values)).toEqual(expected.map(([, index]) => index));
      }),
    );
    expect(sortedIds(Array.from({ length: 4000 }, (_, index) => 4000 - index)).slice(0, 2)).toEqual([
      3999, 3998,
    ]);
  });

  it('keeps rows whole when it sorts columns in place, however wide the disorder', () => {
    const length = 3000;
    const column = (value: (row: number) => number) => Float64Array.from({ length }, (_, row) => value(row));
    const table = {
      ...noteTableOf(Array.from({ length }, (_, id) => ({ id, start: id, pitch: id % 128 }))),
      start: column((row) => (row * 7919) % length),
      end: column((row) => ((row * 7919) % length) + 5),
    };
    const sorted = sortedByStart(table, true);
    for (let row = 0; row < length; row++) {
      expect(sorted.start[row]).toBe(row);
      expect(sorted.end[row]).toBe(row + 5);
      expect((sorted.id[row] * 7919) % length).toBe(row);
      expect(sorted.pitch[row]).toBe(sorted.id[row] % 128);
    }
  });

  it('digests as FIPS 180-4 says', () => {
    const digest = (text: string) => {
      const hash = createSha256();
      hash.update(Buffer.from(text));
      return hash.digest();
    };
    expect(digest('')).toBe('e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855');
    expect(digest('abc')).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
    expect(digest('abcdbcdecdefdefgefghfghighijhijkijkljklmklmnlmnomnopnopq')).toBe(
      '248d6a61d20638b8e5c026930c3e6039a33ce45964ff2167f6ecedd419db06c1',
    );
  });

  it('keys differ when a single event does', () => {
    const keyOf = (pitch: number) => {
      const [take] = takesOfFile(fileOfNotes([[0, 480, pitch, 80]]));
      expect(contentKey(take)).toBe(take.key);
      return take.key;
    };
    expect(keyOf(60)).toBe(keyOf(60));
    expect(keyOf(60)).not.toBe(keyOf(61));
  });
});
