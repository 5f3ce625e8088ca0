import {
  bringParts,
  itemOf,
  listOf,
  scaledColumns,
  scaledStep,
  tablesNamed,
  tickScale,
  type Session,
  type Step,
} from '@ordle/core';
import { keepColumns } from '@/edits/manyEdits';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { portableSteps } from '@/steps/partsTogether';
import { loadTable } from '@/storage/editTables';
import { counted } from '@/words/counts';
import { newId } from './partsActions';

/** Puts parts of another session into the open one, with their takes, steps and all they are made of. Gives the ids of those asked for. */
export async function bringPartsIn(
  dispatch: AppDispatch,
  from: Session,
  ids: readonly string[],
): Promise<string[]> {
  const open = selectDocument(store.getState());
  if (!open) return [];
  const scale = tickScale(from, open);
  const tableKeys = new Map<string, string>();
  // Hand edits of many notes are named by their content, which is other content where ticks are of another length.
  for (const key of scale === 1 ? [] : tablesNamed(from, ids))
    tableKeys.set(key, (await keepColumns(scaledColumns(await loadTable(key), scale))).key);
  const session = selectDocument(store.getState());
  if (session?.id !== open.id) return [];
  const brought = bringParts(from, ids, session, newId, tableKeys);
  dispatch(
    edit(`Bring in ${counted(ids.length, 'part')} of ${from.name}`, (draft) => {
      for (const reference of brought.references) {
        draft.takes.byId[reference.id] = { ...reference };
        draft.takes.order.push(reference.id);
      }
      for (const part of brought.parts) {
        draft.parts.byId[part.id] = structuredClone(part);
        draft.parts.order.push(part.id);
      }
      draft.nextPiece = brought.nextPiece;
      draft.nextNoteId = brought.nextNoteId;
    }),
  );
  return brought.parts.filter(({ setAside }) => !setAside).map(({ id }) => id);
}

/** The steps of a part of another session that mean something for another part too, in the ticks of the open one. */
export function stepsToBring(from: Session, partId: string, to: Session): Step[] {
  const steps = listOf(itemOf(from.parts, partId)?.steps ?? { order: [], byId: {} });
  const scale = tickScale(from, to);
  return portableSteps(steps.map(({ step }) => step)).map((step) => scaledStep(step, scale));
}
