import {
  createEvaluator,
  hasTimingPicture,
  listOf,
  timingPictureOfSession,
  type LatenessStrip,
  type Session,
} from '@ordle/core';
import { createLibrary } from './library';

/**
 * How late and early a whole session is along its length as it is cleaned, in ms; null where it has no notes or too
 * many. Its takes are let go of afterwards: a shelf may hold hundreds of sessions.
 */
export async function timingPicture(session: Session): Promise<LatenessStrip | null> {
  if (!hasTimingPicture(session)) return null;
  const library = createLibrary();
  await library.summon(listOf(session.parts), session);
  return timingPictureOfSession(session, createEvaluator(library.takeOf, library.editTable));
}
