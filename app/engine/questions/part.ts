import {
  aloneNamed,
  comparisonOf,
  handPictureOf,
  listOf,
  readAssembled,
  readTakes,
  scoreOfReference,
  sentenceOf,
  sharesOf,
  takeAlone,
  takesOfPart,
  timelineOf,
  viewOfPart,
  type LaidTake,
  type Part,
  type Reference,
  type Session,
  latenessOf,
  noteStory,
  partFacts,
  pickRows,
  rowsAnswering,
  takeGroove,
  touchedRows,
  playedBeatsOf,
  playersOf,
  pulseKeeper,
} from '@ordle/core';
import type { Engine } from '../protocol';
import { timingPicture } from '../timingPicture';
import { partOf, type Scenes } from '../scenes';

/** What is seen and told of one part. */
export function partQuestions({ library, evaluator, scene, atStop, heardBy, tellProgress }: Scenes) {
  const { editTable, summon } = library;
  const assembled = async (part: Part, session: Session) => {
    await summon([part], session);
    return evaluator.evaluate(part, session, timelineOf(session)).assembly;
  };
  /** A score that is no longer in this browser is as if none lay there. */
  const scoreOrNull = (reference: Reference) => {
    try {
      return scoreOfReference(reference, library.takeOf(reference.score));
    } catch {
      return null;
    }
  };
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

    timingPicture,

    async pickNotes({ grid, question, ...request }) {
      const { material, timeline } = await atStop(request);
      const { notes } = material;
      const late = latenessOf(notes, [grid], 50, timeline);
      return Float64Array.from(rowsAnswering(notes, question, late, timeline), (row) => notes.id[row]);
    },

    async factsOf(request) {
      const { part, material, timeline } = await atStop(request);
      return partFacts(material.notes, timeline, material.events, part.sound.drums);
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
      const { part, session, timeline } = await scene(request);
      const { pulse } = pulseKeeper(part, session);
      // Of those recorded together one that cannot be read is left out; the others have the same pulse.
      const players = playersOf(part, session);
      const played = await Promise.allSettled(players.map(({ id }) => scene({ ...request, partId: id })));
      const notes = played.flatMap((own) =>
        own.status === 'fulfilled' ? [own.value.evaluation.stages[0].notes] : [],
      );
      return playedBeatsOf(part, pulse, notes, timeline, tellProgress);
    },

    async takeRows({ grid, ...request }) {
      const { part, session } = partOf(request);
      const timeline = timelineOf(session);
      await summon([part], session).catch(() => undefined);
      const laid = await Promise.all(
        takesOfPart(part, session).map(async (take): Promise<LaidTake> => {
          try {
            const { notes } = (await assembled(takeAlone(part, take), session)).material;
            return { take, notes };
          } catch (error) {
            return { take, fault: sentenceOf(error) };
          }
        }),
      );
      const { reference } = part;
      const score = reference ? scoreOrNull(reference) : null;
      return readTakes(laid, grid, timeline, score);
    },

    async assembledView({ grid, ...request }) {
      const { part, session } = partOf(request);
      await summon([part], session);
      return readAssembled(part, session, grid, evaluator);
    },

    async comparison({ counterpart, ...request }) {
      const { part, session } = partOf(request);
      await summon(listOf(session.parts), session);
      if (counterpart.kind === 'take') await summon([aloneNamed(part, session, counterpart.takeId)], session);
      else if (counterpart.session) await summon(listOf(counterpart.session.parts), counterpart.session);
      return comparisonOf(part, session, counterpart, evaluator);
    },

    async draftOfPart({ session, part }) {
      const { contested, material, dropped } = await assembled(part, session);
      return { contested: [...contested], notes: material.notes.length, dropped: dropped.length };
    },
  } satisfies Partial<Engine>;
}
