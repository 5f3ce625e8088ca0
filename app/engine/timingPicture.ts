import {
  createEvaluator,
  latenessOf,
  latenessStrip,
  listOf,
  timelineOf,
  type LatenessStrip,
  type Session,
  cleanedRuler,
} from '@ordle/core';
import { createLibrary } from './library';

/** Stretches of the picture. */
const BINS = 40;
/** Larger sessions have no picture: it would hold up what a person opens meanwhile. */
const MOST_NOTES = 300_000;

/**
 * How late and early a whole session is along its length as it is cleaned, in ms, over all parts that are not set
 * aside; null where it has no notes or too many. Its takes are let go of afterwards: a shelf may hold hundreds of
 * sessions.
 */
export async function timingPictureOf(session: Session): Promise<LatenessStrip | null> {
  const count = listOf(session.takes).reduce((sum, { noteCount }) => sum + noteCount, 0);
  if (count === 0 || count > MOST_NOTES) return null;
  const library = createLibrary();
  await library.summon(listOf(session.parts), session);
  const evaluator = createEvaluator(library.takeOf, library.editTable);
  const timeline = timelineOf(session);
  const parts = listOf(session.parts)
    .filter(({ setAside }) => !setAside)
    .map((part) => {
      const { stages } = evaluator.evaluate(part, session, timeline);
      const { notes } = stages[stages.length - 1];
      const { grids, swing } = cleanedRuler(part, '1/16');
      return { start: notes.start, late: latenessOf(notes, grids, swing, timeline) };
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
