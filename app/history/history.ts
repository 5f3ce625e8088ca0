import {
  OrdleError,
  SESSION_VERSION,
  patchesBetween,
  readDocument,
  sessionSchema,
  settled,
  type Session,
} from '@ordle/core';
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
  /** The version of the document its patches fit; without it today's. */
  version: z.int().optional(),
});

/**
 * Everything done and undone in a session, as patches with the person's words; oldest first. Where some of it was
 * done under an older version of the document, `former` holds, by that version, the document as it was then at the
 * nearest point of that time: undoing past the boundary undoes there, by the patches of that time, and migrates the
 * outcome anew.
 */
export const historySchema = z.object({
  done: z.array(entrySchema),
  undone: z.array(entrySchema),
  former: z.record(z.string(), z.unknown()).optional(),
});

export type HistoryEntry = z.infer<typeof entrySchema>;
export interface History extends z.infer<typeof historySchema> {
  /** Actions done before those in `done` that lie in storage alone, to be read when they are looked at. */
  earlier?: number;
  /** What a gesture under way has put out of reach of redo, for when the gesture is abandoned. Not stored. */
  displaced?: { gesture: string; undone: HistoryEntry[] };
}

/** Entries made in this page: their patches need no checking. Those read from storage may have been damaged there. */
const ownEntries = new WeakSet<HistoryEntry>();

/** A document and its history, changed together. */
export interface Work {
  document: Session;
  history: History;
}

export function emptyHistory(): History {
  return { done: [], undone: [] };
}

/**
 * Changes the document by `recipe` and notes it under `label`. Changes that share a `gesture` (a slider being
 * dragged) become one entry. A recipe that changes nothing leaves everything as it is.
 */
export function change(
  work: Work,
  label: string,
  recipe: (draft: Draft<Session>) => void,
  gesture: string | null = null,
): Work {
  const [document, forward, backward] = produceWithPatches(work.document, recipe);
  if (forward.length === 0) return work;
  const { history } = work;
  const last = history.done.at(-1);
  const joins =
    gesture !== null &&
    last?.gesture === gesture &&
    last.version === undefined &&
    history.undone.length === 0;
  const kept = {
    ...(history.former && { former: history.former }),
    ...(history.earlier && { earlier: history.earlier }),
  };
  const entry: HistoryEntry = joins
    ? { ...last, label, ...patchesOfGesture(beginningOf(last, work.document), document) }
    : { label, at: Date.now(), gesture, forward, backward };
  ownEntries.add(entry);
  if (gesture !== null)
    underWay = { entry, before: joins ? beginningOf(last, work.document) : work.document };
  const before = joins ? history.done.slice(0, -1) : history.done;
  return {
    document,
    history: { done: [...before, entry], undone: [], ...kept, ...displacedBy(gesture, history, joins) },
  };
}

function displacedBy(gesture: string | null, history: History, joins: boolean): Pick<History, 'displaced'> {
  if (gesture === null) return {};
  if (joins) return history.displaced ? { displaced: history.displaced } : {};
  return history.undone.length > 0 ? { displaced: { gesture, undone: history.undone } } : {};
}

/** The document from before the gesture that is under way: kept of the last one alone. */
let underWay: { entry: HistoryEntry; before: Session } | null = null;

const beginningOf = (entry: HistoryEntry, now: Session): Session =>
  underWay?.entry === entry ? underWay.before : applyPatches(now, entry.backward as Patch[]);

/**
 * What a gesture has done so far as the least that does it: a long drag stays one small patch, and whatever came and
 * went meanwhile is in neither direction. Patches put one behind the other could name places that a later one has
 * taken away.
 */
function patchesOfGesture(before: Session, now: Session): Pick<HistoryEntry, 'forward' | 'backward'> {
  const patches = (from: Session, to: Session): Patch[] =>
    patchesBetween(from, to).map((patch) =>
      'value' in patch
        ? { op: 'replace', path: patch.path, value: patch.value }
        : { op: 'remove', path: patch.path },
    );
  return { forward: patches(before, now), backward: patches(now, before) };
}

/** Takes back the last action. Throws OrdleError `history-damaged` where what is stored of it cannot be applied. */
export function undo(work: Work): Work {
  return jump(work, countOf(work.history) - 1);
}

/** Does again what was taken back last. Throws as `undo`. */
export function redo(work: Work): Work {
  return jump(work, countOf(work.history) + 1);
}

/** Takes back a gesture as if it had not been: what could be redone before it can be redone again. */
export function abandon(work: Work, gesture: string): Work {
  if (work.history.done.at(-1)?.gesture !== gesture) return work;
  const { displaced } = work.history;
  const back = undo(work);
  const undone = displaced?.gesture === gesture ? displaced.undone : back.history.undone.slice(0, -1);
  return { document: back.document, history: { ...back.history, undone } };
}

/**
 * Undoes or redoes until `count` actions are done (as far as there are any in memory). All patches on the way are
 * applied in one go, so that a long way costs no more than its patches. Throws as `undo`, and then nothing has
 * changed.
 */
export function jump(work: Work, count: number): Work {
  const { done, undone, earlier = 0 } = work.history;
  const target = Math.max(0, Math.min(done.length + undone.length, count - earlier));
  if (target === done.length) return work;
  if (target < done.length) {
    const back = done.slice(target).reverse();
    return moved(work, back, 'backward', { done: done.slice(0, target), undone: [...undone, ...back] });
  }
  const forth = undone.slice(done.length - target).reverse();
  // A redone gesture is over: what follows must not join it.
  return moved(work, forth, 'forward', {
    done: [...done, ...forth.map(closedEntry)],
    undone: undone.slice(0, done.length - target),
  });
}

type Direction = 'forward' | 'backward';

/**
 * The work after some entries, each applied to the document of the version it was made under. Throws
 * `history-damaged`.
 */
function moved(
  { document: from, history }: Work,
  entries: readonly HistoryEntry[],
  direction: Direction,
  lists: Pick<History, 'done' | 'undone'>,
): Work {
  let document = from;
  let former = history.former;
  for (const run of runsOfOneVersion(entries)) {
    const { version = SESSION_VERSION } = run[0];
    if (version === SESSION_VERSION) {
      document = patched(document, run, direction);
      continue;
    }
    const then = patchedThen(former?.[version], run, direction);
    former = { ...former, [version]: then.stored };
    // Its name and id are not part of what is undone.
    document = settled({ ...then.document, id: from.id, name: then.document.name });
  }
  const { nextPiece, nextNoteId } = from;
  if (document.nextPiece < nextPiece || document.nextNoteId < nextNoteId) {
    // What is undone gives no number back: a number is never used twice.
    document = {
      ...document,
      nextPiece: Math.max(nextPiece, document.nextPiece),
      nextNoteId: Math.max(nextNoteId, document.nextNoteId),
    };
  }
  return {
    document: settled(document),
    history: { ...lists, ...(former && { former }), ...(history.earlier && { earlier: history.earlier }) },
  };
}

function runsOfOneVersion(entries: readonly HistoryEntry[]): HistoryEntry[][] {
  const runs: HistoryEntry[][] = [];
  for (const entry of entries) {
    const last = runs.at(-1);
    if (last && last[0].version === entry.version) last.push(entry);
    else runs.push([entry]);
  }
  return runs;
}

/** A document of an older version after some entries of its time: as it was stored then, and as it is read today. */
function patchedThen(stored: unknown, entries: readonly HistoryEntry[], direction: Direction) {
  try {
    const patches = entries.flatMap((entry) => entry[direction]) as Patch[];
    const next: unknown = applyPatches(stored as object, patches);
    return { stored: next, document: readDocument(next) };
  } catch {
    throw damaged(entries[0]);
  }
}

/** The work as it is known under another id, name or time of making, in its older versions too. */
export function withIdentity(
  { document, history }: Work,
  identity: Partial<Pick<Session, 'id' | 'name' | 'createdAt'>>,
): Work {
  const former =
    history.former &&
    Object.fromEntries(
      Object.entries(history.former).map(([version, then]) => [
        version,
        { ...(then as object), ...identity },
      ]),
    );
  return { document: { ...document, ...identity }, history: { ...history, ...(former && { former }) } };
}

function closedEntry(entry: HistoryEntry): HistoryEntry {
  const closed = { ...entry, gesture: null };
  if (ownEntries.has(entry)) ownEntries.add(closed);
  return closed;
}

function patched(document: Session, entries: readonly HistoryEntry[], direction: Direction): Session {
  const patches = entries.flatMap((entry) => entry[direction]) as Patch[];
  if (entries.every((entry) => ownEntries.has(entry))) return applyPatches(document, patches);
  try {
    const next = applyPatches(document, patches);
    if (sessionSchema.safeParse(next).success) return next;
  } catch {
    // A patch whose place is not there any more: damaged all the same.
  }
  throw damaged(entries[0]);
}

function damaged({ label }: HistoryEntry): OrdleError {
  return new OrdleError(
    'history-damaged',
    `The history is damaged at “${label}”, so that point cannot be reached. The session stays as it is.`,
  );
}

/** Names the present point; the document does not change. */
export function mark(work: Work, name: string): Work {
  const last = work.history.done.at(-1);
  if (!last) return work;
  const marked = { ...last, mark: name, gesture: null };
  if (ownEntries.has(last)) ownEntries.add(marked);
  const done = [...work.history.done.slice(0, -1), marked];
  return { document: work.document, history: { ...work.history, done } };
}

/** How many actions are done, those that are not in memory among them. */
export const countOf = ({ earlier = 0, done }: History): number => earlier + done.length;

/** The work with actions that were read from storage before those in memory. */
export function withEarlier({ document, history }: Work, entries: readonly HistoryEntry[]): Work {
  const earlier = (history.earlier ?? 0) - entries.length;
  return {
    document,
    history: { ...history, done: [...entries, ...history.done], earlier: earlier > 0 ? earlier : undefined },
  };
}

/** The work with only the last actions in memory; the others lie in storage. */
export function withoutEarlier({ document, history }: Work, kept: number): Work {
  const gone = Math.max(0, history.done.length - kept);
  if (gone === 0) return { document, history };
  return {
    document,
    history: { ...history, done: history.done.slice(gone), earlier: (history.earlier ?? 0) + gone },
  };
}
