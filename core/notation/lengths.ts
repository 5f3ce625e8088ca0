import type { Frame } from './frame';
import type { Reading } from './readingGrid';
import { QUARTER } from './units';
import { endOfChord, type VoicedChord } from './voices';
import { lastAtOrBefore } from '../time';

/** A chord with where it is written to end. */
export interface LongChord extends VoicedChord {
  end: number;
  isStaccato: boolean;
}

/** The lines an end may come to, and what each costs beside its distance, in units: plain values are liked. */
const [ON_GRID, ON_HALF] = [QUARTER / 8, QUARTER / 16];

/**
 * Where the chords of one voice end: at the next one where the gap is under half of the way there and under a beat;
 * short ones of a beat at most as well, with a dot where they sound less than half; the others on a line of the grid
 * of their staff. `isFree`: ends mean nothing (drums), and all go on to the next within a beat.
 */
export function withEnds(
  chords: readonly VoicedChord[],
  frame: Frame,
  reading: Reading,
  isFree: boolean,
): LongChord[] {
  const { beats, bars } = frame;
  const starts = Float64Array.from(beats, ({ at }) => at);
  const readStarts = Float64Array.from(reading.beats, ({ beat }) => beats[beat].at);
  const last = bars[bars.length - 1];
  const end = last.at + last.units;
  return chords.map((chord, index) => {
    const next = chords[index + 1]?.at ?? end;
    const beat = beats[Math.max(0, lastAtOrBefore(starts, chord.at))];
    const way = next - chord.at;
    // Ends of drums mean nothing: they last to the next stroke, or to the end of what is divided as one.
    if (isFree) return { ...chord, end: Math.min(next, endOfDivision(chord.at)), isStaccato: false };
    const sounds = endOfChord(chord.notes) - chord.at;
    const gap = way - sounds;
    if (gap <= 0) return { ...chord, end: next, isStaccato: false };
    const isShort = sounds < way / 2;
    if (gap < way / 2 && gap < beat.units) return { ...chord, end: next, isStaccato: false };
    if (way <= beat.units) return { ...chord, end: next, isStaccato: isShort };
    const to = lineNear(chord.at, chord.at + sounds, next);
    return { ...chord, end: to, isStaccato: sounds < (to - chord.at) / 2 };
  });

  /** Where the beat a place lies in ends, or the two that are divided together. */
  function endOfDivision(at: number): number {
    const { beat, beats: count } = reading.beats[Math.max(0, lastAtOrBefore(readStarts, at))];
    const last = beats[beat + count - 1];
    return last.at + last.units;
  }

  /** The line an end comes to: of the grid the beat is read on, or half a beat or a beat on. */
  function lineNear(at: number, to: number, most: number): number {
    let [best, least] = [most, Math.abs(most - to)];
    const consider = (line: number, cost: number) => {
      if (line <= at + 0.5 || line > most) return;
      const away = Math.abs(line - to) + cost;
      if (away < least) [best, least] = [line, away];
    };
    const from = Math.max(0, lastAtOrBefore(readStarts, at));
    for (let index = from; index < reading.beats.length; index++) {
      const read = reading.beats[index];
      const first = beats[read.beat];
      if (first.at > to + 2 * QUARTER || first.at > most) break;
      consider(first.at, 0);
      const units = read.beats === 2 ? 2 * first.units : first.units;
      if (read.lines % 2 === 0 && !first.isCompound) consider(first.at + units / 2, ON_HALF);
      else if (read.lines === 1 && !first.isCompound && Number.isInteger(units / 2))
        consider(first.at + units / 2, ON_HALF);
      for (let line = 1; line < read.lines; line++) consider(first.at + (units * line) / read.lines, ON_GRID);
      consider(first.at + units, 0);
    }
    return best;
  }
}
