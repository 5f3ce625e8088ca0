import {
  OrdleError,
  compareNotes,
  itemOf,
  listOf,
  takesOfPart,
  timelineOf,
  withColumns,
  type NoteComparison,
  type NoteTable,
  type Part,
  type Session,
  type Timeline,
} from '@ordle/core';
import { aloneOf, type Studio } from './takesView';

/**
 * What a part is compared with: a part of this session or of another, as played or as cleaned, or one of its own
 * takes alone.
 */
export type Counterpart =
  | { kind: 'part'; partId: string; stage: 'played' | 'cleaned'; session?: Session }
  | { kind: 'take'; takeId: string };

/** A comparison with the ids of the notes here, by row. */
export interface ComparisonView extends NoteComparison {
  ids: Float64Array;
}

/**
 * A part as it is cleaned beside something else, note by note. Throws `no-take` and `no-part` where that is no longer
 * there.
 */
export async function comparisonOf(
  part: Part,
  session: Session,
  counterpart: Counterpart,
  studio: Studio,
): Promise<ComparisonView> {
  const timeline = timelineOf(session);
  await studio.summon(listOf(session.parts), session);
  const { stages } = studio.evaluator.evaluate(part, session, timeline);
  const { notes } = stages[stages.length - 1];
  const other =
    counterpart.kind === 'take'
      ? await takeAlone(part, session, counterpart.takeId, timeline, studio)
      : await partElsewhere(session, counterpart, timeline, studio);
  return { ...compareNotes(notes, other, timeline), ids: notes.id };
}

async function takeAlone(
  part: Part,
  session: Session,
  takeId: string,
  timeline: Timeline,
  { evaluator, summon }: Studio,
): Promise<NoteTable> {
  const take = takesOfPart(part, session).find(({ id }) => id === takeId);
  if (!take) throw new OrdleError('no-take', 'The take is no longer in the part.');
  const alone = aloneOf(part, take);
  await summon([alone], session);
  return evaluator.evaluate(alone, session, timeline).assembly.material.notes;
}

async function partElsewhere(
  session: Session,
  { partId, stage, session: elsewhere }: Extract<Counterpart, { kind: 'part' }>,
  timeline: Timeline,
  { evaluator, summon }: Studio,
): Promise<NoteTable> {
  const there = elsewhere ?? session;
  const part = itemOf(there.parts, partId);
  if (!part) throw new OrdleError('no-part', 'The part it is compared with is no longer there.');
  if (elsewhere) await summon(listOf(elsewhere.parts), elsewhere);
  const ownTime = elsewhere ? timelineOf(elsewhere) : timeline;
  const { stages } = evaluator.evaluate(part, there, ownTime);
  const { notes } = stages[stage === 'played' ? 0 : stages.length - 1];
  // Another session is laid beside this one by its beats.
  const scale = timeline.ticksPerQuarter / ownTime.ticksPerQuarter;
  const scaled = (ticks: Float64Array) => ticks.map((at) => at * scale);
  return scale === 1 ? notes : withColumns(notes, { start: scaled(notes.start), end: scaled(notes.end) });
}
