import { listOf, type Part } from '../session';
import { createStep, isByHand, isLayout, type LayoutBlock, type LayoutStep } from '../steps';

/** A block of a part's layout, known by an id. Places in quarters. */
export type Block = LayoutBlock & { id: string };

export const lengthOf = ({ from, to, stretch }: LayoutBlock): number => (to - from) * stretch;
/** Where a block and its repetitions end. */
export const endOfBlock = (block: LayoutBlock): number => block.at + lengthOf(block) * block.times;

/** The layout of a part, where it has one that is on. */
export function layoutOf(part: Part): { id: string; step: LayoutStep } | null {
  for (const { id, step } of listOf(part.steps)) if (isLayout(step) && step.on) return { id, step };
  return null;
}

/** The blocks of a part: those of its layout, or else one that holds all of it up to `end` where it lies. */
export function blocksOf(part: Part, end: number): Block[] {
  const layout = layoutOf(part);
  if (layout)
    return layout.step.blocks.map((block, index) => ({ ...block, id: block.id ?? `block${index}` }));
  return [{ id: 'block0', from: 0, to: Math.max(end, 1e-3), at: 0, times: 1, stretch: 1, held: 'ring' }];
}

/** Whether blocks leave everything where it is: one after the other, once each, from the start up to `end`. */
export function movesNothing(blocks: readonly LayoutBlock[], end: number): boolean {
  let at = 0;
  for (const { from, to, at: place, times, stretch, muted } of [...blocks].sort((a, b) => a.from - b.from)) {
    if (muted === true || Math.abs(from - at) > 1e-9 || place !== from || times !== 1 || stretch !== 1)
      return false;
    at = to;
  }
  return at >= end - 1e-9;
}

/**
 * A part with these blocks as its layout: in the step that is there, also where that is off, else in a new one at the
 * end of the line.
 */
export function withBlocks(part: Part, blocks: readonly Block[], newId: () => string): Part {
  const there = listOf(part.steps).find(({ step }) => isLayout(step));
  const id = there?.id ?? newId();
  const step =
    there && isLayout(there.step)
      ? { ...there.step, on: true, blocks: [...blocks] }
      : createStep('layout', { blocks: [...blocks] });
  const { order, byId } = part.steps;
  return {
    ...part,
    steps: { order: there ? order : [...order, id], byId: { ...byId, [id]: { id, step } } },
  };
}

/** The steps of a part that come after its layout: what they do holds for one copy only. */
export function hasOwnEdits(part: Part): boolean {
  const layout = layoutOf(part);
  if (!layout) return false;
  const after = listOf(part.steps).slice(part.steps.order.indexOf(layout.id) + 1);
  return after.some(({ step }) => step.on && isByHand(step));
}

/** The repetitions of a block as blocks of their own; the first keeps the id. */
function apart(block: Block, newId: () => string): Block[] {
  return Array.from({ length: block.times }, (_, number) => ({
    ...block,
    id: number === 0 ? block.id : newId(),
    at: block.at + number * lengthOf(block),
    times: 1,
  }));
}

const replaced = (blocks: readonly Block[], made: (block: Block) => readonly Block[]): Block[] =>
  blocks.flatMap((block) => [...made(block)]);

/**
 * Blocks cut in two at a place of the part, where they lie over it; repetitions come apart first. Only those with an
 * id in `ids`, all without.
 */
export function splitAt(
  blocks: readonly Block[],
  place: number,
  newId: () => string,
  ids?: ReadonlySet<string>,
): Block[] {
  return replaced(blocks, (block) => {
    const isWithin = place > block.at + 1e-9 && place < endOfBlock(block) - 1e-9;
    if (!isWithin || (ids && !ids.has(block.id))) return [block];
    return apart(block, newId).flatMap((copy) => {
      if (place <= copy.at + 1e-9 || place >= endOfBlock(copy) - 1e-9) return [copy];
      const cut = copy.from + (place - copy.at) / copy.stretch;
      return [
        { ...copy, to: cut },
        { ...copy, id: newId(), from: cut, at: place },
      ];
    });
  });
}

/**
 * Blocks joined with those they go on from, where one lies right after the other in the part and in what it was made
 * of.
 */
export function joinBlocks(blocks: readonly Block[], ids: ReadonlySet<string>): Block[] {
  const made: Block[] = [];
  for (const block of [...blocks].sort((a, b) => a.at - b.at)) {
    const last = made.findLast((each) => ids.has(each.id) && each.times === 1);
    const goesOn =
      last !== undefined &&
      ids.has(block.id) &&
      block.times === 1 &&
      last.stretch === block.stretch &&
      (last.muted ?? false) === (block.muted ?? false) &&
      Math.abs(last.to - block.from) < 1e-9 &&
      Math.abs(endOfBlock(last) - block.at) < 1e-9;
    if (goesOn) made[made.indexOf(last)] = { ...last, to: block.to, held: block.held };
    else made.push(block);
  }
  return made;
}

/**
 * Blocks with one edge moved to a place of the part: what a block has of its source changes, not where it lies. At
 * least `least` quarters stay.
 */
export function trim(block: Block, edge: 'start' | 'end', place: number, least: number): Block {
  if (edge === 'end') {
    // The last repetition gives way, and with it all others, which are copies of it.
    const length = Math.max(least, (place - block.at) / block.times);
    return { ...block, to: block.from + length / block.stretch };
  }
  const at = Math.min(place, block.at + lengthOf(block) - least);
  const from = Math.max(0, block.from + (at - block.at) / block.stretch);
  return { ...block, from, at: block.at + (from - block.from) * block.stretch };
}

export const moveBlock = (block: Block, by: number): Block => ({ ...block, at: Math.max(0, block.at + by) });

/** A block that lays nothing for now, or does again. */
export function muteBlock(block: Block, isMuted: boolean): Block {
  const made: Block = { ...block, muted: true };
  if (!isMuted) delete made.muted;
  return made;
}

/** A block made to end at a place by playing slower or faster; repetitions stay as many. */
export function stretchTo(block: Block, place: number): Block {
  const stretch = (place - block.at) / block.times / (block.to - block.from);
  return { ...block, stretch: Math.min(100, Math.max(0.01, stretch)) };
}

/** A block repeated as often as it takes to reach a place; the last repetition may end after it. */
export const repeatUpTo = (block: Block, place: number): Block => ({
  ...block,
  times: Math.min(10_000, Math.max(1, Math.ceil((place - block.at) / lengthOf(block) - 1e-9))),
});

/** Copies of some blocks right after the last of them; linked, since they are of the same source. */
export function duplicateAfter(
  blocks: readonly Block[],
  ids: ReadonlySet<string>,
  newId: () => string,
): { blocks: Block[]; copies: string[] } {
  const chosen = blocks.filter(({ id }) => ids.has(id));
  if (chosen.length === 0) return { blocks: [...blocks], copies: [] };
  const by = Math.max(...chosen.map(endOfBlock)) - Math.min(...chosen.map(({ at }) => at));
  const copies = chosen.map((block) => ({ ...block, id: newId(), at: block.at + by }));
  return { blocks: [...blocks, ...copies], copies: copies.map(({ id }) => id) };
}

/**
 * For each block the ids of others that lay some of the same source: what is cleaned before the layout holds for all
 * of them.
 */
export function linkedWith(blocks: readonly Block[], id: string): string[] {
  const own = blocks.find((block) => block.id === id);
  if (!own) return [];
  return blocks
    .filter((block) => block.id !== id && block.from < own.to - 1e-9 && block.to > own.from + 1e-9)
    .map((block) => block.id);
}

/** Some bars taken out of a part: what lies after comes earlier by as much. */
export function deleteStretch(
  blocks: readonly Block[],
  from: number,
  to: number,
  newId: () => string,
): Block[] {
  const cut = splitAt(splitAt(blocks, from, newId), to, newId);
  return cut
    .filter(({ at }) => at < from - 1e-9 || at >= to - 1e-9)
    .map((block) => (block.at >= to - 1e-9 ? moveBlock(block, from - to) : block));
}

/** Empty time put into a part: what lies from a place on comes later by as much. */
export function insertTime(
  blocks: readonly Block[],
  place: number,
  length: number,
  newId: () => string,
): Block[] {
  return splitAt(blocks, place, newId).map((block) =>
    block.at >= place - 1e-9 ? moveBlock(block, length) : block,
  );
}

/** A stretch of bars again right after itself: what lies after comes later. */
export function repeatStretch(
  blocks: readonly Block[],
  from: number,
  to: number,
  newId: () => string,
): Block[] {
  const cut = splitAt(splitAt(blocks, from, newId), to, newId);
  const copies = cut
    .filter(({ at }) => at >= from - 1e-9 && at < to - 1e-9)
    .map((block) => ({ ...block, id: newId(), at: block.at + to - from }));
  return [...cut.map((block) => (block.at >= to - 1e-9 ? moveBlock(block, to - from) : block)), ...copies];
}
