import type { Session } from '@ordle/core';
import { applyPatches, enablePatches, produceWithPatches, type Draft, type Patch } from 'immer';
import { z } from 'zod';

enablePatches();

const patchSchema = z.object({
  op: z.enum(['replace', 'remove', 'add']),
  path: z.array(z.union([z.string(), z.number()])),
  value: z.unknown().optional(),
});

const entrySchema = z.object({
  label: z.string(),
  at: z.number(),
  /** The gesture the entry grew from; further changes of the same gesture join it. */
  gesture: z.string().nullable(),
  forward: z.array(patchSchema),
  backward: z.array(patchSchema),
  /** A name a person gave to the point after this action. */
  mark: z.string().optional(),
});

/** Everything done and undone in a session, as patches with the person's words; oldest first. */
export const historySchema = z.object({ done: z.array(entrySchema), undone: z.array(entrySchema) });

export type History = z.infer<typeof historySchema>;
export type HistoryEntry = z.infer<typeof entrySchema>;

/** A document and its history, changed together. */
export interface Work {
  document: Session;
  history: History;
}

export function emptyHistory(): History {
  return { done: [], undone: [] };
}

/**
 * Changes the document by `recipe` and notes it under `label`. Changes that share a `gesture` (a slider being dragged) become one
 * entry. A recipe that changes nothing leaves everything as it is.
 */
export function change(
  work: Work,
  label: string,
  recipe: (draft: Draft<Session>) => void,
  gesture: string | null = null,
): Work {
  const [document, forward, backward] = produceWithPatches(work.document, recipe);
  if (forward.length === 0) return work;
  const last = work.history.done.at(-1);
  const joins = gesture !== null && last?.gesture === gesture && work.history.undone.length === 0;
  const entry: HistoryEntry = joins
    ? {
        ...last,
        label,
        forward: joinForward(last.forward, forward),
        backward: joinBackward(last.backward, backward),
      }
    : { label, at: Date.now(), gesture, forward, backward };
  const before = joins ? work.history.done.slice(0, -1) : work.history.done;
  return { document, history: { done: [...before, entry], undone: [] } };
}

/** Later writes to the same place replace earlier ones, so that a long drag stays one small patch. */
function joinForward(earlier: HistoryEntry['forward'], later: Patch[]): HistoryEntry['forward'] {
  const replaced = new Set(later.filter((patch) => patch.op === 'replace').map(pathKey));
  return [...earlier.filter((patch) => patch.op !== 'replace' || !replaced.has(pathKey(patch))), ...later];
}

/** Going back, the value from before the whole gesture counts. */
function joinBackward(earlier: HistoryEntry['backward'], later: Patch[]): HistoryEntry['backward'] {
  const known = new Set(earlier.filter((patch) => patch.op === 'replace').map(pathKey));
  return [...later.filter((patch) => patch.op !== 'replace' || !known.has(pathKey(patch))), ...earlier];
}

function pathKey(patch: { path: (string | number)[] }): string {
  return patch.path.join('/');
}

export function undo(work: Work): Work {
  const entry = work.history.done.at(-1);
  if (!entry) return work;
  return {
    document: applyPatches(work.document, entry.backward as Patch[]),
    history: { done: work.history.done.slice(0, -1), undone: [...work.history.undone, entry] },
  };
}

export function redo(work: Work): Work {
  const entry = work.history.undone.at(-1);
  if (!entry) return work;
  return {
    document: applyPatches(work.document, entry.forward as Patch[]),
    // A redone gesture is over: what follows must not join it.
    history: {
      done: [...work.history.done, { ...entry, gesture: null }],
      undone: work.history.undone.slice(0, -1),
    },
  };
}

/** Takes back a gesture as if it had not been: nothing to redo is left. */
export function abandon(work: Work, gesture: string): Work {
  if (work.history.done.at(-1)?.gesture !== gesture) return work;
  const back = undo(work);
  return { document: back.document, history: { ...back.history, undone: back.history.undone.slice(0, -1) } };
}

/** Undoes or redoes until `count` actions are done. */
export function jump(work: Work, count: number): Work {
  let at = work;
  while (at.history.done.length > count && at.history.done.length > 0) at = undo(at);
  while (at.history.done.length < count && at.history.undone.length > 0) at = redo(at);
  return at;
}

/** Names the present point; the document does not change. */
export function mark(work: Work, name: string): Work {
  const last = work.history.done.at(-1);
  if (!last) return work;
  const done = [...work.history.done.slice(0, -1), { ...last, mark: name, gesture: null }];
  return { document: work.document, history: { ...work.history, done } };
}
