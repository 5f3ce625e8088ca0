import type { ManyFile } from '@/storage/manyFiles';
import { filesAsCsv, listedFiles, madeInWords } from './manyList';

const file = (index: number, path: string, more: Partial<ManyFile> = {}): ManyFile => ({
  index,
  path,
  size: 100,
  state: 'waiting',
  made: null,
  sentence: null,
  ...more,
});
const made = { size: 90, notes: 20, changed: 7, moved: 5, repairs: 1, suggested: null };
const FILES = [
  file(0, 'take 10.mid', { state: 'done', made }),
  file(1, 'take 9.mid', { state: 'failed', sentence: 'No "MThd", it says.' }),
  file(2, 'low/Take 2.mid', {
    state: 'done',
    made: { ...made, changed: 0, moved: 0, repairs: 0, suggested: { steps: 3, on: 2, parts: 4 } },
  }),
  file(3, 'zinc.mid'),
];
const paths = (...given: Parameters<typeof listedFiles>) => listedFiles(...given).map(({ index }) => index);

describe('the list of many files', () => {
  it('is put in order by names as people count, and by what came of them', () => {
    expect(paths(FILES, '', { by: 'path', isUp: true })).toEqual([2, 1, 0, 3]);
    expect(paths(FILES, '', { by: 'path', isUp: false })).toEqual([3, 0, 1, 2]);
    expect(paths(FILES, '', { by: 'state', isUp: true })).toEqual([1, 3, 0, 2]);
    // Notes that changed and steps that were suggested; those that are not done come last.
    expect(paths(FILES, '', { by: 'changed', isUp: false })).toEqual([0, 2, 1, 3]);
  });

  it('is searched whatever the case, folders included, and leaves what it was given alone', () => {
    const before = [...FILES];
    expect(paths(FILES, ' TAKE ', { by: 'path', isUp: true })).toEqual([2, 1, 0]);
    expect(paths(FILES, 'low/', { by: 'path', isUp: true })).toEqual([2]);
    expect(FILES).toEqual(before);
  });

  it('becomes a table with one line a file, quoted where that is needed', () => {
    expect(filesAsCsv(FILES).split('\r\n')).toEqual([
      'file,state,reason,bytes,notes,changed,moved,steps_suggested,parts_with_steps,parts,repairs',
      'take 10.mid,done,,100,20,7,5,,,,1',
      'take 9.mid,failed,"No ""MThd"", it says.",100,,,,,,,',
      'low/Take 2.mid,done,,100,20,,,3,2,4,0',
      'zinc.mid,waiting,,100,,,,,,,',
      '',
    ]);
  });

  it('says in few words what came of a file', () => {
    expect(FILES.map((each) => madeInWords(each, String))).toEqual([
      '7 changed, 1 repaired',
      '',
      '3 steps',
      '',
    ]);
  });
});
