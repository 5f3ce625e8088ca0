import { z } from 'zod';
import type { Note } from '../model';
import type { Timeline } from '../time';
import { placeInBar } from './pasting';
import { laneSchema, type AddedNote } from '../steps';
import type { LaneClip } from './laneClips';
import { readClipboard } from './readClipboard';

const notesSchema = z
  .array(
    z.strictObject({
      at: z.number().min(0),
      length: z.number().positive(),
      pitch: z.int().min(0).max(127),
      velocity: z.number().min(1).max(127),
      channel: z.int().min(1).max(16),
    }),
  )
  .max(2_000_000);

const lanesSchema = z.array(
  z.strictObject({
    lane: laneSchema,
    from: z.number(),
    to: z.number(),
    points: z.array(z.strictObject({ at: z.number(), value: z.number() })).max(1_000_000),
  }),
);

/** Notes as text for the clipboard: times in quarter notes from the first start, so that they fit any session. */
const clipboardSchema = z.strictObject({
  ordle: z.literal('notes'),
  version: z.literal(1),
  /** Where the first note stood, in quarters from the start of the music, for pasting in place. */
  origin: z.number().min(0),
  /**
   * How far the first note lies after the line of its musical bar, in quarters; not known of what was copied by an
   * earlier version.
   */
  inBar: z.number().optional(),
  notes: notesSchema.min(1),
  /** The part the notes are of, and those of others that were copied with them: they go back to the same parts. */
  part: z.string().optional(),
  others: z
    .array(z.strictObject({ part: z.string(), notes: notesSchema.min(1), lanes: lanesSchema.optional() }))
    .optional(),
  /** The controllers that go along, as clips in quarters; left out where there are none. */
  lanes: lanesSchema.optional(),
});

export type NotesOnClipboard = z.infer<typeof clipboardSchema>;

/** Notes of one part, with the controllers that go along with them. */
export interface NotesOfPart {
  part: string;
  notes: readonly Note[];
  clips?: readonly LaneClip[];
}

/**
 * Notes as text, with the controllers that go along with them; clips are in ticks from the first note of their part.
 * Notes of several parts keep their distance: the first of `among` is the part of the notes, the rest are others.
 */
export function notesToText(
  notes: readonly Note[],
  timeline: Timeline,
  clips: readonly LaneClip[] = [],
  among: readonly NotesOfPart[] = [],
): string {
  const { ticksPerQuarter } = timeline;
  const [own, ...others] = among;
  const all = among.length > 1 ? among.flatMap((each) => each.notes) : notes;
  const starts = Float64Array.from(all, ({ start }) => start).sort();
  const first = starts[0] ?? 0;
  const written = (list: readonly Note[]) =>
    list.map((note) => ({
      at: (note.start - first) / ticksPerQuarter,
      length: Math.max(1, note.end - note.start) / ticksPerQuarter,
      pitch: note.pitch,
      velocity: Math.min(127, Math.max(1, note.velocity)),
      channel: note.channel + 1,
    }));
  const lanesOf = (list: readonly Note[], own: readonly LaneClip[] = []) => {
    const later = list.reduce((least, { start }) => Math.min(least, start), Infinity) - first;
    return own.length > 0 && { lanes: own.map((clip) => scaledClip(clip, 1 / ticksPerQuarter, later)) };
  };
  const content: NotesOnClipboard = {
    ordle: 'notes',
    version: 1,
    origin: first / ticksPerQuarter,
    ...(notes.length > 0 ? { inBar: placeInBar(starts, timeline) } : {}),
    notes: written(notes),
    ...(others.length > 0 && {
      part: own.part,
      others: others.map((each) => ({
        part: each.part,
        notes: written(each.notes),
        ...lanesOf(each.notes, each.clips),
      })),
    }),
    ...lanesOf(notes, clips),
  };
  return JSON.stringify(content);
}

/** A clip with its times later by so much, and in another unit. */
const scaledClip = ({ lane, from, to, points }: LaneClip, factor: number, later = 0): LaneClip => ({
  lane,
  from: (from + later) * factor,
  to: (to + later) * factor,
  points: points.map(({ at, value }) => ({ at: (at + later) * factor, value })),
});

/** The controllers on the clipboard, in ticks from the first note on it. */
export const clipsFrom = (
  { lanes = [] }: Pick<NotesOnClipboard, 'lanes'>,
  ticksPerQuarter: number,
): LaneClip[] => lanes.map((clip) => scaledClip(clip, ticksPerQuarter));

/** Notes from clipboard text. Throws `clipboard` when the text holds none. */
export function notesFromText(text: string): NotesOnClipboard {
  return readClipboard(clipboardSchema, text, 'There are no notes on the clipboard. Copy some notes first.');
}

/** The notes laid down with their first at `tick`, on `channel` (1-16). */
export function pasteNotes(
  content: Pick<NotesOnClipboard, 'notes'>,
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
