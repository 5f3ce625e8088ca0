import fc from 'fast-check';
import { freeName, resultPath } from './resultPath';

test('what is no MIDI file becomes one, and no two are called the same', () => {
  const taken = new Set<string>();
  const given = [
    'a/one.mid',
    'a/one.ordle',
    'A/ONE.MID',
    'b/one.musicxml',
    'no ending',
    'no ending',
    'v1.2/take',
  ];
  expect(given.map((path) => resultPath(path, taken))).toEqual([
    'a/one.mid',
    'a/one 2.mid',
    'A/ONE 3.MID',
    'b/one.mid',
    'no ending',
    'no ending 2',
    'v1.2/take',
  ]);
});

test('of any names none is given twice on a disk that does not tell capitals apart', () => {
  fc.assert(
    fc.property(fc.array(fc.constantFrom('a.mid', 'A.mid', 'a 2.mid', 'b', 'B', 'x/a.mid')), (given) => {
      const taken = new Set<string>();
      const names = given.map((name) => freeName(name, taken).toLowerCase());
      expect(new Set(names).size).toBe(names.length);
    }),
  );
});
