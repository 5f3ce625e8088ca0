import {
  OrdleError,
  buildSession,
  contentKey,
  isCompressed,
  joinFile,
  otherTempoOfFile,
  readMusic,
  referencesTo,
  restoreTake,
  sessionOfFile,
  withTakesOfFiles,
  filesTogether,
  gatherFiles,
  sentenceOf,
  type NamedFile,
  type Repair,
} from '@ordle/core';
import { tableOf } from '@/storage/editTables';
import type { Engine, FailedFile, GivenFile } from '../protocol';
import { unpackSession } from '../sessionFile';

import { newId, partOf, type Scenes } from '../scenes';

/** Files as they are read: what could not be is told by name. */
function readAll(files: readonly GivenFile[]) {
  const read: NamedFile[] = [];
  const repairs: Repair[] = [];
  const failed: FailedFile[] = [];
  for (const { name, bytes } of files) {
    try {
      if (isCompressed(bytes))
        throw new OrdleError('session-file', 'A session file is a session of its own: open it by itself.');
      const { file, repairs: own } = readMusic(bytes);
      read.push({ name, file });
      repairs.push(...own);
    } catch (error) {
      failed.push({ name, why: sentenceOf(error) });
    }
  }
  return { read, repairs, failed };
}

/** What comes in and goes out: files, takes, tables of hand edits, exports. */
export function fileQuestions({ library, tellProgress }: Scenes) {
  const { takeOf, keep } = library;
  return {
    async adopt(list) {
      for (const take of list) library.adopt(restoreTake(take));
    },

    async adoptTables(list) {
      list.forEach(library.adoptTable);
    },

    async nameColumns(columns) {
      const table = await tableOf(columns);
      library.adoptTable(table);
      return table.key;
    },

    async sealTake(content) {
      const take = restoreTake({ key: contentKey(content), ...content });
      const [reference] = referencesTo([take]);
      return { reference, unkept: await keep([take]) };
    },

    async importFile(name, bytes, keepsIdentity = false) {
      if (isCompressed(bytes)) {
        const { session, takes, tables, history } = await unpackSession(bytes);
        tables.forEach(library.adoptTable);
        // It may be here already, as it was when the file was written.
        const own = keepsIdentity ? session : { ...session, id: newId(), createdAt: Date.now() };
        return {
          session: own,
          repairs: [],
          tables,
          unkept: await keep(takes.map(restoreTake)),
          ...(history !== undefined && { history }),
        };
      }
      const { file, repairs } = readMusic(bytes);
      const { session, takes: made } = sessionOfFile(file, name, newId, Date.now());
      return { session, repairs, tables: [], unkept: await keep(made) };
    },

    async joinFile({ session, bytes }) {
      if (isCompressed(bytes))
        throw new OrdleError(
          'session-file',
          'A session file becomes a session of its own. Open it from the shelf, then bring its parts in on Parts.',
        );
      const { file, repairs } = readMusic(bytes);
      const { takes: made, references, parts } = joinFile(session, file, newId);
      return {
        references,
        parts,
        repairs,
        otherTempo: otherTempoOfFile(file.division, made, session),
        unkept: await keep(made),
      };
    },

    async buildPlan(plan, files) {
      const readings = files.map(([name, bytes]) => [name, readMusic(bytes)] as const);
      const { session, takes: made } = buildSession(
        plan,
        new Map(readings.map(([name, reading]) => [name, reading.file])),
        newId,
        Date.now(),
      );
      return {
        session,
        repairs: readings.flatMap(([, reading]) => reading.repairs),
        tables: [],
        unkept: await keep(made),
      };
    },

    async filesTogether(files) {
      return filesTogether(readAll(files).read.map(({ file }) => file));
    },

    async gather({ name, files, as, isLinedUp }) {
      const { read, repairs, failed } = readAll(files);
      if (read.length === 0)
        throw new OrdleError('nothing-read', `None of the files could be read. ${failed[0]?.why ?? ''}`);
      const made = gatherFiles(read, as, { name, isLinedUp }, newId, Date.now(), tellProgress);
      const { session, takes, silent } = made;
      return { session, repairs, tables: [], unkept: await keep(takes), failed, silent };
    },

    async takesOfFiles({ files, isLinedUp, ...request }) {
      const { part, session } = partOf(request);
      await library.summon([part], session);
      const { read, failed } = readAll(files);
      const { takes, ...brought } = withTakesOfFiles(
        part,
        session,
        read,
        { isLinedUp },
        takeOf,
        newId,
        tellProgress,
      );
      return { ...brought, failed, unkept: await keep(takes) };
    },
  } satisfies Partial<Engine>;
}
