import {
  OrdleError,
  createEvaluator,
  itemOf,
  joinTables,
  kindOf,
  listOf,
  partNamed,
  partsHeard,
  sentenceOf,
  timelineOf,
  type Evaluation,
  type Part,
  type Session,
  type Timeline,
} from '@ordle/core';
import type { Library } from './library';
import type { PartQuestion, PartViewRequest, StopQuestion, WaitingPart } from './protocol';

export const newId = () => crypto.randomUUID();

export function partOf({ session, partId }: PartQuestion) {
  const part = itemOf(session.parts, partId);
  if (!part) throw new OrdleError('no-part', 'The part is no longer in the session.');
  return { part, session };
}

/**
 * What questions are answered from: the parts of a document, evaluated, with their takes loaded. `tellProgress` is
 * told shares of long work.
 */
export function createScenes(library: Library, tellProgress: (share: number) => void = () => undefined) {
  const { takeOf, editTable, summon } = library;
  const evaluator = createEvaluator(takeOf, editTable);

  /** Everything that is needed to work on one part of a document, its takes loaded. */
  async function scene({ session, partId }: PartQuestion) {
    const { part } = partOf({ session, partId });
    await summon([part, ...partsHeard(part, session)], session);
    const timeline = timelineOf(session);
    return { part, session, timeline, evaluation: evaluator.evaluate(part, session, timeline) };
  }

  /**
   * Some parts of a document as they were worked out, their takes loaded; all of them where none are named. Of those
   * that cannot be, since a part or a performance they are made of is gone, it is said in a sentence why.
   */
  async function read(session: Session, asked: readonly Part[] = listOf(session.parts)) {
    const timeline = timelineOf(session);
    const parts: { part: Part; evaluation: Evaluation }[] = [];
    const waiting: WaitingPart[] = [];
    const faults = new Map<string, unknown>();
    await Promise.all(
      listOf(session.parts).map((part) =>
        summon([part], session).catch((error: unknown) => void faults.set(part.id, error)),
      ),
    );
    for (const part of asked) {
      try {
        if (faults.has(part.id)) throw faults.get(part.id);
        parts.push({ part, evaluation: evaluator.evaluate(part, session, timeline) });
      } catch (error) {
        waiting.push({ partId: part.id, why: sentenceOf(error) });
      }
    }
    return { timeline, parts, waiting };
  }

  /** The material of a part at a stop. */
  async function atStop(request: StopQuestion) {
    const { part, evaluation, ...rest } = await scene(request);
    return { part, ...rest, material: evaluation.stages[Math.min(request.stop, part.steps.order.length)] };
  }

  /**
   * The notes of a part at a stop with those of the other parts on its channel, as these are cleaned: what goes along
   * with some must leave all others as they are.
   */
  async function notesOfChannel(request: StopQuestion) {
    const { part, session, timeline, material } = await atStop(request);
    const others = evaluator.aloneBeside(part, session, timeline).map((other) => other.material.notes);
    return { part, material, notes: joinTables([material.notes, ...others]) };
  }

  /** The cleaned notes of the part that the current step listens to; null where it listens to none. */
  function heardBy({ session, stop, cleaned }: PartViewRequest, part: Part, timeline: Timeline) {
    const step = cleaned ? undefined : listOf(part.steps)[stop - 1]?.step;
    const reference = step?.on ? kindOf(step.kind).reference?.(step) : undefined;
    const other = reference === undefined ? undefined : partNamed(session, reference);
    if (!other || other.id === part.id) return null;
    const { stages } = evaluator.evaluate(other, session, timeline);
    return stages[stages.length - 1].notes;
  }

  return { library, evaluator, scene, read, atStop, notesOfChannel, heardBy, tellProgress };
}

export type Scenes = ReturnType<typeof createScenes>;
