import { z } from 'zod';
import { pickRows, sortedByStart, withColumns, type Material, type NoteTable } from '../model';
import { movedAlong, endsAtOthers } from './moveAlong';
import { PERCENT, numberSetting } from './numberSettings';
import { placeIn, type StraightMap } from './placing';
import { stepBase } from './settings';
import { namesNoNotes, saysNoTicks, type StepCommon, type StepContext, type StepKind } from './stepKind';

const schema = z.strictObject({
  kind: z.literal('score'),
  ...stepBase,
  strength: numberSetting(0, 100, 100, PERCENT),
  /** Ends go where they are written too; else they keep what they were, by the tempo that was played there. */
  ends: z.boolean('must be true or false').default(false),
  /** Wrong notes get the written pitch. */
  pitches: z.boolean('must be true or false').default(false),
  /** Notes written at one place: rolled as they were played, or all at once. */
  chords: z.enum(['spread', 'together'], 'must be "spread" or "together"').default('spread'),
  /** What is played and written nowhere. */
  extra: z.enum(['keep', 'remove'], 'must be "keep" or "remove"').default('keep'),
});

export type ScoreStep = z.infer<typeof schema>;

/** Where a played note is written, in ticks of the session. */
export interface WrittenTarget {
  start: number;
  end: number;
  pitch: number;
}

/** What is written of a part, by the ids of its notes. */
export interface WrittenBeside {
  /** Undefined for a note that is written nowhere. */
  targetOf(id: number): WrittenTarget | undefined;
  /** Whether a note was played; others were drawn since. */
  isPlayed(id: number): boolean;
  /** What is written and was not played. */
  missing: readonly WrittenTarget[];
}

/** Chords are rolled within so many quarters; what is farther from its chord goes to its place by itself. */
const ROLLED_WITHIN = 0.5;
/** A note that was drawn stands for a missing one of its pitch this near, in quarters. */
const DRAWN_NEAR = 0.26;

/**
 * Each note is pulled toward the place its note is written at: start + strength/100 x (written - start). Notes that
 * are written nowhere, lengths and controllers move along with their neighbours, evenly between the nearest places
 * that were found. Without a score it changes nothing.
 */
function apply(
  material: Material,
  step: ScoreStep,
  { written, timeline, channel, beside }: StepContext,
  touched: Uint8Array,
): Material {
  const known = written?.();
  if (!known || material.notes.length === 0) return material;
  const { notes, events } = material;
  const targets = Array.from(notes.id, (id) => known.targetOf(id));
  const played = targets.flatMap((target, row) => (target ? [row] : []));
  if (played.length === 0) return material;
  const map = mapOf(notes, targets, played, timeline.ticksPerQuarter);
  standForMissing(notes, targets, known, map, DRAWN_NEAR * timeline.ticksPerQuarter);
  const rows = targets.flatMap((target, row) => (target ? [row] : []));
  const share = step.strength / 100;
  const pulled = (from: number, to: number) =>
    share === 1 ? Math.max(0, to) : Math.max(0, from + share * (to - from));
  const place = (tick: number) => pulled(tick, placeIn(map, tick));
  const goals = startsOf(notes, targets, rows, step.chords, timeline.ticksPerQuarter);
  const [start, end, pitch] = [notes.start.slice(), notes.end.slice(), notes.pitch.slice()];
  let isMoved = false;
  for (let row = 0; row < notes.length; row++) {
    if (touched[row] === 0) continue;
    const target = targets[row];
    start[row] = target ? pulled(notes.start[row], goals[row]) : place(notes.start[row]);
    const length = target && step.ends ? target.end - target.start : null;
    const playedEnd = place(notes.end[row]) - place(notes.start[row]);
    const ended = length === null ? start[row] + playedEnd : pulled(notes.end[row], goals[row] + length);
    end[row] = Math.max(start[row] + 1, ended);
    if (target && step.pitches) pitch[row] = target.pitch;
    if (start[row] === notes.start[row] && playedEnd === notes.end[row] - notes.start[row] && length === null)
      end[row] = notes.end[row];
    isMoved ||=
      start[row] !== notes.start[row] || end[row] !== notes.end[row] || pitch[row] !== notes.pitch[row];
  }
  const isExtra = (row: number) => touched[row] === 1 && targets[row] === undefined;
  const removes = step.extra === 'remove' && touched.some((_, row) => isExtra(row));
  const along =
    share === 0
      ? events
      : movedAlong(events, { notes, touched, where: step.where, timeline, channel, beside, place });
  if (!isMoved && !removes && along === events) return material;
  const moved = withColumns(notes, { start, end, pitch });
  const kept = removes
    ? pickRows(
        moved,
        [...notes.id.keys()].filter((row) => !isExtra(row)),
      )
    : moved;
  return { notes: sortedByStart(kept, true), events: along };
}

/** Drawn notes get the places of missing ones they stand for: each that of the nearest of its pitch. */
function standForMissing(
  { id, start, pitch }: NoteTable,
  targets: (WrittenTarget | undefined)[],
  { isPlayed, missing }: WrittenBeside,
  map: StraightMap,
  near: number,
) {
  const open = new Set(missing);
  for (let row = 0; row < id.length; row++) {
    if (targets[row] || open.size === 0 || isPlayed(id[row])) continue;
    const at = placeIn(map, start[row]);
    let best: WrittenTarget | undefined;
    for (const each of open)
      if (
        each.pitch === pitch[row] &&
        Math.abs(each.start - at) <= near &&
        (!best || Math.abs(each.start - at) < Math.abs(best.start - at))
      )
        best = each;
    if (!best) continue;
    targets[row] = best;
    open.delete(best);
  }
}

/** Where each place of the playing is written: one point a written place, both sides rising. */
function mapOf(
  { start }: NoteTable,
  targets: readonly (WrittenTarget | undefined)[],
  rows: readonly number[],
  ticksPerQuarter: number,
): StraightMap {
  const byTarget = new Map<number, number[]>();
  for (const row of rows) {
    const to = targets[row]?.start ?? 0;
    const list = byTarget.get(to);
    if (list) list.push(start[row]);
    else byTarget.set(to, [start[row]]);
  }
  const points: [number, number][] = [];
  for (const [to, starts] of [...byTarget].sort(([a], [b]) => a - b)) {
    // The earliest, as the chord goes by it.
    const from = Math.min(...starts);
    const last = points.at(-1);
    if (!last || from > last[0]) points.push([from, to]);
  }
  if (points.length < 2) return points;
  // Beyond the ends by the tempo of the outer quarters, not of the outer two strokes.
  const outer = (at: number, step: 1 | -1): [number, number] => {
    let other = at + step;
    while (points[other + step] && Math.abs(points[other][1] - points[at][1]) < 2 * ticksPerQuarter)
      other += step;
    const [[from, to], [otherFrom, otherTo]] = [points[at], points[other]];
    const far = FAR * ticksPerQuarter;
    return [from - step * far, to - step * far * ((otherTo - to) / (otherFrom - from))];
  };
  return [outer(0, 1), ...points, outer(points.length - 1, -1)];
}

/** Beyond the first and last place the map goes on straight for so many quarters, and then as it is there. */
const FAR = 100_000;

/** Where each note starts at full strength: at its place, or with its chord as it was rolled. */
function startsOf(
  { start }: NoteTable,
  targets: readonly (WrittenTarget | undefined)[],
  rows: readonly number[],
  chords: ScoreStep['chords'],
  ticksPerQuarter: number,
): Float64Array {
  const goals = new Float64Array(start.length);
  const first = new Map<number, number>();
  if (chords === 'spread')
    for (const row of rows) {
      const to = targets[row]?.start ?? 0;
      first.set(to, Math.min(first.get(to) ?? Infinity, start[row]));
    }
  for (const row of rows) {
    const to = targets[row]?.start ?? 0;
    const late = start[row] - (first.get(to) ?? start[row]);
    goals[row] = to + (late <= ROLLED_WITHIN * ticksPerQuarter ? late : 0);
  }
  return goals;
}

export const isScore = (step: StepCommon): step is ScoreStep => step.kind === 'score';

/** Moves what was played to where it is written. */
export const score: StepKind<ScoreStep> = {
  kind: 'score',
  title: 'To the score',
  work: 'time',
  hint: 'Pull every note to where it is written',
  schema,
  mapTicks: saysNoTicks,
  mapIds: namesNoNotes,
  apply,
  describe: ({ strength, ends, pitches, chords, extra }) =>
    [
      `${strength} %`,
      ...(ends ? ['ends'] : []),
      ...(pitches ? ['pitches'] : []),
      ...(chords === 'together' ? ['chords together'] : []),
      ...(extra === 'remove' ? ['extra notes removed'] : []),
    ].join(', '),
  movesTime: true,
  followsScore: true,
  putsOnGrid: true,
  readsChannel: ({ where }) => (endsAtOthers(where) ? ['notes'] : []),
};
