import {
  isStretch,
  isTranspose,
  removeItem,
  moveItem,
  insertItems,
  listOf,
  createStep,
  describeWhere,
  intervalInWords,
  kindOf,
  waitsFor,
  sentenceOf,
  startingStep,
  withSection,
  type Part,
  type Session,
  type Step,
  type Where,
} from '@ordle/core';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';
import { currentStopSet } from '@/state/viewSlice';
import { changeStep, changeSteps, stepsOf } from './changeSteps';
import type { StepTarget } from './partsTogether';
import { onlyInWords, type OnlyNotes } from './selectedNotes';
import type { Stop } from '@/music/stops';
import { counted } from '@/words/counts';

/** What a step is added to: the active part, those selected together with it, and the session they are in. */
export interface StepPlace {
  session: Session;
  part: Part;
  together: readonly Part[];
  /** How many steps of the line come before it. */
  after: number;
}

/**
 * Adds a step after the current stop, to every part selected together too, and stands there. Its settings start from
 * what is in each part. `only` limits it to the notes that are selected, in the parts that have some; that is said, and
 * can be widened at once.
 */
export async function addStep(
  dispatch: AppDispatch,
  { session, part, together, after }: StepPlace,
  kind: Step['kind'],
  only: OnlyNotes = new Map(),
) {
  const isLimited = only.size > 0 && !kindOf(kind).partWide && !kindOf(kind).byHand;
  const parts = isLimited ? listOf(session.parts).filter(({ id }) => only.has(id)) : [part, ...together];
  const whereOf = (id: string): Where => (isLimited ? { notes: [...(only.get(id) ?? [])] } : {});
  const added = await Promise.all(
    parts.map(async (each) => ({
      partId: each.id,
      id: crypto.randomUUID(),
      step: startingStep(
        kind,
        {
          facts: await engine.factsOf({
            session,
            partId: each.id,
            stop: Math.min(after, each.steps.order.length),
          }),
          isDrums: each.sound.drums,
          alignTo: alignmentFor(each, session),
          isOneOfSeveral: parts.length > 1,
        },
        whereOf(each.id),
      ),
    })),
  ).catch((error: unknown) => {
    toast(sentenceOf(error));
    return [];
  });
  if (added.length === 0) return;
  const whom = isLimited ? onlyInWords(only) : parts.length > 1 ? `${parts.length} parts` : part.name;
  dispatch(
    edit(`Add ${kindOf(kind).title.toLowerCase()} to ${whom}`, (draft) => {
      for (const { partId, id, step } of added) insertItems(stepsOf(draft, partId), [{ id, step }], after);
    }),
  );
  for (const { partId, id } of added) dispatch(currentStopSet({ partId, stop: id }));
  if (!isLimited) return;
  const targets = added.map(({ partId, id, step }): StepTarget => ({ partId, stepId: id, step }));
  toast(`${kindOf(kind).title} acts on ${whom} alone.`, {
    duration: 8000,
    action: {
      label: parts.length > 1 ? 'Whole parts' : 'Whole part',
      onClick: () => changeSteps(dispatch, targets, 'Where: whole part', { where: {} }),
    },
  });
}

/** The part another is most likely aligned to: the drums, else the first of the others. */
function alignmentFor(part: Part, session: Session): string {
  const others = listOf(session.parts).filter(
    (other) => other.id !== part.id && !waitsFor(other, part.id, session),
  );
  return (others.find(({ sound }) => sound.drums) ?? others[0])?.id ?? '';
}

export function switchStep(dispatch: AppDispatch, targets: readonly StepTarget[]) {
  const step = targets[0]?.step;
  if (!step) return;
  const title = kindOf(step.kind).title.toLowerCase();
  changeSteps(dispatch, targets, `Switch ${title} ${step.on ? 'off' : 'on'}`, { on: !step.on });
}

/** Removes a step, and those that go together with it; the stop before it is the current one. */
export function removeStep(dispatch: AppDispatch, part: Part, targets: readonly StepTarget[]) {
  const at = part.steps.order.indexOf(targets[0]?.stepId);
  if (at < 0) return;
  const title = kindOf(listOf(part.steps)[at].step.kind).title.toLowerCase();
  const whom = targets.length > 1 ? `${targets.length} parts` : part.name;
  dispatch(
    edit(`Remove ${title} from ${whom}`, (draft) => {
      for (const { partId, stepId } of targets) {
        removeItem(stepsOf(draft, partId), stepId);
      }
    }),
  );
  dispatch(currentStopSet({ partId: part.id, stop: listOf(part.steps)[at - 1]?.id ?? 'cleaned' }));
}

/** Moves a step to another place in the line. */
export function moveStep(dispatch: AppDispatch, part: Part, stepId: string, to: number) {
  const from = part.steps.order.indexOf(stepId);
  const place = Math.min(part.steps.order.length - 1, Math.max(0, to));
  if (from < 0 || from === place) return;
  const title = kindOf(listOf(part.steps)[from].step.kind).title.toLowerCase();
  dispatch(
    edit(`Move ${title} ${place < from ? 'earlier' : 'later'}`, (draft) => {
      moveItem(stepsOf(draft, part.id), stepId, place);
    }),
  );
}

/** Gives some bars of a transpose step one amount. */
export function moveBars(
  dispatch: AppDispatch,
  part: Part,
  stepId: string,
  bars: [number, number],
  semitones: number,
  gesture: string,
) {
  const step = listOf(part.steps).find(({ id }) => id === stepId)?.step;
  if (!step || !isTranspose(step)) return;
  const label = `Move ${describeWhere({ bars })} by ${intervalInWords(semitones)}`;
  changeStep(
    dispatch,
    part.id,
    stepId,
    label,
    { sections: withSection(step.sections, bars, semitones) },
    gesture,
  );
}

/**
 * Stretches notes (all without ids) by a factor: a stretch step of just these notes that is the current one takes it
 * up, so that half after double is the very same again; else a new one is added after the stop.
 */
export function stretchNotes(
  dispatch: AppDispatch,
  part: Part,
  stop: Stop | null,
  factor: number,
  notes: readonly number[],
) {
  const held = listOf(part.steps).find(({ id }) => id === stop?.id);
  const label =
    factor === 2
      ? 'Double the length'
      : factor === 0.5
        ? 'Halve the length'
        : `Stretch × ${Number(factor.toFixed(4))}`;
  if (held && isStretch(held.step) && held.step.toTicks === undefined && isFor(held.step.where, notes)) {
    const next = Math.min(100, Math.max(0.01, held.step.factor * factor));
    changeStep(dispatch, part.id, held.id, label, { factor: next });
    return;
  }
  const id = crypto.randomUUID();
  const step = createStep('stretch', { factor, where: notes.length > 0 ? { notes: [...notes] } : {} });
  const place = stop && stop.id !== 'cleaned' ? stop.index : part.steps.order.length;
  dispatch(edit(label, (draft) => insertItems(stepsOf(draft, part.id), [{ id, step }], place)));
  dispatch(currentStopSet({ partId: part.id, stop: id }));
}

/** Whether a where names just these notes, or with none nothing at all. */
function isFor(where: Step['where'], notes: readonly number[]): boolean {
  if (notes.length === 0) return Object.keys(where).length === 0;
  const named = new Set(where.notes);
  return Object.keys(where).length === 1 && named.size === notes.length && notes.every((id) => named.has(id));
}

/** Adds copies of steps to the end of some parts' lines, or limited to the notes that are selected, as one action. */
export function applyRecipe(
  dispatch: AppDispatch,
  name: string,
  steps: readonly Step[],
  partIds: readonly string[],
  only: OnlyNotes = new Map(),
) {
  const isLimited = only.size > 0;
  const ids = isLimited ? [...only.keys()] : partIds;
  const words = isLimited ? onlyInWords(only) : counted(partIds.length, 'part');
  const limited = (step: Step, id: string): Step =>
    isLimited && !kindOf(step.kind).partWide && !kindOf(step.kind).byHand
      ? { ...step, where: { ...step.where, notes: [...(only.get(id) ?? [])] } }
      : step;
  dispatch(
    edit(`Apply ${name || 'recipe'} to ${words}`, (draft) => {
      for (const id of ids) {
        insertItems(
          stepsOf(draft, id),
          steps.map((step) => ({ id: crypto.randomUUID(), step: structuredClone(limited(step, id)) })),
        );
      }
    }),
  );
}
