import type { NoteTable } from '../model';
import { secondsToTicks, type Timeline } from '../time';
import type { Beat, Frame } from './frame';
import { withEnds, type LongChord } from './lengths';
import type { NotationOptions } from './options';
import { USUAL_HABITS, placeCostsOf, readGrid, type Reading } from './readingGrid';
import { withoutRepeats } from './staves';
import { isRolled, type Stroke } from './strokes';
import { driftOf, spreadOf } from './timing';
import { QUARTER } from './units';
import { voicesOf, voicesOfDrums, type Sounding, type Struck } from './voices';
import type { Concern } from './written';

/** A note moved by more than this is told, in ms; and one that sounds longer than written by this, in units. */
const MOVED_MS = 30;
const SHORTER = QUARTER / 4;
/** So often is read again with what was read before. */
const PASSES = 2;

/** Everything one staff is written from. */
export interface Staff {
  chords: LongChord[];
  reading: Reading;
}

/** What a staff is written from: notes by when they were meant. */
interface StaffInput {
  notes: NoteTable;
  isDrums: boolean;
  timeline: Timeline;
}

/** The shortest value of a beat, in units. */
function finestOf({ finest, finestIn }: NotationOptions) {
  const own = new Map(finestIn.map((each) => [each.bar - 1, each.finest]));
  return ({ bar }: Beat): number => (4 * QUARTER) / (own.get(bar) ?? finest);
}

/** Reads one staff: its grid, its voices, where its chords end. What cannot be written well is added to `concerns`. */
export function writeStaff(
  { notes, isDrums, timeline }: StaffInput,
  strokes: readonly Stroke[],
  ends: Float64Array,
  frame: Frame,
  options: NotationOptions,
  concerns: Concern[],
): Staff {
  const finest = finestOf(options);
  const struckAt = (drift: (index: number) => number) =>
    strokes.map(({ second, rows: chord }, index) => ({
      at: Math.max(0, frame.unitsAt(secondsToTicks(timeline.tempo, Math.max(0, second - drift(index))))),
      pitches: chord.map((row) => notes.pitch[row]),
    }));
  // Once as it is played, and once without the slow drift that shows then.
  const asPlayed = struckAt(() => 0);
  const drift = driftOf(readGrid(asPlayed, frame.beats, finest, { ...USUAL_HABITS, isPlain: true }).off);
  const struck = struckAt((index) => drift[index] / 1000);
  let reading = readGrid(struck, frame.beats, finest);
  // What was read tells how the part is played, and so how to read it.
  for (let pass = 0; pass < PASSES; pass++)
    reading = readGrid(struck, frame.beats, finest, {
      spreadMs: spreadOf(reading.off),
      placeCosts: placeCostsOf(reading, struck, frame.beats),
    });
  const byPlace = new Map<number, Struck & { rows: number[] }>();
  strokes.forEach((stroke, index) => {
    const at = reading.places[index];
    const there = byPlace.get(at);
    const [kept, dropped] = withoutRepeats({ rows: [...(there?.rows ?? []), ...stroke.rows] }, notes);
    for (const row of dropped)
      concerns.push({ kind: 'dropped', id: notes.id[row], bar: frame.barAt(at).number, ms: 0 });
    const shift = drift[index] / 1000;
    const sounding = kept.map((row): Sounding => {
      const end = secondsToTicks(timeline.tempo, Math.max(0, ends[row] - shift));
      return { row, pitch: notes.pitch[row], end: frame.unitsAt(end) };
    });
    byPlace.set(at, {
      at,
      rows: kept,
      notes: sounding,
      graces: [...(there?.graces ?? []), ...stroke.graces],
      isRolled: (there?.isRolled ?? false) || (!isDrums && isRolled(stroke)),
    });
    const off = Math.abs(reading.off[index]);
    if (off > MOVED_MS)
      for (const row of stroke.rows)
        concerns.push({ kind: 'moved', id: notes.id[row], bar: frame.barAt(at).number, ms: Math.round(off) });
  });
  const inOrder = [...byPlace.values()].sort((a, b) => a.at - b.at);
  const voiced = isDrums ? voicesOfDrums(inOrder) : voicesOf(inOrder);
  const chords = ([1, 2] as const).flatMap((voice) =>
    withEnds(
      voiced.filter((chord) => chord.voice === voice),
      frame,
      reading,
      isDrums,
    ),
  );
  const msPerUnit = (at: number) => {
    const beat = frame.beatAt(at);
    return beat.ms / beat.units;
  };
  if (!isDrums)
    for (const { at, end, notes: own } of chords)
      for (const note of own)
        if (note.end - end > SHORTER)
          concerns.push({
            kind: 'shorter',
            id: notes.id[note.row],
            bar: frame.barAt(at).number,
            ms: Math.round((note.end - end) * msPerUnit(at)),
          });
  return { chords, reading };
}
