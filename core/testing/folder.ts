import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

const made: string[] = [];
afterAll(() => made.forEach((folder) => rmSync(folder, { recursive: true, force: true })));

/** An empty folder, which goes when the tests of the file are done. */
export function temporaryFolder(): string {
  const folder = mkdtempSync(path.join(tmpdir(), 'ordle-'));
  made.push(folder);
  return folder;
}
