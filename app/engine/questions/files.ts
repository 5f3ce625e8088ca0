import {
  OrdleError,
  buildSession,
  checkExport,
  exportSession,
  isCompressed,
  joinFile,
  listOf,
  readMidi,
  restoreTake,
  sessionOfFile,
  takesForPart,
  writeMidi,
} from '@ordle/core';
import { tableOf } from '@/storage/editTables';
import type { Engine } from '../protocol';
import { packSession, unpackSession } from '../sessionFile';

import { newId, partOf, type Scenes } from '../scenes';

/** What comes in and goes out: files, takes, tables of hand edits, exports. */
export function fileQuestions({ library, evaluator }: Scenes) {
  const { takeOf, keep, summon } = library;
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

    async importFile(name, bytes) {
      if (isCompressed(bytes)) {
        const { session, takes, tables } = await unpackSession(bytes);
        tables.forEach(library.adoptTable);
        // It may be here already, as it was when the file was written.
        const own = { ...session, id: newId(), createdAt: Date.now() };
        return { session: own, repairs: [], tables, unkept: await keep(takes.map(restoreTake)) };
      }
      const { file, repairs } = readMidi(bytes);
      const { session, takes: made } = sessionOfFile(file, name, newId, Date.now());
      return { session, repairs, tables: [], unkept: await keep(made) };
    },

    async joinFile({ session, bytes }) {
      if (isCompressed(bytes))
        throw new OrdleError(
          'session-file',
          'A session file becomes a session of its own. Open it from the shelf, then bring its parts in on Parts.',
        );
      const { file, repairs } = readMidi(bytes);
      const { takes: made, references, parts } = joinFile(session, file, newId);
      return { references, parts, repairs, unkept: await keep(made) };
    },

    async buildPlan(plan, files) {
      const readings = files.map(([name, bytes]) => [name, readMidi(bytes)] as const);
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

    async takesOfFile({ name, bytes, ...request }) {
      const { part, session } = partOf(request);
      const { takes: made, repairs, ...found } = takesForPart(part, session, name, bytes, newId);
      return { ...found, repairs, unkept: await keep(made) };
    },

    async checkExport({ session, options }) {
      await summon(listOf(session.parts), session);
      return checkExport(session, options, evaluator, takeOf);
    },

    async sessionFile({ session }) {
      const { takes, tables } = await library.everythingOf(session);
      return packSession({ session, takes, tables });
    },

    async exportFile({ session, options }) {
      await summon(listOf(session.parts), session);
      return writeMidi(exportSession(session, options, evaluator, takeOf));
    },
  } satisfies Partial<Engine>;
}
