import { createEvaluator } from '../evaluate';
import { readMidi, writeMidi, type EventColumns } from '../midi';
import { noteAt, type Note, type Take } from '../model';
import {
  layerOf,
  listOf,
  orderedOf,
  sessionOfFile,
  timelineOf,
  type Part,
  type Piece,
  type Session,
} from '../session';
import { fileOfNotes, type RawEvent, type PlainNote } from './files';

/** Files of notes read as sessions of their own, and an evaluator that knows the takes of them all. */
export function filesAsTakes(files: { notes: PlainNote[]; extra?: RawEvent[] }[]) {
  let next = 0;
  const read = files.map(({ notes, extra }) => {
    const { file } = readMidi(writeMidi(fileOfNotes(notes, 480, extra)));
    return sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  });
  const takes = new Map(read.flatMap((each) => each.takes).map((take): [string, Take] => [take.key, take]));
  return { read, evaluator: createEvaluator((key) => takes.get(key) as Take) };
}

/**
 * Files as takes of one session at 120 bpm, 480 ticks a quarter, a bar of 1920 ticks; parts are put together from
 * them by hand.
 */
export function partsStudio(files: { notes: PlainNote[]; extra?: RawEvent[] }[]) {
  const { read, evaluator } = filesAsTakes(files);
  const [{ session }] = read;
  const [plain] = listOf(session.parts);
  let number = 10;
  const piece = (source: number | string, more: Partial<Piece> = {}): Piece => ({
    id: `piece${number}`,
    number: number++,
    source: typeof source === 'number' ? { take: read[source].takes[0].key } : { part: source },
    from: 0,
    to: null,
    at: 0,
    rest: 'untimed',
    ...more,
  });
  const part = (id: string, layers: Piece[][], more: Partial<Part> = {}): Part => ({
    ...plain,
    id,
    name: id,
    layers: orderedOf(layers.map(layerOf)),
    ...more,
  });
  const withParts = (...parts: Part[]): Session => ({ ...session, parts: orderedOf(parts) });
  const evaluate = (whole: Session, id: string) => {
    const found = whole.parts.byId[id];
    const { assembly, stages } = evaluator.evaluate(found, whole, timelineOf(whole));
    return { ...assembly, cleaned: stages[stages.length - 1], stages };
  };
  const heard = (...layers: Piece[][]) => evaluate(withParts(part('p', layers)), 'p');
  return { session, piece, part, withParts, evaluate, heard };
}

/** The notes of a part as it is cleaned. */
export const notesOf = ({ cleaned }: { cleaned: { notes: Parameters<typeof noteAt>[0] } }): Note[] =>
  Array.from({ length: cleaned.notes.length }, (_, row) => noteAt(cleaned.notes, row));
export const short = ({ start, end, pitch }: Note) => [start, end, pitch];
/** Events as lines of numbers. */
export const linesOf = (events: EventColumns) =>
  Array.from(events.tick, (tick, row) => [tick, events.status[row], events.data1[row], events.data2[row]]);
