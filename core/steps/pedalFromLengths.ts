import { firstAtOrAfter, secondsToTicks, ticksToSeconds, type Timeline } from '../time';
import type { NoteTable } from '../model';

/** Seconds within which ends count as one release, and beyond which starts count as apart. */
const SAME_END = 0.01;
const APART = 0.05;

/** Presses that hold what long notes hold by themselves, and the ends the notes have with them; rows are those of the notes. */
export interface PedalOfLengths {
  presses: [number, number][];
  end: Float64Array;
}

/**
 * Turns lengths into pedal, the way back from holding notes to the pedal's release. Notes of a channel that end together without having begun
 * together were let go by something other than fingers: a press ends there. It begins `after` seconds after the first of them, yet
 * after every earlier end of the channel, so that nothing rings on that did not before. Its notes are let go when the next note starts,
 * but not before the press begins. What sounds stays the same to within the 10 ms in which ends count as one.
 */
export function pedalOfLengths(
  notes: NoteTable,
  touched: Uint8Array,
  channel: number,
  after: number,
  { tempo }: Timeline,
): PedalOfLengths {
  const later = (tick: number, seconds: number) =>
    secondsToTicks(tempo, ticksToSeconds(tempo, tick) + seconds);
  const own: number[] = [];
  for (let row = 0; row < notes.length; row++) if (notes.channel[row] === channel) own.push(row);
  const starts = Float64Array.from(own, (row) => notes.start[row]);
  const byEnd = [...own].sort((a, b) => notes.end[a] - notes.end[b]);
  const end = notes.end.slice();
  const presses: [number, number][] = [];
  for (let first = 0, stop = 0; first < byEnd.length; first = stop) {
    const limit = later(notes.end[byEnd[first]], SAME_END);
    while (stop < byEnd.length && notes.end[byEnd[stop]] <= limit) stop++;
    const group = byEnd.slice(first, stop).filter((row) => touched[row] === 1);
    if (group.length < 2) continue;
    const begins = group.map((row) => notes.start[row]);
    const [earliest, latest] = [Math.min(...begins), Math.max(...begins)];
    if (latest <= later(earliest, APART)) continue;
    const release = notes.end[byEnd[stop - 1]];
    const lastEnd = first === 0 ? -1 : notes.end[byEnd[first - 1]];
    const down = Math.max(later(earliest, after), lastEnd + 1);
    if (down >= release) continue;
    presses.push([down, release]);
    for (const row of group) {
      const next = starts[firstAtOrAfter(starts, notes.start[row] + 1)] ?? Infinity;
      end[row] = Math.min(release, Math.max(next, down));
    }
  }
  return { presses, end };
}
