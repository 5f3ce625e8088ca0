import {
  createStep,
  insertItems,
  isQuantize,
  itemOf,
  listOf,
  nameOfNoteValue,
  type NoteValue,
  type Part,
  type PlacedStep,
  type Step,
} from '@ordle/core';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';
import { counted } from '@/words/counts';

/** A part is quantized to a grid: by its first quantize, or by a new one at the end of its line. */
export function quantizeTo(
  dispatch: AppDispatch,
  part: Part,
  { grid, swing }: { grid: NoteValue; swing: number },
) {
  const standing = listOf(part.steps).find(({ step }) => isQuantize(step));
  const step: Step = createStep('quantize', { grid, swing, chords: 'spread' });
  const fresh: PlacedStep = { id: crypto.randomUUID(), step };
  dispatch(
    edit(
      `Quantize ${part.name} to ${nameOfNoteValue(grid)}${swing === 50 ? '' : `, swing ${swing}`}`,
      (draft) => {
        const line = itemOf(draft.parts, part.id)?.steps;
        if (!line) return;
        const own = standing && line.byId[standing.id].step;
        if (own && isQuantize(own)) Object.assign(own, { grid, swing, on: true });
        else insertItems(line, [fresh], line.order.length);
      },
    ),
  );
}

/** Puts what is advised at the end of the lines of some parts, as one action. */
export function addSuggested(
  dispatch: AppDispatch,
  advised: readonly { partId: string; steps: readonly Step[] }[],
) {
  dispatch(
    edit(`Add suggested steps to ${counted(advised.length, 'part')}`, (draft) => {
      for (const { partId, steps } of advised) {
        const line = itemOf(draft.parts, partId)?.steps;
        if (!line) continue;
        insertItems(
          line,
          steps.map((step) => ({ id: crypto.randomUUID() as string, step: structuredClone(step) })),
          line.order.length,
        );
      }
    }),
  );
}
