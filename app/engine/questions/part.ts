import {
  latenessOf,
  noteStory,
  partFacts,
  pickRows,
  rowsAnswering,
  takeGroove,
  touchedRows,
  playedBeatsOf,
} from '@ordle/core';
import type { Engine } from '../protocol';
import { handPictureOf, sharesOf } from '../partRows';
import { comparisonOf } from '../comparisonView';
import { assembledView, contestedLanes, takeRows } from '../takesView';
import { timingPictureOf } from '../timingPicture';
import { viewOfPart } from '../viewOfPart';
import { partOf, type Scenes } from '../scenes';

/** What is seen and told of one part. */
export function partQuestions({ library, evaluator, scene, atStop, heardBy, tellProgress }: Scenes) {
  const { editTable, summon } = library;
  return {
    async viewPart(request) {
      const { part, session, evaluation, timeline } = await scene(request);
      return viewOfPart(request, {
        part,
        evaluation,
        timeline,
        other: heardBy(request, part, timeline),
        editTable,
        beside: evaluator.aloneBeside(part, session, timeline),
      });
    },

    timingPicture: timingPictureOf,

    async pickNotes({ grid, question, ...request }) {
      const { material, timeline } = await atStop(request);
      const { notes } = material;
      const late = latenessOf(notes, [grid], 50, timeline);
      return Float64Array.from(rowsAnswering(notes, question, late, timeline), (row) => notes.id[row]);
    },

    async factsOf(request) {
      const { material, timeline } = await atStop(request);
      return partFacts(material.notes, timeline, material.events);
    },

    async touchedNotes({ stepId, ...request }) {
      const { part, evaluation, timeline } = await scene(request);
      const at = part.steps.order.indexOf(stepId);
      if (at < 0) return new Float64Array(0);
      const { notes } = evaluation.stages[at];
      const touched = touchedRows(notes, part.steps.byId[stepId].step.where, timeline);
      return notes.id.filter((_, row) => touched[row] === 1);
    },

    async noteStory({ id, ...request }) {
      return noteStory((await scene(request)).evaluation.stages, id);
    },

    async takeGroove({ grid, beats, ids, ...request }) {
      const { part, evaluation, timeline } = await scene(request);
      const { notes } = evaluation.stages[evaluation.stages.length - 1];
      const selected = ids && new Set(ids);
      const rows = selected && Array.from(notes.id.keys()).filter((row) => selected.has(notes.id[row]));
      return takeGroove(
        rows ? pickRows(notes, rows) : notes,
        `groove of ${part.name}`,
        grid,
        beats,
        timeline,
      );
    },

    async sharesOf({ by, line, ...request }) {
      const { evaluation, timeline } = await scene(request);
      return sharesOf(evaluation, { by, line }, timeline);
    },

    async handPicture({ line, ...request }) {
      const { evaluation, timeline } = await scene(request);
      return handPictureOf(evaluation, line, timeline);
    },

    async foundBeats(request) {
      const { part, evaluation, timeline } = await scene(request);
      return playedBeatsOf(part, evaluation, timeline, tellProgress);
    },

    async takeRows({ grid, ...request }) {
      const { part, session } = partOf(request);
      return takeRows(part, session, grid, { evaluator, summon });
    },

    async assembledView({ grid, ...request }) {
      const { part, session } = partOf(request);
      return assembledView(part, session, grid, { evaluator, summon });
    },

    async comparison({ counterpart, ...request }) {
      const { part, session } = partOf(request);
      return comparisonOf(part, session, counterpart, { evaluator, summon });
    },

    async contestedLanes({ session, part }) {
      return contestedLanes(part, session, { evaluator, summon });
    },
  } satisfies Partial<Engine>;
}
