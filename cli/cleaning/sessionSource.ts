import { gunzipSync } from 'node:zlib';
import {
  OrdleError,
  createEvaluator,
  exportSession,
  isCompressed,
  listOf,
  readMusic,
  readSessionFile,
  restoreTake,
  sessionOfFile,
  writeMidi,
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
  const { session, takes, tables, history } = readSessionFile(textOf(bytes));
  const byKey = new Map(takes.map((take) => [take.key, restoreTake(take)]));
  const takeOf = (key: string) => {
    const take = byKey.get(key);
    if (!take) throw new OrdleError('session-file', 'A take of this session file is missing.');
    return take;
  };
  const evaluator = createEvaluator(takeOf, (key) => tables.find((table) => table.key === key));
  return { session, evaluator, takeOf, tables, history };
}

/** The ids of the parts that are not set aside. */
export const partsInUse = ({ parts }: Session): string[] =>
  listOf(parts)
    .filter(({ setAside }) => !setAside)
    .map(({ id }) => id);

/**
 * The bytes of a MIDI file: a session file's are those of its export, cleaned, a track a part, without what is set
 * aside; others stay as they are.
 */
export function midiBytesOf(bytes: Uint8Array): Uint8Array {
  if (!isCompressed(bytes)) return bytes;
  const { session, evaluator, takeOf } = openedFile(bytes);
  const parts = partsInUse(session);
  return writeMidi(exportSession(session, { format: 1, version: 'cleaned', parts }, evaluator, takeOf));
}

function textOf(bytes: Uint8Array): string {
  try {
    return gunzipSync(bytes).toString('utf8');
  } catch {
    throw new OrdleError('session-file', 'This session file is damaged, or it was cut short.');
  }
}
