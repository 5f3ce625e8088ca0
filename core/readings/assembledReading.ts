import type { ContestedLane } from '../assembly';
import type { Evaluator } from '../evaluate';
import { readBars, type SourceReading } from '../merging';
import { pieceAndRow, type NoteTable } from '../model';
import { timelineOf, type Part, type Session } from '../session';
import { seamFacts, takesOfPart, type SeamFacts, type Seam } from '../takes';
import { secondsToTicks, type NoteValue, type Timeline } from '../time';
import { laidNotes, type LaidNotes } from './laidNotes';
import { takesLateness } from './ownLateness';
import { takeAlone } from './takesReading';

/**
 * What a part's layers come to: its notes, read with each take's own lateness off as the takes are, the doubles that
 * were left out, and its seams.
 */
export interface AssembledView {
  notes: LaidNotes;
  dropped: LaidNotes;
  reading: SourceReading;
  seams: (Seam & { facts: SeamFacts })[];
  /** Lanes the layers do not agree about, and whose counts. */
  contested: ContestedLane[];
}

/** A part before any step, with what happens at its seams. */
export function readAssembled(
  part: Part,
  session: Session,
  grid: NoteValue,
  evaluator: Evaluator,
): AssembledView {
  const timeline = timelineOf(session);
  const { assembly } = evaluator.evaluate(part, session, timeline);
  const { notes } = assembly.material;
  const late = takesLateness(part, session, grid, timeline, evaluator);
  return {
    notes: laidNotes(notes),
    dropped: laidNotes(assembly.dropped),
    reading: readBars(notes, grid, timeline, (row) => late(notes.id[row])),
    seams: seamFacts(part, assembly, endsOfTakes(part, session, timeline, evaluator), timeline, (place) =>
      part.lockedTo === 'beats' ? place : secondsToTicks(timeline.tempo, place),
    ),
    contested: [...assembly.contested],
  };
}

/** Where the notes of a take end, by id; made once for each way it lies. */
const endsById = new WeakMap<NoteTable, Map<number, number>>();

/** Where a note of a take ends by itself. */
function endsOfTakes(
  part: Part,
  session: Session,
  timeline: Timeline,
  evaluator: Evaluator,
): (id: number) => number {
  const byNumber = new Map(takesOfPart(part, session).map((take) => [take.number, take]));
  const known = new Map<number, Map<number, number> | null>();
  const endsOf = (number: number) => {
    const take = byNumber.get(number);
    if (!take) return null;
    const { notes } = evaluator.evaluate(takeAlone(part, take), session, timeline).assembly.material;
    const ends = endsById.get(notes) ?? new Map(Array.from(notes.id, (id, row) => [id, notes.end[row]]));
    endsById.set(notes, ends);
    return ends;
  };
  return (id) => {
    const number = pieceAndRow(id)?.piece ?? -1;
    let ends = known.get(number);
    if (ends === undefined) known.set(number, (ends = endsOf(number)));
    return ends?.get(id) ?? NaN;
  };
}
