import { gunzipSync } from 'node:zlib';
import {
  OrdleError,
  createEvaluator,
  isCompressed,
  midiOfSessionFile,
  openSessionFile,
  readMusic,
  readSessionFile,
  sessionOfFile,
  type EditTable,
  type Evaluator,
  type Session,
  type Take,
} from '@ordle/core';

/** A session with all it refers to, ready to be evaluated. */
export interface OpenedSession {
  session: Session;
  evaluator: Evaluator;
  takeOf(key: string): Take;
  /** Its large hand edits, and what was done and undone in it where the file tells. */
  tables: readonly EditTable[];
  history?: unknown;
}

/**
 * Opens a session file, or makes a session of a MIDI file, called `name`. Takes of a file are known by their places in
 * it; by what they hold, which takes longer, where the session is to be kept.
 */
export function sessionOfBytes(bytes: Uint8Array, name: string, isKept = false): OpenedSession {
  if (isCompressed(bytes)) return openedFile(bytes);
  const { file } = readMusic(bytes);
  let next = 0;
  const { session, takes } = sessionOfFile(
    file,
    name,
    () => `${next++}`,
    0,
    isKept ? undefined : (_, place) => `${place}`,
  );
  const byKey = new Map(takes.map((take) => [take.key, take]));
  const takeOf = (key: string) => byKey.get(key) as Take;
  return { session, evaluator: createEvaluator(takeOf), takeOf, tables: [] };
}

function openedFile(bytes: Uint8Array): OpenedSession {
  const file = readSessionFile(textOf(bytes));
  const { session, tables, history } = file;
  return { session, tables, history, ...openSessionFile(file) };
}

/**
 * The bytes of a MIDI file: a session file's are those of its export, cleaned, a track a part, without what is set
 * aside; others stay as they are.
 */
export function midiBytesOf(bytes: Uint8Array): Uint8Array {
  if (!isCompressed(bytes)) return bytes;
  return midiOfSessionFile(readSessionFile(textOf(bytes)));
}

function textOf(bytes: Uint8Array): string {
  try {
    return gunzipSync(bytes).toString('utf8');
  } catch {
    throw new OrdleError('session-file', 'This session file is damaged, or it was cut short.');
  }
}
