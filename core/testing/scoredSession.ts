import { createEvaluator } from '../evaluate';
import { plainBars, scoreOf, scoreTake, type ScoreBars, type ScoreRow } from '../following';
import { contentKey } from '../model';
import { listOf, orderedOf, sessionOfFile, timelineOf, type Part, type Session } from '../session';
import type { Step } from '../steps';
import { fileOfNotes, type PlainNote } from './files';

/** Quarters of four bars of 4/4, no two bars alike. */
export const WRITTEN: readonly ScoreRow[] = Array.from({ length: 16 }, (_, at) => ({
  at,
  length: 1,
  pitch: 50 + ((at * 5) % 17),
  velocity: 80,
}));

/** What is written as a player has it who keeps to the click, `late` ticks late: 480 a quarter. */
export const playedAsWritten = (late: (at: number) => number = () => 0): PlainNote[] =>
  WRITTEN.map(({ at, pitch }) => [at * 480 + late(at), at * 480 + 400 + late(at), pitch, 70 + at]);

/** A session of one part of some notes, with a score laid beside it. */
export function scoredSession(
  played: readonly PlainNote[],
  written: readonly ScoreRow[] = WRITTEN,
  bars: ScoreBars = plainBars([0, 4, 8, 12, 16]),
) {
  const score = scoreOf(written, bars);
  const laid = scoreTake(score, 'Quay', contentKey);
  let next = 0;
  const made = sessionOfFile(fileOfNotes([...played]), 'test', () => `id${next++}`, 0);
  const takes = new Map([laid, ...made.takes].map((take) => [take.key, take]));
  const takeOf = (key: string) => takes.get(key) ?? laid;
  const evaluator = createEvaluator(takeOf);
  const [plain] = listOf(made.session.parts).filter(({ channel }) => channel === 1);
  const part: Part = {
    ...plain,
    reference: {
      score: laid.key,
      name: 'Quay',
      bars: [...score.bars],
      firstBar: score.firstBar,
      ...(score.order && { order: [...score.order] }),
    },
  };
  const withPart = (own: Part): Session => ({
    ...made.session,
    parts: { ...made.session.parts, byId: { ...made.session.parts.byId, [own.id]: own } },
  });
  const withSteps = (...steps: Step[]) => {
    const own = { ...part, steps: orderedOf(steps.map((step, at) => ({ id: `s${at}`, step }))) };
    return { part: own, session: withPart(own) };
  };
  return {
    part,
    session: withPart(part),
    withSteps,
    withPart,
    evaluator,
    takeOf,
    timeline: timelineOf(made.session),
  };
}
