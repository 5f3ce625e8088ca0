import { z } from 'zod';
import { drumName } from '../midi';
import { MAX_NOTE_ID, handsOf, type Hand, type NoteTable } from '../model';
import { barNumbered, belongsFrom, musicalPlaces, type Timeline } from '../time';
import { forEachChord } from './chords';
import { range, whole } from './numberSettings';

/** Which material a step touches; all keys given must hold. See docs/recipe-format.md. */
export const whereSchema = z.strictObject({
  bars: z
    .tuple([whole(1, 1e6), whole(1, 1e6)])
    .refine(([from, to]) => from < to, { message: 'the second bar must come after the first' })
    .optional(),
  pitch: range(whole(0, 127)).optional(),
  velocity: range(whole(1, 127)).optional(),
  length: range(whole(0, 1e9, { unit: 'ticks' })).optional(),
  channel: whole(1, 16).optional(),
  /** Pieces of a drum part, by note number. */
  drums: z.array(whole(0, 127)).min(1, 'must name at least one piece').max(128).optional(),
  hand: z.enum(['left', 'right'], 'must be "left" or "right"').optional(),
  voice: z.enum(['highest', 'lowest', 'inner'], 'must be "highest", "lowest" or "inner"').optional(),
  notes: z.array(whole(0, MAX_NOTE_ID)).optional(),
});

export type Where = z.infer<typeof whereSchema>;

/**
 * One byte a row: 1 where the note is touched. Bars are musical bars, from the first up to but not including the
 * second.
 */
export function touchedRows(notes: NoteTable, where: Where, timeline: Timeline): Uint8Array {
  const touched = new Uint8Array(notes.length).fill(1);
  const keep = (test: (row: number) => boolean) => {
    for (let row = 0; row < notes.length; row++) if (touched[row] && !test(row)) touched[row] = 0;
  };
  if (where.bars) {
    const [begins, ends] = where.bars.map((bar) =>
      belongsFrom(barNumbered(timeline.meter, bar).start, timeline),
    );
    const places = musicalPlaces(notes.start, timeline);
    keep((row) => begins(places[row]) && !ends(places[row]));
  }
  if (where.pitch) {
    const [low, high] = where.pitch;
    keep((row) => notes.pitch[row] >= low && notes.pitch[row] <= high);
  }
  if (where.velocity) {
    const [low, high] = where.velocity;
    keep((row) => notes.velocity[row] >= low && notes.velocity[row] <= high);
  }
  if (where.length) {
    const [low, high] = where.length;
    keep((row) => notes.end[row] - notes.start[row] >= low && notes.end[row] - notes.start[row] <= high);
  }
  if (where.channel !== undefined) {
    const channel = where.channel - 1;
    keep((row) => notes.channel[row] === channel);
  }
  if (where.voice) {
    const voice = where.voice;
    const voices = voicesOf(notes, timeline);
    keep((row) =>
      voice === 'inner' ? voices[row] === 0 : (voices[row] & (voice === 'highest' ? 1 : 2)) !== 0,
    );
  }
  if (where.drums) {
    const pieces = new Set(where.drums);
    keep((row) => pieces.has(notes.pitch[row]));
  }
  if (where.hand) {
    const wanted = where.hand;
    const hands = handOfEach(notes, timeline);
    keep((row) => hands[row] === wanted);
  }
  if (where.notes) {
    const selected = new Set(where.notes);
    keep((row) => selected.has(notes.id[row]));
  }
  return touched;
}

/** Bit 1: highest of its chord; bit 2: lowest; 0: inner. A lone note is both. */
function voicesOf(notes: NoteTable, timeline: Timeline): Uint8Array {
  const voices = new Uint8Array(notes.length);
  forEachChord(notes, timeline, (first, end) => {
    let [low, high] = [127, 0];
    for (let row = first; row < end; row++) {
      low = Math.min(low, notes.pitch[row]);
      high = Math.max(high, notes.pitch[row]);
    }
    for (let row = first; row < end; row++)
      voices[row] = (notes.pitch[row] === high ? 1 : 0) | (notes.pitch[row] === low ? 2 : 0);
  });
  return voices;
}

/** The hand that plays each note, by the split that follows the music. */
function handOfEach(notes: NoteTable, timeline: Timeline): Hand[] {
  const chords: number[][] = [];
  forEachChord(notes, timeline, (first, end) => chords.push([...notes.pitch.subarray(first, end)]));
  return handsOf(chords).flat();
}

/** The where in words, for labels. */
export function describeWhere(where: Where): string {
  const words: string[] = [];
  if (where.bars) {
    words.push(
      where.bars[1] - where.bars[0] === 1
        ? `bar ${where.bars[0]}`
        : `bars ${where.bars[0]} to ${where.bars[1] - 1}`,
    );
  }
  if (where.pitch) words.push(`pitches ${where.pitch[0]} to ${where.pitch[1]}`);
  if (where.velocity) words.push(`velocities ${where.velocity[0]} to ${where.velocity[1]}`);
  if (where.length) words.push(`lengths ${where.length[0]} to ${where.length[1]} ticks`);
  if (where.channel !== undefined) words.push(`channel ${where.channel}`);
  if (where.voice) words.push(`${where.voice} of each chord`);
  if (where.drums) words.push(where.drums.map((piece) => drumName(piece) ?? `note ${piece}`).join(', '));
  if (where.hand) words.push(`${where.hand} hand`);
  if (where.notes) words.push(where.notes.length === 1 ? '1 note' : `${where.notes.length} notes`);
  return words.length === 0 ? 'the whole part' : words.join(', ');
}
