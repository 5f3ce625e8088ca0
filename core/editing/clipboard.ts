import { z } from 'zod';
import { OrdleError } from '../errors';
import type { Note } from '../model';
import type { AddedNote } from '../steps';

/** Notes as text for the clipboard: times in quarter notes from the first start, so that they fit any session. */
const clipboardSchema = z.strictObject({
  ordle: z.literal('notes'),
  version: z.literal(1),
  /** Where the first note stood, in quarters from the start of the music, for pasting in place. */
  origin: z.number().min(0),
  notes: z
    .array(
      z.strictObject({
        at: z.number().min(0),
        length: z.number().positive(),
        pitch: z.int().min(0).max(127),
        velocity: z.number().min(1).max(127),
        channel: z.int().min(1).max(16),
      }),
    )
    .min(1)
    .max(2_000_000),
});

export type NotesOnClipboard = z.infer<typeof clipboardSchema>;

export function notesToText(notes: readonly Note[], ticksPerQuarter: number): string {
  const first = Math.min(...notes.map(({ start }) => start));
  const content: NotesOnClipboard = {
    ordle: 'notes',
    version: 1,
    origin: first / ticksPerQuarter,
    notes: notes.map((note) => ({
      at: (note.start - first) / ticksPerQuarter,
      length: Math.max(1, note.end - note.start) / ticksPerQuarter,
      pitch: note.pitch,
      velocity: Math.min(127, Math.max(1, note.velocity)),
      channel: note.channel + 1,
    })),
  };
  return JSON.stringify(content);
}

/** Notes from clipboard text. Throws `clipboard` when the text holds none. */
export function notesFromText(text: string): NotesOnClipboard {
  let value: unknown = null;
  try {
    value = JSON.parse(text);
  } catch {
    // Other text on the clipboard: the same sentence as for other JSON.
  }
  const parsed = clipboardSchema.safeParse(value);
  if (!parsed.success)
    throw new OrdleError('clipboard', 'There are no notes on the clipboard. Copy some notes first.');
  return parsed.data;
}

/** The notes laid down with their first at `tick`, on `channel` (1-16). */
export function pasteNotes(
  content: NotesOnClipboard,
  tick: number,
  channel: number,
  ticksPerQuarter: number,
  newId: () => number,
): AddedNote[] {
  return content.notes.map((note) => ({
    id: newId(),
    start: tick + note.at * ticksPerQuarter,
    end: tick + (note.at + note.length) * ticksPerQuarter,
    pitch: note.pitch,
    velocity: note.velocity,
    channel,
  }));
}
