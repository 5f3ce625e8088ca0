import {
  isLayout,
  createStep,
  deleteStretch,
  duplicateAfter,
  insertTime,
  itemOf,
  joinBlocks,
  mapsAfter,
  moveBlock,
  muteBlock,
  repeatStretch,
  splitAt,
  timelineOf,
  stretchTo,
  endOfBlock,
  trim,
  withBlocks,
  type Block,
  type Marker,
  type TimeChange,
} from '@ordle/core';
import type { BlocksDrag } from '@/editor';
import { keyOfBlock } from '@/editor';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { applyAnswer } from '@/state/answers';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { counted } from '@/words/counts';
import { changeBlocks, newId, type EndsOfParts } from './partsActions';

/** Blocks by their part. */
export type BlocksByPart = ReadonlyMap<string, ReadonlySet<string>>;

/** The selected blocks by their parts, of those that are there. */
export function byPart(
  selected: ReadonlySet<string>,
  blocks: ReadonlyMap<string, readonly Block[]>,
): Map<string, Set<string>> {
  const found = new Map<string, Set<string>>();
  for (const [part, list] of blocks)
    for (const { id } of list)
      if (selected.has(keyOfBlock({ part, block: id })))
        found.set(part, (found.get(part) ?? new Set()).add(id));
  return found;
}

interface Blocks {
  dispatch: AppDispatch;
  ends: EndsOfParts;
  chosen: BlocksByPart;
}

const none = new Set<string>();
const change = (
  { dispatch, ends, chosen }: Blocks,
  label: string,
  make: (blocks: Block[], ids: ReadonlySet<string>) => Block[],
  gesture: string | null = null,
) =>
  changeBlocks(
    dispatch,
    label,
    [...chosen.keys()],
    ends,
    (blocks, part) => make(blocks, chosen.get(part.id) ?? none),
    { gesture },
  );

/** Each selected block made into another. */
export const changeEach = (
  on: Blocks,
  label: string,
  make: (block: Block) => Block,
  gesture: string | null = null,
) =>
  change(
    on,
    label,
    (blocks, ids) => blocks.map((block) => (ids.has(block.id) ? make(block) : block)),
    gesture,
  );

export const splitBlocks = (on: Blocks, quarter: number) =>
  change(on, 'Split blocks', (blocks, ids) => splitAt(blocks, quarter, newId, ids));

export const joinSelected = (on: Blocks) => change(on, 'Join blocks', joinBlocks);

export const leaveOut = (on: Blocks) =>
  change(on, 'Leave blocks out', (blocks, ids) => blocks.filter(({ id }) => !ids.has(id)));

/** Copies after the blocks themselves; gives their keys. */
export function duplicate(on: Blocks): string[] {
  const keys: string[] = [];
  changeBlocks(on.dispatch, 'Duplicate blocks', [...on.chosen.keys()], on.ends, (blocks, part) => {
    const made = duplicateAfter(blocks, on.chosen.get(part.id) ?? none, newId);
    keys.push(...made.copies.map((block) => keyOfBlock({ part: part.id, block })));
    return made.blocks;
  });
  return keys;
}

/** What a drag of blocks does. Quarters; `least` is the shortest a block may become. */
export function finishDrag(on: Blocks, { kind, by }: BlocksDrag, ticksPerQuarter: number) {
  const quarters = by / ticksPerQuarter;
  const least = 1 / 16;
  if (kind === 'move') changeEach(on, 'Move blocks', (block) => moveBlock(block, quarters));
  else if (kind === 'stretch')
    changeEach(on, 'Stretch blocks', (block) => stretchTo(block, endOfBlock(block) + quarters));
  else if (kind === 'start')
    changeEach(on, 'Trim blocks', (block) => trim(block, 'start', block.at + quarters, least));
  else changeEach(on, 'Trim blocks', (block) => trim(block, 'end', endOfBlock(block) + quarters, least));
}

/** Takes linked copies out of their layouts; what they laid is there by hand edits of their own from then on. */
export async function makeIndependent(
  dispatch: AppDispatch,
  chosen: BlocksByPart,
  blocks: ReadonlyMap<string, readonly Block[]>,
): Promise<void> {
  for (const [partId, ids] of chosen) {
    const session = selectDocument(store.getState());
    const part = session && itemOf(session.parts, partId);
    if (!session || !part) continue;
    const all = [...(blocks.get(partId) ?? [])];
    const made = await engine.independent({ session, partId, blocks: all, ids: [...ids] });
    if (!made) {
      toast(`${part.name}: the last block there is stays in its layout.`);
      continue;
    }
    await applyAnswer({
      asked: { sessionId: session.id, partId },
      fits: (now) => now.part?.steps === part.steps && now.part.layers === part.layers,
      apply: () =>
        void dispatch(
          edit(`Make ${counted(made.notes, 'note')} of ${part.name} independent`, (draft) => {
            const own = itemOf(draft.parts, partId);
            if (!own) return;
            own.steps = structuredClone(withBlocks(part, made.blocks, newId).steps);
            const layout = own.steps.order.findIndex((id) => isLayout(own.steps.byId[id].step));
            const id = newId();
            own.steps.byId[id] = { id, step: createStep('edits', { ...made.edits }) };
            own.steps.order.splice(layout + 1, 0, id);
          }),
        ),
      gone: () => undefined,
      changed: () => void toast(`${part.name} was changed meanwhile; try again.`),
    });
  }
}

/** Blocks that were copied, by the part they are of, and where the first of them begins. */
export interface CopiedBlocks {
  from: number;
  blocks: readonly { part: string; block: Block }[];
}

export function copyBlocks(
  chosen: BlocksByPart,
  blocks: ReadonlyMap<string, readonly Block[]>,
): CopiedBlocks | null {
  const copied = [...chosen].flatMap(([part, ids]) =>
    (blocks.get(part) ?? []).filter(({ id }) => ids.has(id)).map((block) => ({ part, block })),
  );
  return copied.length === 0
    ? null
    : { from: Math.min(...copied.map(({ block }) => block.at)), blocks: copied };
}

/** Lays copies at a place, each in the part it is of; gives their keys. */
export function pasteBlocks(
  dispatch: AppDispatch,
  ends: EndsOfParts,
  copied: CopiedBlocks,
  quarter: number,
): string[] {
  const keys: string[] = [];
  const parts = [...new Set(copied.blocks.map(({ part }) => part))];
  changeBlocks(dispatch, 'Lay copied blocks', parts, ends, (blocks, { id }) => {
    const own = copied.blocks
      .filter(({ part }) => part === id)
      .map(({ block }) => ({ ...block, id: newId(), at: block.at - copied.from + quarter }));
    keys.push(...own.map((block) => keyOfBlock({ part: id, block: block.id })));
    return [...blocks, ...own];
  });
  return keys;
}

/** Copies what lies in a stretch of bars, in all parts; silence at its start counts. Quarters. */
export function copyBars(
  blocks: ReadonlyMap<string, readonly Block[]>,
  [from, to]: [number, number],
): CopiedBlocks {
  const cut = [...blocks].flatMap(([part, list]) =>
    splitAt(splitAt(list, from, newId), to, newId)
      .filter(({ at }) => at >= from - 1e-9 && at < to - 1e-9)
      .map((block) => ({ part, block })),
  );
  return { from, blocks: cut };
}

export const muteBlocks = (on: Blocks, isMuted: boolean) =>
  changeEach(on, isMuted ? 'Mute blocks' : 'Unmute blocks', (block) => muteBlock(block, isMuted));

/** What is done to a stretch of bars in all parts, and to tempo, meter and markers with them; quarters. */
export function changeBars(
  dispatch: AppDispatch,
  parts: readonly string[],
  ends: EndsOfParts,
  markers: readonly Marker[],
  what: TimeChange['what'],
  [from, to]: [number, number],
  bars: string,
) {
  const session = selectDocument(store.getState());
  if (!session) return;
  const [label, make] = {
    repeat: [`Repeat ${bars}`, (blocks: Block[]) => repeatStretch(blocks, from, to, newId)] as const,
    delete: [`Delete ${bars}`, (blocks: Block[]) => deleteStretch(blocks, from, to, newId)] as const,
    insert: [
      `Insert time before ${bars}`,
      (blocks: Block[]) => insertTime(blocks, from, to - from, newId),
    ] as const,
  }[what];
  const { ticksPerQuarter } = timelineOf(session);
  const change = { what, from: from * ticksPerQuarter, to: to * ticksPerQuarter };
  const end = Math.max(0, ...ends.values()) * ticksPerQuarter;
  const maps = mapsAfter(session, markers.length > 0 ? [...markers] : undefined, change, newId, end);
  changeBlocks(dispatch, label, parts, ends, (blocks) => make(blocks), {
    also(draft) {
      draft.tempos = structuredClone(maps.tempos);
      draft.meters = structuredClone(maps.meters);
      // Markers of the files stay theirs for as long as nothing of them moves.
      const isMoved = JSON.stringify(maps.markers ?? []) !== JSON.stringify(markers);
      if (maps.markers && isMoved) draft.markers = structuredClone(maps.markers);
    },
  });
}
