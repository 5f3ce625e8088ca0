import { OrdleError } from '../errors';
import type { Evaluator } from '../evaluate';
import { barsOfMeter, rowsOfNotes, rowsTogether, scoreTake, type Following } from '../following';
import { scoreOfWritten, type WrittenMusic } from '../formats';
import { contentKey, type NoteTable, type Take } from '../model';
import { itemOf, type Reference, type Session } from '../session';
import { ticksToSeconds, type Timeline } from '../time';

/** A score ready to be laid beside parts: what the parts say of it, and what is to be stored. */
export interface LaidScore {
  reference: Reference;
  take: Take;
  /** Of the notes that are written where it was played, how many were found: 0 to 1. */
  found: number;
}

/** Of scores with many parts so many are tried one by one, and fewer where each try is long: so many notes in all. */
const [MOST_TRIED, MOST_NOTES_TRIED] = [24, 50_000];
/** A part of the score is preferred to all of it where it is followed nearly as well. */
const NEARLY_AS_WELL = 0.02;

/**
 * Lays what is written beside parts of a session: all of it or that one of its parts that is found best in the playing.
 * Throws `nothing-played` where the parts have no notes, `other-music` where hardly anything of it is found.
 */
export function layScore(
  session: Session,
  partIds: readonly string[],
  written: WrittenMusic,
  name: string,
  evaluator: Pick<Evaluator, 'evaluate' | 'follow'>,
  timeline: Timeline,
): LaidScore {
  const tables = partIds.flatMap((id) => {
    const part = itemOf(session.parts, id);
    return part ? [evaluator.evaluate(part, session, timeline).stages[0].notes] : [];
  });
  const { part: partOf, row: rowOf } = rowsTogether(tables);
  if (partOf.length > MOST_NOTES_TRIED)
    throw new OrdleError(
      'too-many-to-follow',
      `These parts have ${partOf.length.toLocaleString('en')} notes; up to ${MOST_NOTES_TRIED.toLocaleString('en')} are followed at once. Lay the score beside fewer parts.`,
    );
  if (partOf.length === 0)
    throw new OrdleError('nothing-played', 'There are no notes in this part, so there is nothing to follow.');
  const ticks = Float64Array.from(partOf, (part, at) => tables[part].start[rowOf[at]]);
  const playing = {
    seconds: ticks.map((tick) => ticksToSeconds(timeline.tempo, tick)),
    pitch: Uint8Array.from(partOf, (part, at) => tables[part].pitch[rowOf[at]]),
  };
  const tries = Math.min(MOST_TRIED, Math.floor(MOST_NOTES_TRIED / partOf.length));
  const single = written.parts.length > 1 ? [...written.parts.keys()].slice(0, tries) : [];
  const tried = [undefined, ...single].map((which) => {
    const score = scoreOfWritten(written, which);
    const following = evaluator.follow(score, playing);
    return { which, score, following, found: shareFound(following) };
  });
  const most = tried.reduce((best, { found }) => Math.max(best, found), 0);
  const best = tried.findLast(({ found }) => found >= most - NEARLY_AS_WELL) ?? tried[0];
  if (best.found < LEAST_FOUND)
    throw new OrdleError(
      'other-music',
      `Hardly anything of “${name}” is found in what was played (${Math.round(100 * best.found)} of 100 notes). Is it the score of another piece, or of another part?`,
    );
  const part = best.which === undefined ? '' : written.parts[best.which].name;
  const title = [written.title || name, part]
    .filter((each, at, all) => each && all.indexOf(each) === at)
    .join(', ');
  const take = scoreTake(best.score, title.slice(0, 200), contentKey);
  const { bars, firstBar, order } = best.score;
  return {
    reference: {
      score: take.key,
      name: title.slice(0, 200),
      bars: [...bars],
      firstBar,
      ...(order && { order: [...order] }),
    },
    take,
    found: best.found,
  };
}

/** Less than this of both sides is no piece that is known. */
const LEAST_FOUND = 0.3;

/** Right pairs as a share of what was written and what was played (F-measure). */
function shareFound({ occurrences, occurrenceOf, isRight }: Following): number {
  const right = isRight.reduce((sum, each) => sum + each, 0);
  return (2 * right) / Math.max(1, occurrences.length + occurrenceOf.length);
}

/** Another part of the session as it is cleaned, taken as it is written, to be laid beside others. */
export function writtenOfPart(
  notes: NoteTable,
  name: string,
  { meter, ticksPerQuarter }: Timeline,
): WrittenMusic {
  if (notes.length === 0)
    throw new OrdleError(
      'nothing-written',
      'There are no notes in that part, so there is nothing to follow.',
    );
  const rows = rowsOfNotes(notes, ticksPerQuarter);
  const last = rows.reduce((most, { at }) => Math.max(most, at), 0);
  return {
    title: name,
    parts: [{ name, isDrums: false, rows }],
    ...barsOfMeter(meter, ticksPerQuarter, last),
  };
}
