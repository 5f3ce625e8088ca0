import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';

/**
 * The rooms of the app from the ground up: each may use those before it in this list and none after, so that no two
 * lean on each other. What only tests need (`testing`) may look anywhere and is looked at by tests alone.
 */
const ROOMS = [
  'words',
  'ui',
  'surface',
  'sound',
  'commands',
  'history',
  'storage',
  'state',
  'saving',
  'engine',
  'files',
  'editor',
  'music',
  'steps',
  'edits',
  'playback',
  'recording',
  'panels',
  'places',
  'shell',
];

const isTest = (file: string) => /\.test\.tsx?$/.test(file) || file.includes(`${path.sep}testing${path.sep}`);

function sourcesIn(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const full = path.join(folder, entry.name);
    if (entry.isDirectory()) return sourcesIn(full);
    return /\.tsx?$/.test(entry.name) && !isTest(full) ? [full] : [];
  });
}

/** The rooms that a file names in what it imports, static or when it is needed. */
const roomsNamed = (file: string): string[] =>
  [...readFileSync(file, 'utf8').matchAll(/(?:from|import)\s*\(?\s*'@\/([a-z]+)/gi)].map(([, room]) => room);

describe('the rooms of the app', () => {
  it('are all in the list', () => {
    const folders = readdirSync(__dirname, { withFileTypes: true }).flatMap((entry) =>
      entry.isDirectory() && !['public', 'dist', 'node_modules', 'testing', 'proofs'].includes(entry.name)
        ? [entry.name]
        : [],
    );
    expect(folders.sort()).toEqual([...ROOMS].sort());
  });

  it.each(ROOMS)('%s uses only what stands before it', (room) => {
    const allowed = new Set(ROOMS.slice(0, ROOMS.indexOf(room) + 1));
    const wrong = sourcesIn(path.join(__dirname, room)).flatMap((file) =>
      roomsNamed(file)
        .filter((named) => ROOMS.includes(named) && !allowed.has(named))
        .map((named) => `${path.relative(__dirname, file)} uses ${named}`),
    );
    expect(wrong).toEqual([]);
  });
});
