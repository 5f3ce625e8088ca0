import { overlapsWithin } from '../analysis';
import { DRUM_CHANNEL, programName } from '../midi';
import type { Material, NoteTable } from '../model';
import { createStep, type EditsStep } from '../steps';
import type { Timeline } from '../time';
import { controllerFloods, pedalsLeftDown, straySystemMessages } from './controllerFindings';
import type { Finding } from './finding';
import { noteFindings } from './noteFindings';
import { rangeOfProgram } from './instrumentRanges';

/** A part as it is looked through. */
export interface LookedThrough {
  material: Material;
  timeline: Timeline;
  isDrums: boolean;
  /** General MIDI program, 0-127. */
  program: number;
  /** What the part is called. */
  name: string;
  /** Where its track ends, in ticks. */
  endTick: number;
}

/** Chords that start to the tick, and of how many notes they are. */
const [LEAST_CHORDS, CHORD_NOTES] = [6, 3];

/** All that is probably wrong with a part, in order of time. */
export function findingsOf(part: LookedThrough): Finding[] {
  const { material, timeline } = part;
  const { notes, events } = material;
  const single = noteFindings(notes, part.program, timeline);
  // What is struck twice or stuck overlaps as well, and need not be told of again.
  const told = new Set(
    single.flatMap(({ kind, notes: ids }) => (kind === 'double-strike' || kind === 'stuck-note' ? ids : [])),
  );
  return [
    ...single,
    ...(part.isDrums ? [] : overlaps(notes, told)),
    ...flattenedChords(notes, part),
    ...pedalsLeftDown(events, part.endTick),
    ...straySystemMessages(material),
    ...controllerFloods(events, timeline),
    ...outOfRange(part, new Set(single.flatMap(({ notes: ids }) => ids))),
  ].sort((a, b) => a.tick - b.tick);
}

/** So many overlaps in one part are told as one. */
const MANY_OVERLAPS = 3;

function overlaps(notes: NoteTable, told: ReadonlySet<number>): Finding[] {
  const found = overlapsWithin(notes)
    .filter(({ row, other }) => !told.has(notes.id[row]) && !told.has(notes.id[other]))
    .map(({ row, other }): Finding & { mend: EditsStep } => {
      const end = Math.max(Math.round(notes.start[other]), Math.round(notes.start[row]) + 1);
      return {
        kind: 'overlap',
        tick: notes.start[other],
        notes: [notes.id[row], notes.id[other]],
        reason: 'A note of this pitch is struck again before it has ended.',
        sure: 0.9,
        mend:
          notes.start[other] > notes.start[row]
            ? createStep('edits', { change: { [notes.id[row]]: { end } } })
            : createStep('edits', { delete: [notes.id[notes.end[row] < notes.end[other] ? row : other]] }),
      };
    });
  if (found.length <= MANY_OVERLAPS) return found;
  const gone = new Set(found.flatMap(({ mend }) => mend.delete));
  const change: EditsStep['change'] = {};
  for (const { mend } of found)
    for (const [id, { end = Infinity }] of Object.entries(mend.change))
      if (!gone.has(Number(id))) change[id] = { end: Math.min(end, change[id]?.end ?? Infinity) };
  return [
    {
      ...found[0],
      notes: [...new Set(found.flatMap(({ notes: ids }) => ids))],
      reason: `${found.length} times a note is struck again before it has ended.`,
      mend: createStep('edits', { change, delete: [...gone] }),
    },
  ];
}

/** Notes by themselves, and at how many places within a quarter, as a share of them, where a part counts as played. */
const [LEAST_ALONE, PLACES] = [12, 0.35];

/**
 * Chords that nearly all start to the very tick in a part that is otherwise played loosely: nobody plays so, and a
 * correction may have flattened them. In a part that was never played, chords are flat because all is.
 */
function flattenedChords(notes: NoteTable, { isDrums, timeline }: LookedThrough): Finding[] {
  if (isDrums) return [];
  let [chords, flat, alone] = [0, 0, 0];
  const places = new Set<number>();
  const ids: number[] = [];
  let first = -1;
  for (let row = 0; row < notes.length;) {
    let end = row + 1;
    while (end < notes.length && notes.start[end] - notes.start[row] < 40) end++;
    if (end - row >= CHORD_NOTES) {
      chords++;
      const isFlat = notes.start[end - 1] === notes.start[row];
      if (isFlat) {
        flat++;
        if (first < 0) first = row;
        for (let at = row; at < end; at++) ids.push(notes.id[at]);
      }
    } else if (end - row === 1) {
      alone++;
      places.add(Math.round(notes.start[row] % timeline.ticksPerQuarter));
    }
    row = end;
  }
  if (flat < LEAST_CHORDS || flat < 0.9 * chords) return [];
  if (alone < LEAST_ALONE || places.size < PLACES * Math.min(alone, timeline.ticksPerQuarter / 4)) return [];
  return [
    {
      kind: 'flattened-chord',
      tick: notes.start[first],
      notes: ids,
      reason: `${flat} of ${chords} chords start to the very tick, where the part is played loosely: a correction may have flattened them.`,
      sure: 0.6,
      mend: null,
    },
  ];
}

/** More notes than this share outside the range of an instrument are no slips. */
const MOST_OUTSIDE = 0.05;

/** Words by which a part says that it is another instrument than the program it sends, as chip music does. */
const OTHERS = /\b(lead|pulse|square|saw|tri|synth|piano|guitar|bass|drum|pad|choir|keys?)(?=\b|_)/i;

function saysOther(name: string, program: number): boolean {
  const said = OTHERS.exec(name.replaceAll('_', ' '));
  return said !== null && !programName(program).toLowerCase().includes(said[1].toLowerCase());
}

/** Notes an instrument does not have; what is found to be no note of the music is told of as that. */
function outOfRange(
  { material: { notes }, isDrums, program, name }: LookedThrough,
  told: ReadonlySet<number>,
): Finding[] {
  const range = isDrums || saysOther(name, program) ? null : rangeOfProgram(program);
  if (!range) return [];
  const [low, high] = range;
  const rows = Array.from(notes.pitch.keys()).filter(
    (row) =>
      notes.channel[row] !== DRUM_CHANNEL &&
      (notes.pitch[row] < low || notes.pitch[row] > high) &&
      !told.has(notes.id[row]),
  );
  // A part that is written so throughout was meant so, for the sound it has.
  if (rows.length === 0 || rows.length > MOST_OUTSIDE * notes.length) return [];
  return [
    {
      kind: 'out-of-range',
      tick: notes.start[rows[0]],
      notes: rows.map((row) => notes.id[row]),
      reason: `${rows.length === 1 ? '1 note lies' : `${rows.length} notes lie`} outside what a ${programName(program)} plays.`,
      sure: 0.5,
      mend: createStep('transpose', {
        into: [low, high],
        where: { notes: rows.map((row) => notes.id[row]) },
      }),
    },
  ];
}
