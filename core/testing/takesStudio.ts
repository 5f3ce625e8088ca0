import type { NoteTable } from '../model';
import { listOf, orderedOf, timelineOf, type Part, type Session } from '../session';
import { numbersOf, takesOfPart, withTakes } from '../takes';
import type { PlainNote, RawEvent } from './files';
import { filesAsTakes } from './partsStudio';

// 480 ticks a quarter, 4/4 at 120 bpm: a bar is 1920 ticks.
/** A session whose one part has several takes to choose from, the first laid whole. */
export function studio(files: { notes: PlainNote[]; extra?: RawEvent[] }[]) {
  const { read, evaluator } = filesAsTakes(files);
  const session: Session = { ...read[0].session, nextPiece: 100 };
  const timeline = timelineOf(session);
  const [plain] = listOf(session.parts);
  const [own] = takesOfPart(plain, session);
  const takes = read.map(({ takes: [take] }, index) => ({
    ...own,
    id: `take${index}`,
    name: `Take ${index + 1}`,
    number: index === 0 ? own.number : 50 + index,
    source: { take: take.key },
  }));
  const part = withTakes(plain, takes);
  const numbers = numbersOf(session);
  const layer = listOf(part.layers)[0].id;
  const laid = (of: Part) =>
    evaluator.evaluate(of, { ...session, parts: orderedOf([of]) }, timeline).assembly;
  const notes = (of: Part) => rowsOf(laid(of).material.notes);
  return { session, timeline, part, takes, numbers, layer, laid, notes };
}
export const rowsOf = (table: NoteTable) =>
  Array.from(table.start, (start, row) => [start, table.end[row], table.pitch[row], table.velocity[row]]);

/** A stroke on each beat of four bars, some of them off by a little; the velocity tells the take. */
export const beats = (velocity: number, off = 0): PlainNote[] =>
  Array.from({ length: 16 }, (_, beat) => [
    beat * 480 + (beat % 3) * off,
    beat * 480 + 300,
    60 + (beat % 4),
    velocity,
  ]);
