import { compareNotes, type NoteComparison } from '../analysis';
import { OrdleError } from '../errors';
import type { Evaluator } from '../evaluate';
import { withColumns, type NoteTable } from '../model';
import { itemOf, timelineOf, type Part, type Session } from '../session';
import { takesOfPart } from '../takes';
import type { Timeline } from '../time';
import { takeAlone } from './takesReading';

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
 * A part as it is cleaned beside something else, note by note; the takes of all of it are at hand. Throws `no-take` and
 * `no-part` where that is no longer there.
 */
export function comparisonOf(
  part: Part,
  session: Session,
  counterpart: Counterpart,
  evaluator: Evaluator,
): ComparisonView {
  const timeline = timelineOf(session);
  const { stages } = evaluator.evaluate(part, session, timeline);
  const { notes } = stages[stages.length - 1];
  const other =
    counterpart.kind === 'take'
      ? evaluator.evaluate(aloneNamed(part, session, counterpart.takeId), session, timeline).assembly.material
          .notes
      : partElsewhere(session, counterpart, timeline, evaluator);
  return { ...compareNotes(notes, other, timeline), ids: notes.id };
}

/** One of a part's takes by itself. Throws `no-take` where the part has none of that id. */
export function aloneNamed(part: Part, session: Session, takeId: string): Part {
  const take = takesOfPart(part, session).find(({ id }) => id === takeId);
  if (!take) throw new OrdleError('no-take', 'The take is no longer in the part.');
  return takeAlone(part, take);
}

function partElsewhere(
  session: Session,
  { partId, stage, session: elsewhere }: Extract<Counterpart, { kind: 'part' }>,
  timeline: Timeline,
  evaluator: Evaluator,
): NoteTable {
  const there = elsewhere ?? session;
  const part = itemOf(there.parts, partId);
  if (!part) throw new OrdleError('no-part', 'The part it is compared with is no longer there.');
  const ownTime = elsewhere ? timelineOf(elsewhere) : timeline;
  const { stages } = evaluator.evaluate(part, there, ownTime);
  const { notes } = stages[stage === 'played' ? 0 : stages.length - 1];
  // Another session is laid beside this one by its beats.
  const scale = timeline.ticksPerQuarter / ownTime.ticksPerQuarter;
  const scaled = (ticks: Float64Array) => ticks.map((at) => at * scale);
  return scale === 1 ? notes : withColumns(notes, { start: scaled(notes.start), end: scaled(notes.end) });
}
