import { gunzipSync } from 'node:zlib';
import {
  OrdleError,
  createEvaluator,
  exportSession,
  isCompressed,
  listOf,
  readSessionFile,
  restoreTake,
  writeMidi,
} from '@ordle/core';

/**
 * The bytes of a MIDI file: a session file's are those of its export, cleaned, a track a part, without what is set
 * aside; others stay as they are.
 */
export function midiBytesOf(bytes: Uint8Array): Uint8Array {
  if (!isCompressed(bytes)) return bytes;
  const { session, takes, tables } = readSessionFile(textOf(bytes));
  const byKey = new Map(takes.map((take) => [take.key, restoreTake(take)]));
  const takeOf = (key: string) => {
    const take = byKey.get(key);
    if (!take) throw new OrdleError('session-file', 'A take of this session file is missing.');
    return take;
  };
  const evaluator = createEvaluator(takeOf, (key) => tables.find((table) => table.key === key));
  const parts = listOf(session.parts)
    .filter(({ setAside }) => !setAside)
    .map(({ id }) => id);
  return writeMidi(exportSession(session, { format: 1, version: 'cleaned', parts }, evaluator, takeOf));
}

function textOf(bytes: Uint8Array): string {
  try {
    return gunzipSync(bytes).toString('utf8');
  } catch {
    throw new OrdleError('session-file', 'This session file is damaged, or it was cut short.');
  }
}
