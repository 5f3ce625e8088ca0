import {
  createEvaluator,
  listOf,
  timelineOf,
  timingPictureOf,
  type LatenessStrip,
  type Session,
} from '@ordle/core';
import { createLibrary } from './library';

/** Larger sessions have no picture: it would hold up what a person opens meanwhile. */
const MOST_NOTES = 300_000;

/**
 * How late and early a whole session is along its length as it is cleaned, in ms; null where it has no notes or too
 * many. Its takes are let go of afterwards: a shelf may hold hundreds of sessions.
 */
export async function timingPicture(session: Session): Promise<LatenessStrip | null> {
  const count = listOf(session.takes).reduce((sum, { noteCount }) => sum + noteCount, 0);
  if (count === 0 || count > MOST_NOTES) return null;
  const library = createLibrary();
  await library.summon(listOf(session.parts), session);
  const evaluator = createEvaluator(library.takeOf, library.editTable);
  const timeline = timelineOf(session);
  const read = listOf(session.parts).map((part) => ({
    part,
    evaluation: evaluator.evaluate(part, session, timeline),
  }));
  return timingPictureOf(read, timeline);
}
