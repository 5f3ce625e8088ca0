import { createHash } from 'node:crypto';
import { appendFileSync, existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { z } from 'zod';

/** What is done of a folder of results, a line of JSON each, beside them. */
const NAME = '.ordle-done.jsonl';

const entrySchema = z.object({
  /** The name of the result in the folder. */
  name: z.string(),
  /** SHA-256 of the input's bytes and of the recipe's, in hexadecimal; `suggestion` where there is no recipe. */
  input: z.string(),
  recipe: z.string(),
  /** The version of Ordle that did it. */
  version: z.string(),
});
export type DoneEntry = z.infer<typeof entrySchema>;

export const digestOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/**
 * Reads what is done in a folder by a recipe: the digest of the input by the name of the result. Of a result that was
 * made several times the last counts. A line that was cut short by a kill, or damaged, counts as not there.
 */
export function readManifest(folder: string, { recipe, version }: Pick<DoneEntry, 'recipe' | 'version'>) {
  const file = path.join(folder, NAME);
  const text = existsSync(file) ? readFileSync(file, 'utf8') : '';
  const last = new Map<string, DoneEntry>();
  for (const line of text.split('\n')) {
    const entry = entryOf(line);
    if (entry) last.set(entry.name, entry);
  }
  // What comes next begins a line of its own.
  if (text !== '' && !text.endsWith('\n')) appendFileSync(file, '\n');
  const done = new Map<string, string>();
  for (const entry of last.values())
    if (entry.recipe === recipe && entry.version === version) done.set(entry.name, entry.input);
  return { file, done };
}

function entryOf(line: string): DoneEntry | null {
  if (line === '') return null;
  try {
    const read = entrySchema.safeParse(JSON.parse(line));
    return read.success ? read.data : null;
  } catch {
    return null;
  }
}

/** Says that a result is done. One line in one go, so that several threads and calls may append to one file. */
export const appendDone = (file: string, entry: DoneEntry): void =>
  appendFileSync(file, `${JSON.stringify(entry)}\n`);
