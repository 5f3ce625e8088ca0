import {
  itemOf,
  listOf,
  placedStep,
  placingBetween,
  portableSteps,
  type Session,
  type Step,
} from '@ordle/core';
import { putBrought } from '@/edits/putBrought';
import { engine } from '@/engine/engineClient';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { rememberTable } from '@/storage/editTables';
import { counted } from '@/words/counts';

/** How often what was worked out is worked out again, since pieces or notes got numbers meanwhile. */
const MOST_TRIES = 5;

/**
 * Puts parts of another session into the open one, with their takes, steps and all they are made of. Gives the ids of
 * those asked for.
 */
export async function bringPartsIn(
  dispatch: AppDispatch,
  from: Session,
  ids: readonly string[],
): Promise<string[]> {
  for (let left = MOST_TRIES; left > 0; left--) {
    const open = selectDocument(store.getState());
    if (!open) return [];
    const brought = await engine.bringParts({ session: open, from, ids: [...ids] });
    const session = selectDocument(store.getState());
    if (session?.id !== open.id) return [];
    const isFree = session.nextPiece === open.nextPiece && session.nextNoteId === open.nextNoteId;
    if (!isFree) continue;
    brought.tables.forEach(rememberTable);
    dispatch(
      edit(`Copy ${counted(ids.length, 'part')} of ${from.name}`, (draft) => putBrought(draft, brought)),
    );
    return brought.parts.filter(({ setAside }) => !setAside).map(({ id }) => id);
  }
  return [];
}

/** The steps of a part of another session that mean something for another part too, in the ticks of the open one. */
export function stepsToBring(from: Session, partId: string, to: Session): Step[] {
  const steps = listOf(itemOf(from.parts, partId)?.steps ?? { order: [], byId: {} });
  const placing = placingBetween(from, to, 'beats');
  return portableSteps(steps.map(({ step }) => step)).map((step) => placedStep(step, placing));
}
