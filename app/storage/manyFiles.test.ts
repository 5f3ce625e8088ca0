import 'fake-indexeddb/auto';
import {
  beginCleaning,
  forgetMany,
  keepFiles,
  keepResult,
  readBytes,
  readMany,
  type ManyFile,
} from './manyFiles';

const record = (index: number): ManyFile => ({
  index,
  path: `take ${index}.mid`,
  size: 3,
  state: 'waiting',
  made: null,
  sentence: null,
});
const made = { size: 2, notes: 1, changed: 1, moved: 0, repairs: 0, suggested: null };
const BY_SUGGESTION = { suggested: true, steps: [], recipe: null };

afterEach(forgetMany);

async function two() {
  await keepFiles([0, 1].map((index) => ({ record: record(index), bytes: Uint8Array.of(1, 2, index) })));
  await beginCleaning(BY_SUGGESTION);
  await keepResult({ ...record(0), state: 'done', made }, Uint8Array.of(9, 9));
  await keepResult({ ...record(1), state: 'failed', sentence: 'It is no music.' }, null);
}

describe('many files in storage', () => {
  it('are there with what came of them, bytes apart', async () => {
    await two();
    const { files, cleaning } = await readMany();
    expect(files.map(({ state }) => state)).toEqual(['done', 'failed']);
    expect(cleaning).toEqual(BY_SUGGESTION);
    expect([...((await readBytes('given', 1)) ?? [])]).toEqual([1, 2, 1]);
    expect([...((await readBytes('made', 0)) ?? [])]).toEqual([9, 9]);
    expect(await readBytes('made', 1)).toBeUndefined();
  });

  it('keep what is done when the same is begun again, and try what failed', async () => {
    await two();
    await beginCleaning({ ...BY_SUGGESTION });
    expect((await readMany()).files.map(({ state }) => state)).toEqual(['done', 'waiting']);
    expect(await readBytes('made', 0)).toBeDefined();
  });

  it('wait again, and lose what was made, when something else is to be done', async () => {
    await two();
    await beginCleaning({ ...BY_SUGGESTION, suggested: false });
    const { files } = await readMany();
    expect(files).toEqual([record(0), record(1)]);
    expect(await readBytes('made', 0)).toBeUndefined();
  });

  it('are gone once they are put away', async () => {
    await two();
    await forgetMany();
    expect(await readMany()).toEqual({ files: [], cleaning: null });
  });
});
