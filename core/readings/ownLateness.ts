import type { Evaluator } from '../evaluate';
import { readHeldBars } from '../merging';
import { pieceAndRow, type NoteTable } from '../model';
import { listOf, type Part, type PartTake, type Session } from '../session';
import { isOfTake, takesOfPart } from '../takes';
import type { NoteValue, Timeline } from '../time';
import { takeAlone } from './takesReading';

/** How late each performance is on the whole, kept as long as it lies as it does: it is asked for at every choice. */
const known = new WeakMap<NoteTable, { grid: NoteValue; timeline: Timeline; biasMs: number }>();

/**
 * By how many ms the take a note of an assembled part is of is late on the whole, by the note's id: what is taken off
 * where a take is read alone is taken off the same notes in the part. 0 for notes of no take.
 */
export function takesLateness(
  part: Part,
  session: Session,
  grid: NoteValue,
  timeline: Timeline,
  evaluator: Evaluator,
): (id: number) => number {
  const takes = takesOfPart(part, session);
  const byNumber = new Map<number, number>();
  const byId = new Map<number, number>();
  for (const { pieces } of listOf(part.layers))
    for (const piece of listOf(pieces)) {
      const take = takes.find((own) => isOfTake(piece, own));
      if (!take || byNumber.has(piece.number)) continue;
      const laid: PartTake = { ...take, number: piece.number };
      const { notes } = evaluator.evaluate(takeAlone(part, laid), session, timeline).assembly.material;
      const late = biasOf(notes, grid, timeline);
      byNumber.set(piece.number, late);
      // What comes through another part has an id that says nothing of its piece.
      if ('part' in piece.source) for (const id of notes.id) byId.set(id, late);
    }
  return (id) => byId.get(id) ?? byNumber.get(pieceAndRow(id)?.piece ?? -1) ?? 0;
}

function biasOf(notes: NoteTable, grid: NoteValue, timeline: Timeline): number {
  const found = known.get(notes);
  if (found?.timeline === timeline && found.grid === grid) return found.biasMs;
  const { biasMs } = readHeldBars(notes, grid, timeline);
  known.set(notes, { grid, timeline, biasMs });
  return biasMs;
}
