import {
  barNumbered,
  chosenParts,
  partsAsWritten,
  stripsOf,
  writeMusicXml,
  writeMxl,
  blendedPlayback,
  createEventBuilder,
  emptyNoteTable,
  itemOf,
  lieWithSteps,
  listOf,
  markersOf,
  orderedOf,
  suggestSession,
  withSuggested,
  type Session,
  timelineOf,
  type Part,
  harmonyOfParts,
  partsOfHarmony,
  chartOfPart,
  notesOfChart,
  findingsByScore,
  readingsOfParts,
  cleanedOffMs,
  faultyRow,
  rowOf,
  sentenceOf,
} from '@ordle/core';
import type { ChartQuestion, Engine } from '../protocol';
import { newId, type Scenes } from '../scenes';

/** What is heard of a part that cannot be worked out. */
const SILENCE = { notes: emptyNoteTable(), events: createEventBuilder(0).build() };

/** What is seen, told and heard of all parts. */
export function sessionQuestions({ library, evaluator, scene, read, tellProgress }: Scenes) {
  const { takeOf, summon } = library;
  /** The session without the parts that cannot be worked out. */
  const withoutWaiting = async (session: Session): Promise<Session> => {
    const { waiting } = await read(session);
    if (waiting.length === 0) return session;
    const left = new Set(waiting.map(({ partId }) => partId));
    return { ...session, parts: orderedOf(listOf(session.parts).filter(({ id }) => !left.has(id))) };
  };
  const readChart = async ({ grid, where, ...question }: ChartQuestion) => {
    const { part, evaluation, timeline } = await scene(question);
    return { read: { part, evaluation }, by: { shown: grid, timeline, where } };
  };
  /** The parts named by their ids, a line each, as they are cleaned. */
  const write = async (session: Session, parts: string) => {
    await summon(listOf(session.parts), session);
    const ids = parts.split('\n');
    // Of none there is nothing to write.
    if (!listOf(session.parts).some(({ id }) => ids.includes(id))) return [];
    return partsAsWritten(chosenParts(session, { parts: ids, version: 'cleaned' }, evaluator), takeOf);
  };
  return {
    async offTheGrid({ session, grid }) {
      const { parts, timeline } = await read(session);
      return Object.fromEntries(
        parts.flatMap(({ part, evaluation }) => {
          const { notes } = evaluation.stages[evaluation.stages.length - 1];
          return notes.length === 0
            ? []
            : [[part.id, cleanedOffMs({ part, evaluation, shown: grid, timeline })]];
        }),
      );
    },

    async readings({ session, grid, where }) {
      const { parts, timeline } = await read(
        session,
        listOf(session.parts).filter(({ setAside }) => !setAside),
      );
      return readingsOfParts(parts, { shown: grid, timeline, where }, (part) =>
        findingsByScore(part, session, evaluator, timeline),
      );
    },

    async suggestion({ session, said }) {
      return suggestSession(await withoutWaiting(session), evaluator, said, tellProgress);
    },

    async lieWithSteps({ session, partId, steps, found }) {
      const { part } = await scene({ session, partId });
      const under = withSuggested(await withoutWaiting(session), found, new Map(), newId);
      const timeline = timelineOf(under);
      const own = itemOf(under.parts, partId) ?? part;
      const { stages } = evaluator.evaluate(own, under, timeline);
      return lieWithSteps(stages[stages.length - 1], steps, {
        timeline,
        isDrums: own.sound.drums,
        written: () => evaluator.followed(own, under, timeline)?.beside(partId) ?? null,
      });
    },

    async spans({ session }) {
      const { parts } = await read(session);
      return Object.fromEntries(
        parts.map(({ part, evaluation: { stages, assembly } }) => {
          const { start } = stages[stages.length - 1].notes;
          return [part.id, { first: start.length === 0 ? null : start[0], end: assembly.endTick }];
        }),
      );
    },

    async harmony({ session, partId }) {
      const { parts, timeline } = await read(session, partsOfHarmony(session.parts, partId));
      return harmonyOfParts(parts, timeline);
    },

    async score({ session, parts, from, to, barsAStrip }) {
      const written = await write(session, parts);
      const { meter } = timelineOf(session);
      return {
        strips: stripsOf(
          written.map((each) => each.written),
          { title: session.name, bars: [from, to], barsAStrip },
        ),
        bars: Math.max(0, ...written.map((each) => each.written.bars.length)),
        partIds: written.map(({ partId }) => partId),
        concerns: written.flatMap(({ partId, written: { name, concerns, staves, placeOf } }) =>
          concerns.map((concern) => ({
            ...concern,
            partId,
            name,
            tick: barNumbered(meter, concern.bar).start,
            staff: staves === 2 ? (placeOf.get(concern.id)?.staff === 1 ? 1 : 0) : null,
          })),
        ),
      };
    },

    async musicXml({ session, parts, from, to, isCompressed }) {
      const written = await write(session, parts);
      const xml = writeMusicXml(
        written.map((each) => each.written),
        { title: session.name, bars: [from, to] },
      );
      return isCompressed ? writeMxl(xml) : new TextEncoder().encode(xml);
    },

    async chart(asked) {
      const { read, by } = await readChart(asked);
      return chartOfPart(asked.kind, read, by);
    },

    async chartNotes(asked) {
      const { read, by } = await readChart(asked);
      return notesOfChart(asked, read, by);
    },

    async markers({ session }) {
      await summon(listOf(session.parts), session);
      return markersOf(session, takeOf);
    },

    async partRows({ session }) {
      const timeline = timelineOf(session);
      // One that cannot be worked out says why, and the others are shown.
      return Promise.all(
        listOf(session.parts).map((part) =>
          summon([part], session)
            .then(() => rowOf(part, session, timeline, evaluator))
            .catch((error: unknown) => faultyRow(part, sentenceOf(error))),
        ),
      );
    },

    async playback({ session, stops, blend, partIds }) {
      const { timeline, parts, waiting } = await read(session);
      const evaluations = new Map(parts.map(({ part, evaluation }) => [part.id, evaluation]));
      const stagesOf = (part: Part) => {
        const { stages, assembly } = evaluations.get(part.id) ?? { stages: [SILENCE], assembly: undefined };
        return {
          assembly,
          played: stages[0],
          heard: stages[Math.min(stops[part.id] ?? Infinity, part.steps.order.length)],
        };
      };
      const asked = listOf(session.parts).filter(({ id }) => partIds.includes(id));
      const played = asked.map((part) => {
        const { assembly, played, heard } = stagesOf(part);
        // Controllers belong to the channel: the pedal of one hand's track holds for the other hand's notes, muted or
        // not.
        const beside = evaluator.partsBeside(part, session).map((other) => {
          const sides = stagesOf(other);
          return (blend >= 0.5 ? sides.heard : sides.played).events;
        });
        return blendedPlayback(played, heard, blend, timeline.tempo, beside, assembly);
      });
      return { parts: played, waiting };
    },

    async contents({ session }) {
      const { timeline, parts } = await read(session);
      return Object.fromEntries(
        parts.map(({ part }) => [part.id, evaluator.contentOf(part, session, timeline)]),
      );
    },
  } satisfies Partial<Engine>;
}
