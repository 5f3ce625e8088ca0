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
} from '@ordle/core';
import type { Engine } from '../protocol';
import { type Scenes } from '../scenes';

/** What edits are made of: what goes along, clips, lanes, steps made permanent. */
export function editQuestions({ library, scene, atStop, notesOfChannel }: Scenes) {
  const { takeOf, editTable, keep, summon } = library;
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
      const {
        take,
        reference,
        part: folded,
      } = foldSteps(part, session, evaluation, count, Date.now(), editTable);
      return { part: folded, reference, unkept: await keep([take]) };
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
      return unfoldSteps(part, evaluation, takeOf(fold), editTable);
    },
  } satisfies Partial<Engine>;
}
