import { readPart, type PartReading } from '../analysis';
import { createEvaluator } from '../evaluate';
import type { MidiFile } from '../midi';
import { takesOfFile } from '../model';
import { listOf, sessionOfFile, timelineOf } from '../session';
import type { NoteValue } from '../time';

/**
 * A part of a file with what was measured of it. Channel from 1.
 *
 * @public
 */
export type NamedReading = { name: string; channel: number } & PartReading;

/**
 * What can be measured of each part of a file that has notes, against the lines of a grid: how late and uneven it is,
 * in ms, swing in percent, its key, which grid fits. A part is a channel of a track.
 *
 * @public
 */
export function readingsOfFile(file: MidiFile, grid: NoteValue): NamedReading[] {
  let next = 0;
  const { session, takes } = sessionOfFile(file, '', () => `id${next++}`, 0);
  const byKey = new Map(takes.map((take) => [take.key, take]));
  const evaluator = createEvaluator((key) => byKey.get(key) ?? takesOfFile(file)[0]);
  const timeline = timelineOf(session);
  return listOf(session.parts).flatMap((part): NamedReading[] => {
    const { notes } = evaluator.evaluate(part, session, timeline).stages[0];
    return notes.length === 0
      ? []
      : [{ name: part.name, channel: part.channel, ...readPart(notes, grid, timeline) }];
  });
}
