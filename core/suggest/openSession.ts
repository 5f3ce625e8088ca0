import { OrdleError } from '../errors';
import { createEvaluator, exportSession, type Evaluator } from '../evaluate';
import type { SessionFile } from '../formats';
import { writeMidi } from '../midi';
import { restoreTake, type Take } from '../model';
import { listOf, type Session } from '../session';

/** What the takes of a session file hold, and what works its parts out. */
export interface OpenedFile {
  evaluator: Evaluator;
  /** A take by its key. Throws OrdleError `session-file` where the file does not hold it. */
  takeOf(key: string): Take;
}

/**
 * Makes what a session file holds ready to be evaluated.
 *
 * @public
 */
export function openSessionFile({ takes, tables }: SessionFile): OpenedFile {
  const byKey = new Map(takes.map((take) => [take.key, restoreTake(take)]));
  const takeOf = (key: string) => {
    const take = byKey.get(key);
    if (!take) throw new OrdleError('session-file', 'A take of this session file is missing.');
    return take;
  };
  return { takeOf, evaluator: createEvaluator(takeOf, (key) => tables.find((table) => table.key === key)) };
}

/** The ids of the parts that are not set aside. */
export const partsInUse = ({ parts }: Session): string[] =>
  listOf(parts)
    .filter(({ setAside }) => !setAside)
    .map(({ id }) => id);

/**
 * A session file as a MIDI file's bytes: cleaned, a track a part, without what is set aside. Throws as writing does.
 *
 * @public
 */
export function midiOfSessionFile(file: SessionFile): Uint8Array {
  const { evaluator, takeOf } = openSessionFile(file);
  const { session } = file;
  const parts = partsInUse(session);
  return writeMidi(exportSession(session, { format: 1, version: 'cleaned', parts }, evaluator, takeOf));
}
