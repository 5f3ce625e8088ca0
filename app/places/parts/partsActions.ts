import {
  isLayout,
  blocksOf,
  itemOf,
  listOf,
  movesNothing,
  numbersOf,
  withBlocks,
  type Block,
  type Part,
  type PieceNumbers,
  type Session,
  type PartRow,
} from '@ordle/core';
import { toast } from 'sonner';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { counted } from '@/words/counts';

export const newId = (): string => crypto.randomUUID();

/** Where what a part's layout lays ends, in quarters, by the part's id. */
export type EndsOfParts = ReadonlyMap<string, number>;

export const endsOf = (rows: readonly PartRow[]): EndsOfParts =>
  new Map(rows.map(({ partId, end }) => [partId, end]));

/** Changes the layouts of some parts as one action. Parts whose blocks come out the same stay as they are. */
export function changeBlocks(
  dispatch: AppDispatch,
  label: string,
  partIds: readonly string[],
  ends: EndsOfParts,
  make: (blocks: Block[], part: Part) => Block[],
  { gesture = null, also }: { gesture?: string | null; also?: (draft: Session) => void } = {},
): void {
  const session = selectDocument(store.getState());
  if (!session) return;
  const changed = partIds.flatMap((id) => {
    const part = itemOf(session.parts, id);
    const end = ends.get(id) ?? 0;
    if (!part || end === 0) return [];
    const before = blocksOf(part, end);
    const after = make(before, part);
    if (after === before || JSON.stringify(after) === JSON.stringify(before)) return [];
    const hasLayout = listOf(part.steps).some(({ step }) => isLayout(step));
    // A layout that moves nothing need not be there; one that holds nothing is not allowed, so that the part goes
    // silent instead.
    if (!hasLayout && after.length === 1 && movesNothing(after, end)) return [];
    return [{ id, steps: after.length === 0 ? null : withBlocks(part, after, newId).steps }];
  });
  if (changed.length === 0) return;
  for (const { id, steps } of changed)
    if (!steps)
      toast(`${itemOf(session.parts, id)?.name ?? 'The part'} is muted: a layout holds one block at least.`);
  const muted = changed
    .filter(({ steps }) => !steps)
    .map(({ id }) => itemOf(session.parts, id)?.name ?? 'part');
  const named = changed.length > 1 ? `${label}, ${counted(changed.length, 'part')}` : label;
  dispatch(
    edit(
      muted.length > 0 ? `${named}: mutes ${muted.join(', ').slice(0, 100)}` : named,
      (draft) => {
        for (const { id, steps } of changed) {
          const own = itemOf(draft.parts, id);
          if (!own) continue;
          if (steps) own.steps = structuredClone(steps);
          else own.muted = true;
        }
        also?.(draft);
      },
      gesture,
    ),
  );
}

/** Adds parts that are made of others, and sets those aside, as one action. */
export function addPartsOf(
  dispatch: AppDispatch,
  label: string,
  sources: readonly string[],
  make: (session: Session, numbers: PieceNumbers) => Part[],
): string[] {
  const session = selectDocument(store.getState());
  if (!session) return [];
  const numbers = numbersOf(session);
  const made = make(session, numbers);
  dispatch(
    edit(label, (draft) => {
      const at = Math.max(...sources.map((id) => draft.parts.order.indexOf(id)));
      for (const part of made) draft.parts.byId[part.id] = structuredClone(part);
      draft.parts.order.splice(at + 1, 0, ...made.map(({ id }) => id));
      for (const id of sources) {
        const source = itemOf(draft.parts, id);
        if (source) source.setAside = true;
      }
      draft.nextPiece = numbers.next;
    }),
  );
  return made.map(({ id }) => id);
}

/** Changes some fields of a part as one action. */
export function changePart(
  dispatch: AppDispatch,
  label: string,
  partId: string,
  change: (part: Part) => void,
): void {
  dispatch(
    edit(label, (draft) => {
      const part = itemOf(draft.parts, partId);
      if (part) change(part);
    }),
  );
}
