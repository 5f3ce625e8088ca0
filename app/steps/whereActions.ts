import {
  insertItems,
  listOf,
  itemOf,
  OrdleError,
  barAt,
  barNumbered,
  describeWhere,
  kindOf,
  type Part,
  type PlacedStep,
  type Step,
  type Timeline,
} from '@ordle/core';
import type { WhereChange, WhereSpan } from '@/editor';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';
import { currentStopSet } from '@/state/viewSlice';
import { changeStep } from './changeSteps';
import type { Stop } from '@/music/stops';

/** Whether a step has a where in bars: hand edits go by their notes, and some kinds touch the whole part. */
export function hasWhere({ kind }: Step): boolean {
  const { byHand, partWide } = kindOf(kind);
  return !byHand && !partWide;
}

/** The spans of a part's steps, in their order; hand edits go by their notes and have none. */
export function spansOfPart(part: Part, stop: Stop, timeline: Timeline): WhereSpan[] {
  return listOf(part.steps)
    .filter(({ step }) => hasWhere(step))
    .map(({ id, step }) => {
      const { bars } = step.where;
      return {
        stepId: id,
        name: kindOf(step.kind).title,
        from: bars ? barNumbered(timeline.meter, bars[0]).start : 0,
        to: bars ? barNumbered(timeline.meter, bars[1]).start : Infinity,
        isCurrent: id === stop.id,
        isOff: !step.on,
      };
    });
}

/** Changes some of a step's where; what is not named stays. */
export function changeWhere(
  dispatch: AppDispatch,
  part: Part,
  stepId: string,
  change: WhereChange,
  gesture: string,
) {
  const step = listOf(part.steps).find(({ id }) => id === stepId)?.step;
  if (!step) return;
  const where = { ...step.where, ...change };
  changeStep(dispatch, part.id, stepId, `Where: ${describeWhere(where)}`, { where }, gesture);
}

/** The bars a step touches: from the first up to, not including, the second. */
const barsOf = ({ where }: Step, endTick: number, { meter }: Timeline): [number, number] =>
  where.bars ?? [1, barAt(meter, Math.max(0, endTick - 1)).number + 1];

/** The bar a step would be split before at a tick: that of the nearest bar line; null where one side would be empty. */
export function splitBar(step: Step, tick: number, endTick: number, timeline: Timeline): number | null {
  const [from, to] = barsOf(step, endTick, timeline);
  const here = barAt(timeline.meter, Math.max(0, tick));
  const bar = tick - here.start < here.end - tick ? here.number : here.number + 1;
  return bar <= from || bar >= to ? null : bar;
}

/**
 * Cuts the where of a step at the bar line nearest to a tick: the step keeps the bars before it, and a copy right
 * after it, which is the current one, gets those from it on. Throws OrdleError `no-split` where one side would be
 * empty.
 */
export function splitWhere(
  dispatch: AppDispatch,
  part: Part,
  stepId: string,
  tick: number,
  endTick: number,
  timeline: Timeline,
) {
  const at = part.steps.order.indexOf(stepId);
  const step = listOf(part.steps)[at]?.step;
  if (!step) return;
  const [from, to] = barsOf(step, endTick, timeline);
  const bar = splitBar(step, tick, endTick, timeline);
  if (bar === null) {
    throw new OrdleError(
      'no-split',
      `Bring the play line to a bar line inside bars ${from} to ${to - 1}: the step is split there.`,
    );
  }
  const id = crypto.randomUUID();
  const title = kindOf(step.kind).title.toLowerCase();
  dispatch(
    edit(`Split ${title} at bar ${bar}`, (draft) => {
      const steps = itemOf(draft.parts, part.id)?.steps;
      if (!steps) return;
      const half = (bars: [number, number]) => ({
        ...structuredClone(step),
        where: { ...step.where, bars },
      });
      insertItems<PlacedStep>(
        steps,
        [
          { id: stepId, step: half([from, bar]) },
          { id, step: half([bar, to]) },
        ],
        at + 1,
      );
    }),
  );
  dispatch(currentStopSet({ partId: part.id, stop: id }));
}
