import {
  OrdleError,
  beatsByScore,
  faultsInWords,
  findingsByScore,
  itemOf,
  layScore,
  listOf,
  pulseKeeper,
  readWritten,
  scorePageOf,
  scoreReadingsOf,
  stripsOf,
  timelineOf,
  writtenOfPart,
} from '@ordle/core';
import type { Engine } from '../protocol';
import { partOf, type Scenes } from '../scenes';

/** Scores that are laid beside what was played. */
export function scoreQuestions({ library, evaluator }: Scenes) {
  const { keep, summon } = library;
  return {
    async playedScore({ version, barsAStrip, ...question }) {
      const { part, session } = partOf(question);
      if (!part.reference) return null;
      await summon(listOf(session.parts), session);
      const page = scorePageOf(part, session, version, evaluator, timelineOf(session));
      if (!page) return null;
      const { written, ...rest } = page;
      const faults = page.partIds.flatMap((id) => {
        const own = itemOf(session.parts, id);
        const found = own && findingsByScore(own, session, evaluator, timelineOf(session));
        return (found ?? []).map((finding) => ({ ...finding, partId: id }));
      });
      faults.sort((a, b) => a.tick - b.tick);
      const bars = [1, Number.MAX_SAFE_INTEGER] as const;
      const told = faultsInWords(page);
      const strips = stripsOf([written], { title: page.name, bars, barsAStrip }).map((strip) => ({
        ...strip,
        words: strip.words.map((words, at) => [words, told.get(strip.from + at)].filter(Boolean).join(' ')),
      }));
      return { ...rest, faults, strips };
    },

    async scoreReadings(question) {
      const { part, session } = partOf(question);
      await summon(listOf(session.parts), session);
      const timeline = timelineOf(session);
      const readings = scoreReadingsOf(part, session, evaluator, timeline);
      const faults = findingsByScore(part, session, evaluator, timeline, 'played') ?? [];
      return readings && { ...readings, faults: faults.sort((a, b) => a.tick - b.tick) };
    },

    async beatsByScore(question) {
      const { part, session } = partOf(question);
      await summon(listOf(session.parts), session);
      const followed = evaluator.followed(part, session, timelineOf(session));
      if (!followed) throw new OrdleError('no-score', 'No score is laid beside this part.');
      return beatsByScore(followed, pulseKeeper(part, session).pulse);
    },

    async layScore({ session, parts, given }) {
      await summon(listOf(session.parts), session);
      const timeline = timelineOf(session);
      const readPart = (id: string) => {
        const part = itemOf(session.parts, id);
        if (!part) throw new OrdleError('no-part', 'The part is no longer in the session.');
        const { stages } = evaluator.evaluate(part, session, timeline);
        return writtenOfPart(stages[stages.length - 1].notes, part.name, timeline);
      };
      const written = 'file' in given ? readWritten(given.file.bytes) : readPart(given.part);
      const name = 'file' in given ? given.file.name.replace(/\.\w+$/, '') : written.title;
      const { reference, take } = layScore(session, parts.split('\n'), written, name, evaluator, timeline);
      return { reference, unkept: await keep([take]) };
    },
  } satisfies Partial<Engine>;
}
