import {
  OrdleError,
  alongEdits,
  beforeFold,
  clearEdits,
  clipsOf,
  itemOf,
  lanesIn,
  pickEvents,
  foldSteps,
  independent,
  layoutOf,
  layClips,
  unfoldSteps,
  bringParts,
  keyOfColumns,
  namedBy,
  timelineOf,
  withSources,
  type EditColumns,
  type EditTable,
  type Part,
  type Session,
} from '@ordle/core';
import { loadTable } from '@/storage/editTables';
import type { Engine } from '../protocol';
import { newId, type Scenes } from '../scenes';

/** What edits are made of: what goes along, clips, lanes, steps made permanent. */
export function editQuestions({ library, evaluator, scene, atStop, notesOfChannel }: Scenes) {
  const { takeOf, editTable, keep, summon } = library;
  /**
   * Where hand edits of many notes are found, and those put that are made on the way: they live here and in the page
   * until they are stored.
   */
  const newStores = () => {
    const tables: EditTable[] = [];
    const named = (columns: EditColumns) => {
      const table = { ...columns, key: keyOfColumns(columns) };
      library.adoptTable(table);
      tables.push(table);
      return table.key;
    };
    return { stores: { table: editTable, named }, tables };
  };
  /** The ids of a part's notes before and after its steps; none where it cannot be evaluated. */
  const idsOf = (part: Part, session: Session) => {
    try {
      const { stages } = evaluator.evaluate(part, session, timelineOf(session));
      return { played: stages[0].notes.id, cleaned: stages[stages.length - 1].notes.id };
    } catch {
      return { played: new Float64Array(0), cleaned: new Float64Array(0) };
    }
  };
  return {
    async independent({ blocks, ids, ...request }) {
      const { part, evaluation, timeline } = await scene(request);
      const layout = layoutOf(part);
      const at = layout ? part.steps.order.indexOf(layout.id) : part.steps.order.length;
      const context = { timeline, isDrums: part.sound.drums, channel: part.channel - 1 };
      return independent(evaluation.stages[at], blocks, new Set(ids), context);
    },

    async alongEdits({ ids, action, ...request }) {
      const { part, material, notes } = await notesOfChannel(request);
      return alongEdits(material.events, notes, new Set(ids), action, part.channel - 1);
    },

    async clipsOf({ ids, ...request }) {
      const { part, material, notes } = await notesOfChannel(request);
      return clipsOf(material.events, notes, new Set(ids), part.channel - 1);
    },

    async layClips({ clips, at, ...request }) {
      const { part, material } = await atStop(request);
      return layClips(material.events, clips, at, part.channel - 1);
    },

    async lanesBetween({ from, to, ...request }) {
      const { events } = (await atStop(request)).material;
      const rows = Array.from(events.tick.keys()).filter(
        (row) => events.tick[row] >= from && events.tick[row] < to,
      );
      return lanesIn(pickEvents(events, rows));
    },

    async clearLanes({ lanes, from, to, ...request }) {
      const { part, material } = await atStop(request);
      return clearEdits(material.events, lanes, [from, to], part.channel - 1);
    },

    async fold({ count, ...request }) {
      const { part, session, evaluation } = await scene(request);
      const { stores, tables } = newStores();
      const made = foldSteps(part, session, evaluation, count, Date.now(), stores);
      return { part: made.part, reference: made.reference, tables, unkept: await keep([made.take]) };
    },

    async unfold({ session, partId }) {
      const part = itemOf(session.parts, partId);
      const before = part && beforeFold(part);
      const fold = part?.folded.at(-1)?.take;
      if (!part || !before || fold === undefined)
        throw new OrdleError('nothing-folded', 'No steps of this part were made permanent.');
      await summon([part, before], session);
      const parts = { ...session.parts, byId: { ...session.parts.byId, [partId]: before } };
      const { evaluation } = await scene({ session: { ...session, parts }, partId });
      const { stores, tables } = newStores();
      return { part: unfoldSteps(part, evaluation, takeOf(fold), stores), tables };
    },

    async bringParts({ from, ids, session }) {
      const parts = withSources(from, ids, true);
      // Where a performance is gone the parts come all the same, and say so themselves.
      await summon(parts, from).catch(() => undefined);
      const { stores, tables } = newStores();
      await Promise.all(
        parts
          .flatMap((part) => [...namedBy(part, true).tables])
          .map(async (key) => {
            if (!editTable(key)) library.adoptTable(await loadTable(key));
          }),
      ).catch(() => undefined);
      const brought = bringParts(from, ids, session, newId, {
        ...stores,
        idsOf: (part) => idsOf(part, from),
      });
      return { ...brought, tables };
    },
  } satisfies Partial<Engine>;
}
