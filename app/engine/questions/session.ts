import {
  blendedPlayback,
  listOf,
  markersOf,
  timelineOf,
  type Part,
  harmonyOfParts,
  partsOfHarmony,
  chartOfPart,
  notesOfChart,
  readingsOfParts,
  cleanedRuler,
  offMsAt,
} from '@ordle/core';
import type { ChartQuestion, Engine } from '../protocol';
import { partRows } from '../partRows';
import { type Scenes } from '../scenes';

/** What is seen, told and heard of all parts. */
export function sessionQuestions({ library, evaluator, scene }: Scenes) {
  const { takeOf, summon } = library;
  const readPart = async ({ grid, where, ...question }: ChartQuestion) => {
    const { part, evaluation, timeline } = await scene(question);
    return { read: { part, evaluation }, by: { shown: grid, timeline, where } };
  };
  return {
    async offTheGrid({ session, grid }) {
      const parts = listOf(session.parts);
      await summon(parts, session);
      const timeline = timelineOf(session);
      return Object.fromEntries(
        parts.flatMap((part) => {
          const { stages } = evaluator.evaluate(part, session, timeline);
          const { notes } = stages[stages.length - 1];
          return notes.length === 0 ? [] : [[part.id, offMsAt(notes, cleanedRuler(part, grid), timeline)]];
        }),
      );
    },

    async readings({ session, grid, where }) {
      const parts = listOf(session.parts).filter(({ setAside }) => !setAside);
      await summon(listOf(session.parts), session);
      const timeline = timelineOf(session);
      const read = parts.map((part) => ({ part, evaluation: evaluator.evaluate(part, session, timeline) }));
      return readingsOfParts(read, { shown: grid, timeline, where });
    },

    async spans({ session }) {
      const parts = listOf(session.parts);
      await summon(parts, session);
      const timeline = timelineOf(session);
      return Object.fromEntries(
        parts.map((part) => {
          const { stages, assembly } = evaluator.evaluate(part, session, timeline);
          const { start } = stages[stages.length - 1].notes;
          return [part.id, { first: start.length === 0 ? null : start[0], end: assembly.endTick }];
        }),
      );
    },

    async harmony({ session, partId }) {
      await summon(listOf(session.parts), session);
      const timeline = timelineOf(session);
      const read = partsOfHarmony(session.parts, partId).map((part) => ({
        part,
        evaluation: evaluator.evaluate(part, session, timeline),
      }));
      return harmonyOfParts(read, timeline);
    },

    async chart(asked) {
      const { read, by } = await readPart(asked);
      return chartOfPart(asked.kind, read, by);
    },

    async chartNotes(asked) {
      const { read, by } = await readPart(asked);
      return notesOfChart(asked, read, by);
    },

    async markers({ session }) {
      await summon(listOf(session.parts), session);
      return markersOf(session, takeOf);
    },

    async partRows({ session }) {
      return partRows(session, { evaluator, summon });
    },

    async playback({ session, stops, blend, partIds }) {
      const parts = listOf(session.parts).filter((part) => partIds.includes(part.id));
      await summon(listOf(session.parts), session);
      const timeline = timelineOf(session);
      const stagesOf = (part: Part) => {
        const { stages, assembly } = evaluator.evaluate(part, session, timeline);
        return {
          assembly,
          played: stages[0],
          heard: stages[Math.min(stops[part.id] ?? Infinity, part.steps.order.length)],
        };
      };
      return parts.map((part) => {
        const { assembly, played, heard } = stagesOf(part);
        // Controllers belong to the channel: the pedal of one hand's track holds for the other hand's notes, muted or
        // not.
        const beside = evaluator.partsBeside(part, session).map((other) => {
          const sides = stagesOf(other);
          return (blend >= 0.5 ? sides.heard : sides.played).events;
        });
        return blendedPlayback(played, heard, blend, timeline.tempo, beside, assembly);
      });
    },

    async contents({ session }) {
      await summon(listOf(session.parts), session);
      const timeline = timelineOf(session);
      return Object.fromEntries(
        listOf(session.parts).map((part) => [part.id, evaluator.contentOf(part, session, timeline)]),
      );
    },
  } satisfies Partial<Engine>;
}
