import { keysIn, OrdleError, fileOfTake, keepsItsKey, writeMidi } from '@ordle/core';
import type { Database } from './database';
import { entriesOf } from './historyRecords';

/** A take brought out of a session that cannot be opened, as a Standard MIDI File. */
export interface RescuedFile {
  name: string;
  bytes: Uint8Array<ArrayBuffer>;
}

/**
 * Every sound take that a session or its history mentions, as a file each; for sessions that cannot be opened.
 * Nothing stored is touched. Throws OrdleError `nothing-to-rescue` when there is none.
 */
export async function rescueTakes(database: Database, id: string): Promise<RescuedFile[]> {
  const records = await Promise.all([
    database.get('sessions', id),
    database.getAll('entries', entriesOf(id)),
  ]);
  const keys = [...new Set(records.flatMap(keysIn))];
  const files: RescuedFile[] = [];
  for (const key of keys) {
    const record = await database.get('takes', key).catch(() => undefined);
    if (!record?.take || record.take.key !== key || !keepsItsKey(record.take)) continue;
    const name = record.take.name.replace(/[^\p{L}\p{N} _-]+/gu, ' ').trim();
    files.push({
      name: `take ${files.length + 1}${name ? ` ${name.slice(0, 60)}` : ''}.mid`,
      bytes: Uint8Array.from(writeMidi(fileOfTake(record.take))),
    });
  }
  if (files.length === 0) {
    throw new OrdleError(
      'nothing-to-rescue',
      'None of the performances of this session is left whole in this browser.',
    );
  }
  return files;
}
