import {
  itemOf,
  listOf,
  numbersOf,
  orderedOf,
  type Ordered,
  type Part,
  type PieceNumbers,
  type Session,
} from '@ordle/core';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';

/**
 * Changes what a part is made of as one action; pieces that come anew are numbered. Nothing happens where the part is
 * gone.
 */
export function changeAssembly(
  dispatch: AppDispatch,
  label: string,
  partId: string,
  make: (part: Part, session: Session, numbers: PieceNumbers) => Part,
  gesture: string | null = null,
): void {
  const session = selectDocument(store.getState());
  const part = session && itemOf(session.parts, partId);
  if (!session || !part) return;
  const numbers = numbersOf(session);
  const next = make(part, session, numbers);
  if (next === part) return;
  dispatch(
    edit(
      label,
      (draft) => {
        const own = itemOf(draft.parts, partId);
        if (!own) return;
        writeAssembly(own, part, next);
        draft.nextPiece = numbers.next;
      },
      gesture,
    ),
  );
}

/** Writes what a part is made of into its draft, as far as it is another. */
export function writeAssembly(draft: Part, before: Part, next: Part): void {
  writeLayers(draft, before, next);
  if (next.doubles !== before.doubles) draft.doubles = { ...next.doubles };
  if (next.seams !== before.seams) draft.seams = { ...next.seams };
  if (next.takes && next.takes !== before.takes)
    writeItems((draft.takes ??= orderedOf([])), before.takes, next.takes);
}

/**
 * Writes things by id into a draft, only those that are others than before: patches stay small, however many there
 * are.
 */
function writeItems<T extends { id: string }>(
  draft: Ordered<T>,
  before: Ordered<T> | undefined,
  next: Ordered<T>,
): void {
  for (const id of Object.keys(before?.byId ?? {}))
    if (!Object.hasOwn(next.byId, id)) Reflect.deleteProperty(draft.byId, id);
  for (const [id, item] of Object.entries(next.byId))
    if (before?.byId[id] !== item) draft.byId[id] = structuredClone(item);
  if (before?.order.join() !== next.order.join()) draft.order = [...next.order];
}

function writeLayers(draft: Part, before: Part, next: Part): void {
  if (before.layers === next.layers) return;
  const isSame = before.layers.order.join() === next.layers.order.join();
  if (!isSame) {
    draft.layers = structuredClone(next.layers);
    return;
  }
  for (const { id, pieces } of listOf(next.layers)) {
    const old = before.layers.byId[id];
    if (old.pieces !== pieces) writeItems(draft.layers.byId[id].pieces, old.pieces, pieces);
  }
}
