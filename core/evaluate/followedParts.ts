import {
  beginningOf,
  rowsTogether,
  scoreOfReference,
  type Follow,
  type Following,
  type Score,
} from '../following';
import { OrdleError } from '../errors';
import type { NoteTable, Take } from '../model';
import { listOf, type Part, type Reference, type Session } from '../session';
import type { WrittenBeside, WrittenTarget } from '../steps';
import { ticksToSeconds, type Timeline } from '../time';

/** More notes than this are not followed at once: some ten seconds of work. */
const MOST_NOTES = 50_000;

/** Parts that are one performance, laid beside their score. */
export interface Followed {
  score: Score;
  reference: Reference;
  /** The quarter of the session on which the first bar that is played begins. */
  beginsAt: number;
  following: Following;
  parts: readonly { part: Part; notes: NoteTable }[];
  /** For each played row, in order of start and then pitch over all parts: whose it is, and which of its rows. */
  partOf: Int32Array;
  rowOf: Int32Array;
  seconds: Float64Array;
  /** What is written of a part, by the ids of its notes. */
  beside(partId: string): FollowedPart;
}

/** What is known of the notes of a part. */
export interface FollowedPart extends WrittenBeside {
  /** By id of a note: its place among the played ones, or undefined where it was not played. */
  playedRowOf(id: number): number | undefined;
}

/** What a part lays: sources with the shares of them. */
const laidBy = ({ layers }: Part): Set<string> =>
  new Set(
    listOf(layers).flatMap(({ pieces }) =>
      listOf(pieces).map(({ source, split }) => JSON.stringify([source, split?.by, split?.label])),
    ),
  );

/**
 * The parts that are followed with a part as one performance: those with the same score that play something of their
 * own. A copy of a part plays the same once more, and is followed by itself; so is what is made of a part.
 */
export function partsWithScore(part: Part, session: Session): Part[] {
  if (!part.reference) return [];
  const { score } = part.reference;
  const own = laidBy(part);
  return listOf(session.parts).filter((other) => {
    if (other.id === part.id) return true;
    if (other.setAside || other.reference?.score !== score) return false;
    const laid = laidBy(other);
    const isMadeOf = (one: Part, of: Part) =>
      listOf(one.layers).some(({ pieces }) =>
        listOf(pieces).some(({ source }) => 'part' in source && source.part === of.id),
      );
    return ![...laid].some((each) => own.has(each)) && !isMadeOf(part, other) && !isMadeOf(other, part);
  });
}

/** A follower that remembers what did not change. */
export function createFollower(takes: (key: string) => Take, follow: Follow) {
  let known: { parts: readonly { part: Part; notes: NoteTable }[]; timeline: Timeline; made: Followed }[] =
    [];
  return (
    part: Part,
    session: Session,
    timeline: Timeline,
    notesOf: (part: Part) => NoteTable | null,
  ): Followed | null => {
    if (!part.reference) return null;
    const parts = partsWithScore(part, session).flatMap((each) => {
      const notes = notesOf(each);
      return notes ? [{ part: each, notes }] : [];
    });
    const there = known.find(
      (each) =>
        each.timeline === timeline &&
        each.parts.length === parts.length &&
        each.parts.every(
          ({ part: other, notes }, index) =>
            notes === parts[index].notes && other.reference === parts[index].part.reference,
        ),
    );
    if (there) return there.made;
    const made = followParts(parts, part.reference, timeline, takes, follow);
    known = [{ parts, timeline, made }, ...known].slice(0, 8);
    return made;
  };
}

function followParts(
  parts: readonly { part: Part; notes: NoteTable }[],
  first: Reference,
  timeline: Timeline,
  takes: (key: string) => Take,
  follow: Follow,
): Followed {
  // What is said at one of the parts is said of all.
  const reference = parts.find(({ part }) => part.reference?.said)?.part.reference ?? first;
  const count = parts.reduce((sum, { notes }) => sum + notes.length, 0);
  if (count > MOST_NOTES)
    throw new OrdleError(
      'too-many-to-follow',
      `${count.toLocaleString('en')} notes are laid beside this score; up to ${MOST_NOTES.toLocaleString('en')} are followed at once. Lay it beside fewer parts.`,
    );
  const score = scoreOfReference(reference, takes(reference.score));
  const tables = parts.map(({ notes }) => notes);
  const { part: partOf, row: rowOf } = rowsTogether(tables);
  const seconds = Float64Array.from(partOf, (part, at) =>
    ticksToSeconds(timeline.tempo, tables[part].start[rowOf[at]]),
  );
  const pitch = Uint8Array.from(partOf, (part, at) => tables[part].pitch[rowOf[at]]);
  const following = follow(
    score,
    { seconds, pitch },
    reference.said?.map(({ at, bar }) => ({ seconds: ticksToSeconds(timeline.tempo, at), bar })),
  );
  const ticks = Array.from(partOf, (part, at) => tables[part].start[rowOf[at]]);
  const beginsAt = reference.beginsAt ?? beginningOf(score, following, ticks, timeline);
  const origin = following.passages.at(0)?.from ?? 0;
  const targetAt = (occurrence: number): WrittenTarget => {
    const { row, place } = following.occurrences[occurrence];
    const start = (beginsAt + place - origin) * timeline.ticksPerQuarter;
    return { start, end: start + score.lengths[row] * timeline.ticksPerQuarter, pitch: score.pitch[row] };
  };
  const missing = following.occurrences.flatMap((_, occurrence) =>
    following.playedOf[occurrence] < 0 ? [targetAt(occurrence)] : [],
  );
  const byPart = new Map<string, FollowedPart>();
  return {
    score,
    reference,
    beginsAt,
    following,
    parts,
    partOf,
    rowOf,
    seconds,
    beside(partId) {
      const own = byPart.get(partId);
      if (own) return own;
      const index = parts.findIndex(({ part }) => part.id === partId);
      const rows = new Map<number, number>();
      partOf.forEach((part, at) => {
        if (part === index) rows.set(tables[index].id[rowOf[at]], at);
      });
      const made: FollowedPart = {
        playedRowOf: (id) => rows.get(id),
        isPlayed: (id) => rows.has(id),
        missing,
        targetOf(id) {
          const at = rows.get(id);
          if (at === undefined || following.occurrenceOf[at] < 0) return undefined;
          return targetAt(following.occurrenceOf[at]);
        },
      };
      byPart.set(partId, made);
      return made;
    },
  };
}
