import type { NoteTable } from '../model';
import { createStep } from '../steps';
import { barAt, barNumbered, createMusicalBars, ticksToSeconds, type Timeline } from '../time';
import type { Finding } from './finding';

/**
 * Notes after the music has ended: after more silence than this, in seconds and in bars, and no more of them than
 * this and this share of all.
 */
const [ENDED_SECONDS, ENDED_BARS, MOST_STRAYS, STRAY_SHARE] = [8, 4, 4, 0.05];

/**
 * A few notes long after all others, of whatever part: left over from something else that was recorded, or from a
 * part that was longer.
 */
export function beyondTheEnd(
  notes: NoteTable,
  others: readonly NoteTable[],
  { tempo, meter }: Timeline,
): Finding[] {
  const most = Math.min(MOST_STRAYS, Math.floor(STRAY_SHARE * notes.length));
  const reach = notes.end.slice();
  for (let row = 1; row < reach.length; row++) reach[row] = Math.max(reach[row], reach[row - 1]);
  for (let row = notes.length - most; row < notes.length; row++) {
    if (row < 1) continue;
    const [end, start] = [reach[row - 1], notes.start[row]];
    const silence = ticksToSeconds(tempo, start) - ticksToSeconds(tempo, end);
    const bars = barAt(meter, start).number - barAt(meter, end).number;
    if (silence <= ENDED_SECONDS || bars < ENDED_BARS) continue;
    // While another part goes on the music has not ended: this one only paused.
    const goesOn = others.some((other) =>
      other.start.some((at, each) => at > end || other.end[each] > start),
    );
    if (goesOn) continue;
    const ids = [...notes.id.subarray(row)];
    return [
      {
        kind: 'beyond-end',
        tick: start,
        notes: ids,
        reason: `${ids.length === 1 ? 'A note comes' : `${ids.length} notes come`} ${silence.toFixed(1)} s after the music of this part has ended.`,
        sure: 0.7,
        mend: createStep('edits', { delete: ids }),
      },
    ];
  }
  return [];
}

/**
 * Silence that is waited for before the music, in seconds: what was written has as much as it wants, up to twice that.
 */
const LEAD_SECONDS = 2;
/** Whole bars that are counted in. */
const COUNT_IN_BARS = 2;
/** The first notes, and how many of them on fine lines (a share of a quarter) say that the music was written. */
const [FIRST_NOTES, FINE_LINE, WRITTEN] = [48, 1 / 48, 0.8];

/**
 * Silence before the first note of all parts: over two seconds and over a bar, and no whole bars that were counted in.
 * Null where there is none.
 */
export function lateLeadIn({ start }: NoteTable, timeline: Timeline): Finding | null {
  const { tempo, meter } = timeline;
  const [firstTick] = start;
  const bar = barAt(meter, firstTick);
  const silence = ticksToSeconds(tempo, firstTick);
  const line = timeline.ticksPerQuarter * FINE_LINE;
  const begins = start.subarray(0, FIRST_NOTES);
  const onLine = begins.filter((tick) => Math.abs(tick / line - Math.round(tick / line)) < 1e-6).length;
  const isWritten = onLine > WRITTEN * begins.length;
  if (silence <= (isWritten ? 2 : 1) * LEAD_SECONDS || bar.number < 2) return null;
  const number = createMusicalBars(timeline)(firstTick);
  const off = Math.abs(silence - ticksToSeconds(tempo, barNumbered(meter, number).start));
  if (number <= COUNT_IN_BARS + 1 && off <= 0.06) return null;
  // Music may begin a little into the first bar after one that was counted in.
  if (bar.number === 2 && firstTick - bar.start <= (bar.end - bar.start) / 2) return null;
  return {
    kind: 'late-lead-in',
    tick: firstTick,
    notes: [],
    reason: `The first note comes after ${silence.toFixed(1)} s of silence, in bar ${bar.number}.`,
    sure: 0.7,
    mend: null,
  };
}
