import { latenessStrip, type LatenessStrip } from '../analysis';
import type { Evaluator } from '../evaluate';
import { listOf, timelineOf, type Session } from '../session';
import type { Timeline } from '../time';
import type { Read } from './partReadings';
import { lateAt } from './rulers';

/** Stretches of the picture. */
const BINS = 40;

/**
 * How late and early a whole session is along its length as it is cleaned, in ms, over all parts that are not set
 * aside.
 */
export function timingPictureOf(read: readonly Read[], timeline: Timeline): LatenessStrip {
  const parts = read
    .filter(({ part }) => !part.setAside)
    .map(({ part, evaluation }) => {
      const last = evaluation.stages.length - 1;
      const { start } = evaluation.stages[last].notes;
      return { start, late: lateAt({ part, evaluation, stop: last, shown: '1/16', timeline }) };
    });
  const end = Math.max(
    1,
    ...parts.map(({ start }) => (start.length === 0 ? 0 : start[start.length - 1] + 1)),
  );
  const strips = parts.map(({ start, late }) => latenessStrip(start, late, end, BINS));
  const most = (side: keyof LatenessStrip) =>
    Float32Array.from({ length: BINS }, (_, bin) => Math.max(0, ...strips.map((strip) => strip[side][bin])));
  return { late: most('late'), early: most('early') };
}

/** Larger sessions have no picture: it would hold up what a person does meanwhile. */
const MOST_NOTES = 300_000;

/** Whether a session has a picture: not without notes, and not with very many. */
export function hasTimingPicture({ takes }: Session): boolean {
  const count = listOf(takes).reduce((sum, { noteCount }) => sum + noteCount, 0);
  return count > 0 && count <= MOST_NOTES;
}

/** The same of a session whose takes are at hand; null where it has none. */
export function timingPictureOfSession(session: Session, evaluator: Evaluator): LatenessStrip | null {
  if (!hasTimingPicture(session)) return null;
  const timeline = timelineOf(session);
  const read = listOf(session.parts).map((part) => ({
    part,
    evaluation: evaluator.evaluate(part, session, timeline),
  }));
  return timingPictureOf(read, timeline);
}
