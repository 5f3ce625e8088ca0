import { z } from 'zod';
import type { NoteTable } from '../model';
import { touchedRows } from '../steps';
import { barAt, createMusicalBars, musicalPlaces, type Timeline } from '../time';

const span = (low: number, high: number) =>
  z.tuple([z.number().min(low).max(high), z.number().min(low).max(high)]);

/**
 * A question that picks notes: all parts given must hold. Ranges are inclusive. `beat` is a place in the bar in beats
 * from 1 (the second eighth of a 4/4 bar is 1.5), `bars` the musical bars, `lateMs` the distance from the grid, early
 * below 0.
 */
export const questionSchema = z.strictObject({
  pitch: span(0, 127).optional(),
  velocity: span(1, 127).optional(),
  length: span(0, 1e9).optional(),
  beat: span(1, 256).optional(),
  lateMs: span(-10000, 10000).optional(),
  bars: span(1, 1e6).optional(),
  voice: z.enum(['highest', 'lowest', 'inner']).optional(),
});

export type Question = z.infer<typeof questionSchema>;

/** Rows the question picks. `late` are the notes' distances from the grid in milliseconds. */
export function rowsAnswering(
  notes: NoteTable,
  question: Question,
  late: ArrayLike<number>,
  timeline: Timeline,
): number[] {
  const { voice } = question;
  const inVoice = voice ? touchedRows(notes, { voice }, timeline) : null;
  const within = (value: number, range: readonly [number, number] | undefined) =>
    range === undefined || (value >= range[0] && value <= range[1]);
  const places = musicalPlaces(notes.start, timeline);
  const barOf = createMusicalBars(timeline);
  const rows: number[] = [];
  for (let row = 0; row < notes.length; row++) {
    if (inVoice && !inVoice[row]) continue;
    if (
      !within(notes.pitch[row], question.pitch) ||
      !within(Math.round(notes.velocity[row]), question.velocity)
    )
      continue;
    if (!within(notes.end[row] - notes.start[row], question.length) || !within(late[row], question.lateMs))
      continue;
    if (question.bars && !within(barOf(places[row]), question.bars)) continue;
    if (question.beat) {
      const bar = barAt(timeline.meter, notes.start[row]);
      const beat = 1 + (notes.start[row] - bar.start) / timeline.meter.beatTicks[bar.row];
      if (!within(beat, question.beat)) continue;
    }
    rows.push(row);
  }
  return rows;
}
