import { createHash } from 'node:crypto';
import { appendFileSync, closeSync, existsSync, openSync, readSync } from 'node:fs';
import path from 'node:path';
import { StringDecoder } from 'node:string_decoder';

/** What is done of a folder of results, a line of JSON each, beside them. */
const NAME = '.ordle-done.jsonl';

export interface DoneEntry {
  /** The name of the result in the folder. */
  name: string;
  /** SHA-256 of the input's bytes and of the recipe's, in hexadecimal; `suggestion` where there is no recipe. */
  input: string;
  recipe: string;
  /** The version of Ordle that did it. */
  version: string;
}

export const digestOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/**
 * Reads what is done in a folder by a recipe, of the results that are `wanted`: the digest of the input by the name of
 * the result. Of a result that was made several times the last counts. A line that was cut short by a kill, or
 * damaged, counts as not there.
 */
export function readManifest(
  folder: string,
  { recipe, version }: Pick<DoneEntry, 'recipe' | 'version'>,
  wanted: ReadonlySet<string>,
) {
  const file = path.join(folder, NAME);
  const done = new Map<string, string>();
  if (!existsSync(file)) return { file, done };
  let isCut = false;
  for (const line of linesOf(file)) {
    isCut = !line.endsWith('\n');
    const entry = entryOf(line);
    if (!entry || !wanted.has(entry.name)) continue;
    if (entry.recipe === recipe && entry.version === version) done.set(entry.name, entry.input);
    else done.delete(entry.name);
  }
  // What comes next begins a line of its own.
  if (isCut) appendFileSync(file, '\n');
  return { file, done };
}

/** Bytes that are read at once. */
const BYTES_AT_ONCE = 4_000_000;

/** The lines of a file with their ends, without all of it in memory. */
function* linesOf(file: string): Generator<string> {
  const handle = openSync(file, 'r');
  try {
    const decoder = new StringDecoder('utf8');
    const bytes = Buffer.alloc(BYTES_AT_ONCE);
    let rest = '';
    for (let read = readSync(handle, bytes); read > 0; read = readSync(handle, bytes)) {
      const text = rest + decoder.write(bytes.subarray(0, read));
      let from = 0;
      for (let end = text.indexOf('\n'); end >= 0; end = text.indexOf('\n', from)) {
        yield text.slice(from, end + 1);
        from = end + 1;
      }
      rest = text.slice(from);
    }
    if (rest !== '') yield rest;
  } finally {
    closeSync(handle);
  }
}

function entryOf(line: string): DoneEntry | null {
  try {
    const entry = JSON.parse(line) as Partial<Record<keyof DoneEntry, unknown>> | null;
    const { name, input, recipe, version } = entry ?? {};
    const isWhole = [name, input, recipe, version].every((each) => typeof each === 'string');
    return isWhole ? (entry as DoneEntry) : null;
  } catch {
    return null;
  }
}

/** Says that a result is done. One line in one go, so that several threads and calls may append to one file. */
export const appendDone = (file: string, entry: DoneEntry): void =>
  appendFileSync(file, `${JSON.stringify(entry)}\n`);
