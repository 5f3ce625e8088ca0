import { standingOf, type Followed } from '../evaluate';
import { pitchName } from '../midi';
import type { NoteTable } from '../model';
import { createStep } from '../steps';
import { secondsToTicks, type Timeline } from '../time';
import { barOfPlace, secondsAt } from '../following';
import type { Finding } from './finding';
import { deleting } from './look';

/** Neighbours whose loudness and lengths a note that is put in takes on. */
const NEIGHBOURS = 6;
/** Written lengths are played so long where nothing around tells it. */
const USUAL_LENGTH = 0.9;

/**
 * What is wrong, missing and extra by the score that is laid beside some parts, for each of them: `tables` are their
 * notes at the stop that is looked through. The score says it, so it is certain.
 */
export function scoreFindings(
  followed: Followed,
  tables: readonly NoteTable[],
  timeline: Timeline,
): Finding[][] {
  const { following, score } = followed;
  const { occurrences } = following;
  const standing = standingOf(followed, tables, timeline);
  const found = tables.map((): Finding[] => []);
  const nameOfBar = (occurrence: number) =>
    `bar ${barOfPlace(score, score.at[occurrences[occurrence].row]) + score.firstBar} of the score`;
  occurrences.forEach(({ row }, occurrence) => {
    const part = standing.partOf[occurrence];
    const written = score.pitch[row];
    if (part < 0) return addMissing(occurrence);
    const notes = tables[part];
    const at = standing.rowOf[occurrence];
    if (standing.isRight[occurrence] === 1) return;
    found[part].push({
      kind: 'wrong-note',
      tick: notes.start[at],
      notes: [notes.id[at]],
      reason: `${pitchName(notes.pitch[at])} is played where ${pitchName(written)} is written, in ${nameOfBar(occurrence)}.`,
      sure: 1,
      mend: createStep('edits', { change: { [notes.id[at]]: { pitch: written } } }),
    });
  });
  for (const { part, row } of standing.extra)
    found[part].push({
      kind: 'extra-note',
      tick: tables[part].start[row],
      notes: [tables[part].id[row]],
      reason: `${pitchName(tables[part].pitch[row])} is written nowhere here.`,
      sure: 0.9,
      mend: deleting(tables[part].id[row]),
    });
  return found;

  /** A note that was not played: put in as its neighbours are played. */
  function addMissing(occurrence: number) {
    const { row, place } = occurrences[occurrence];
    const near = neighboursOf(occurrence);
    const [first] = near;
    if (first === undefined) return;
    const part = near.reduce((best, other) => (isNearer(other, best, row) ? other : best), first);
    const owner = standing.partOf[part];
    const start = Math.max(0, startOf(place, near));
    const rows = near.map((other) => ({
      other,
      table: tables[standing.partOf[other]],
      at: standing.rowOf[other],
    }));
    const mean = (of: (each: (typeof rows)[number]) => number) =>
      rows.reduce((sum, each) => sum + of(each), 0) / rows.length;
    const perQuarter = tempoAt(place);
    const share = mean(({ other, table, at }) => {
      const written = score.lengths[occurrences[other].row] * perQuarter;
      return written > 0 ? Math.min(1, (table.end[at] - table.start[at]) / written) : USUAL_LENGTH;
    });
    const end = start + Math.max(1, share * score.lengths[row] * perQuarter);
    found[owner].push({
      kind: 'missing-note',
      tick: start,
      notes: [],
      reason: `${pitchName(score.pitch[row])} is written in ${nameOfBar(occurrence)} and was not played.`,
      sure: 1,
      mend: createStep('edits', {
        add: [
          {
            start,
            end,
            pitch: score.pitch[row],
            velocity: Math.round(mean(({ table, at }) => table.velocity[at])),
            channel: tables[owner].channel[standing.rowOf[part]] + 1,
          },
        ],
      }),
    });
  }

  /** Standing occurrences around one, the nearest in place first. */
  function neighboursOf(occurrence: number): number[] {
    const { place } = occurrences[occurrence];
    const near: number[] = [];
    for (let away = 1; near.length < 2 * NEIGHBOURS && away < occurrences.length; away++)
      for (const other of [occurrence - away, occurrence + away])
        if (other >= 0 && other < occurrences.length && standing.partOf[other] >= 0) near.push(other);
    return near
      .sort((a, b) => Math.abs(occurrences[a].place - place) - Math.abs(occurrences[b].place - place))
      .slice(0, NEIGHBOURS);
  }

  function isNearer(one: number, other: number, row: number): boolean {
    const away = (occurrence: number) =>
      Math.abs(score.pitch[occurrences[occurrence].row] - score.pitch[row]);
    return away(one) < away(other);
  }

  function tickOf(occurrence: number): number {
    return tables[standing.partOf[occurrence]].start[standing.rowOf[occurrence]];
  }

  /** With the notes of its chord, else between the nearest places on either side that stand. */
  function startOf(place: number, near: readonly number[]): number {
    const chord = near.filter((other) => Math.abs(occurrences[other].place - place) < 1e-6);
    if (chord.length > 0) return chord.reduce((sum, other) => sum + tickOf(other), 0) / chord.length;
    const before = near.find((other) => occurrences[other].place < place);
    const after = near.find((other) => occurrences[other].place > place);
    if (before === undefined || after === undefined) {
      const [one] = near;
      return tickOf(one) + (place - occurrences[one].place) * tempoAt(place);
    }
    const [low, high] = [occurrences[before].place, occurrences[after].place];
    return tickOf(before) + ((place - low) / (high - low)) * (tickOf(after) - tickOf(before));
  }

  /** Ticks a quarter takes about a place. */
  function tempoAt(place: number): number {
    const at = (quarters: number) => secondsToTicks(timeline.tempo, secondsAt(following.clock, quarters));
    const played = (at(place + 1) - at(place - 1)) / 2;
    const known = occurrences.flatMap(({ place: other }, index) =>
      standing.partOf[index] >= 0 && Math.abs(other - place) <= 2 ? [index] : [],
    );
    const [first, last] = [known.at(0), known.at(-1)];
    if (first === undefined || last === undefined) return played;
    const quarters = occurrences[last].place - occurrences[first].place;
    return quarters > 0.5 ? Math.max(1, (tickOf(last) - tickOf(first)) / quarters) : played;
  }
}
