import {
  isByHand,
  insertItems,
  activePart,
  listOf,
  itemOf,
  createStep,
  goesAlong,
  kindOf,
  mergeEdits,
  noEdits,
  sentenceOf,
  type AlongAction,
  type CurveEdit,
  type Note,
  type NoteEdits,
  type Part,
  type Session,
  MOST_INLINE,
  mergeCurveEdits,
  type EditsStep,
  type PartView,
} from '@ordle/core';
import { original } from 'immer';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { applyAnswer, meet } from '@/state/answers';
import { abandonGesture, edit } from '@/state/sessionSlice';
import { selectedRows, selectionStore } from '@/state/selection';
import { store, type AppDispatch } from '@/state/store';
import { currentStopSet } from '@/state/viewSlice';
import { mergedAsTable } from './manyEdits';
import { partViewStore } from '@/music/partViewStore';
import { stopAt, type Stop } from '@/music/stops';

/**
 * Where hand edits made at a stop belong: into a step of edits that is there already, or into a new one at a place in
 * the line.
 */
export interface EditPlace {
  /** Index of the step that takes the edits, or where it is put in. */
  index: number;
  stepId: string | null;
}

/**
 * At "cleaned" edits go to the end of the line; at a step of edits into it; at any other stop right after it, so that
 * what was seen is what is edited.
 */
export function placeForEdits(part: Part, stop: Stop): EditPlace {
  const at = (index: number) => {
    const placed = listOf(part.steps)[index];
    return placed && isByHand(placed.step) && placed.step.on && Object.keys(placed.step.where).length === 0
      ? placed.id
      : null;
  };
  if (stop.id === 'cleaned') {
    const last = part.steps.order.length - 1;
    return at(last) ? { index: last, stepId: at(last) } : { index: part.steps.order.length, stepId: null };
  }
  if (stop.id !== 'played' && at(stop.index - 1))
    return { index: stop.index - 1, stepId: at(stop.index - 1) };
  return { index: stop.index, stepId: at(stop.index) };
}

/** Makes edits of notes with fresh ids for added ones. */
export type EditMaker = (newId: () => number) => NoteEdits;

/**
 * Where hand edits go: fixed when a person asks for them, so that they land there whatever is looked at when they are
 * worked out.
 */
export interface EditTarget {
  sessionId: string;
  partId: string;
  /** Id of the current stop. */
  stop: string;
}

/** The active part at its stop; null where nothing can be edited. */
export function targetNow(): EditTarget | null {
  const { view, session: state } = store.getState();
  const session = state.work?.document;
  const { partId } = view;
  const part = session && activePart(session, partId);
  if (!session || !part || !state.mayWrite) return null;
  return { sessionId: session.id, partId: part.id, stop: stopAt(part, view.stops[part.id]).id };
}

/**
 * Writes hand edits into the line of a part, as one action; added notes are selected afterwards where the part is
 * still looked at.
 */
export function applyEdits(
  dispatch: AppDispatch,
  label: string,
  make: EditMaker,
  gesture: string | null = null,
  target: EditTarget | null = targetNow(),
): Promise<void> | void {
  if (!target) return;
  const gone = () =>
    void toast(`“${label}” was not done: the part was left or removed before it could be worked out.`);
  const found = meet(target);
  if (!found?.part) return gone();
  const { session, part } = found;
  const stop = stopAt(part, target.stop);
  const place = placeForEdits(part, stop);
  let nextId = session.nextNoteId;
  const made = make(() => nextId++);
  const count = Object.keys(made.change).length + made.delete.length + made.add.length;
  if (count + (made.curves?.length ?? 0) + (made.columns?.id.length ?? 0) === 0) return;
  const id = place.stepId ?? crypto.randomUUID();
  const standing = place.stepId === null ? null : part.steps.byId[place.stepId].step;
  const before = standing && isByHand(standing) ? standing : createStep('edits');
  // Notes that are added stand in the step itself, however many: a table holds what is done to those that are there.
  const named = [made, before].reduce(
    (sum, each) => sum + Object.keys(each.change).length + each.delete.length,
    0,
  );
  if (made.columns || named > MOST_INLINE) {
    return mergedAsTable(before, made).then(
      (merged) =>
        applyAnswer({
          asked: target,
          // Worked out for a step that is another by now: worked out anew for what stands there.
          fits: (now) => now.part?.steps === part.steps,
          changed: () => applyEdits(dispatch, label, make, gesture, target),
          gone,
          apply() {
            const curves = mergeCurveEdits(before.curves ?? [], made.curves ?? []);
            const all = { ...merged, change: {}, delete: [], ...(curves.length > 0 && { curves }) };
            dispatch(
              edit(label, (draft) => putEdits(draft, part.id, { ...place, id }, all, nextId), gesture),
            );
            afterEdits(dispatch, part, { ...place, id }, stop, made);
          },
        }),
      (error: unknown) => void toast(sentenceOf(error)),
    );
  }
  dispatch(edit(label, (draft) => writeEdits(draft, part.id, { ...place, id }, made, nextId), gesture));
  afterEdits(dispatch, part, { ...place, id }, stop, made);
}

/** Selects what was added, and makes the step that took the edits the current one. */
function afterEdits(
  dispatch: AppDispatch,
  part: Part,
  { id, ...place }: EditPlace & { id: string },
  stop: Stop,
  made: NoteEdits,
) {
  const { view, session } = store.getState();
  const document = session.work?.document;
  const isActive = document !== undefined && activePart(document, view.partId)?.id === part.id;
  const added = made.add.flatMap((note) => (note.id === undefined ? [] : [note.id]));
  if (added.length > 0 && isActive) selectionStore.select(part.id, added);
  else if (added.length > 0) selectionStore.replaceElsewhere(part.id, added);
  if (stop.id !== 'cleaned' && stop.id !== id) {
    dispatch(currentStopSet({ partId: part.id, stop: id }));
    toast(placeInWords(part, place));
  }
}

/**
 * Edits of notes that take their controllers along, as one action, where the person has not switched that off. The
 * engine is asked for the controllers only when the part has some.
 */
export function applyEditsAlong(
  dispatch: AppDispatch,
  label: string,
  action: AlongAction,
  notes: readonly Note[],
  make: EditMaker,
  gesture: string | null = null,
  at: { target: EditTarget | null; view: PartView | null } = {
    target: targetNow(),
    view: partViewStore.get().view,
  },
): Promise<void> | void {
  const { target, view: shown } = at;
  const { view, session: state } = store.getState();
  const session = state.work?.document;
  const part = session && itemOf(session.parts, target?.partId);
  const moves =
    action.kind === 'delete' || action.ticks !== 0 || (action.kind === 'copy' && !!action.semitones);
  const takes = (lane: string) => goesAlong(lane) || (action.kind === 'copy' && lane.startsWith('key'));
  if (
    !session ||
    !target ||
    !part ||
    !view.along ||
    !moves ||
    shown?.partId !== part.id ||
    !shown.lanesThere.some(({ lane }) => takes(lane))
  ) {
    return applyEdits(dispatch, label, make, gesture, target);
  }
  const stop = stopAt(part, target.stop).index;
  const ids = notes.map(({ id }) => id);
  return engine.alongEdits({ session, partId: part.id, stop, ids, action }).then(
    (curves) => applyEdits(dispatch, label, (newId) => ({ ...make(newId), curves }), gesture, target),
    (error: unknown) => void toast(sentenceOf(error)),
  );
}

/** Writes edits of lanes, as one action; those of a gesture take the place of what it wrote before. */
export function applyLaneEdits(
  dispatch: AppDispatch,
  label: string,
  curves: CurveEdit[],
  gesture: string | null = null,
) {
  if (gesture !== null) dispatch(abandonGesture(gesture));
  applyEdits(dispatch, label, () => ({ ...noEdits(), curves }), gesture);
}

/** Puts the whole of a step's edits in the place of what it held. */
function putEdits(
  draft: Session,
  partId: string,
  place: EditPlace & { id: string },
  all: Omit<NoteEdits, 'columns'>,
  nextId: number,
) {
  const steps = itemOf(draft.parts, partId)?.steps;
  if (!steps) return;
  draft.nextNoteId = Math.max(draft.nextNoteId, nextId);
  const step = {
    ...(place.stepId === null ? createStep('edits') : original(steps.byId[place.id])?.step),
    ...closed(all),
  };
  insertItems(steps, [{ id: place.id, step: step as EditsStep }], place.index);
}

function writeEdits(
  draft: Session,
  partId: string,
  place: EditPlace & { id: string },
  made: NoteEdits,
  nextId: number,
) {
  const steps = itemOf(draft.parts, partId)?.steps;
  if (!steps) return;
  draft.nextNoteId = Math.max(draft.nextNoteId, nextId);
  if (place.stepId === null) {
    insertItems(steps, [{ id: place.id, step: { ...createStep('edits'), ...closed(made) } }], place.index);
    return;
  }
  const { step } = steps.byId[place.id];
  // Merged from what stands in the document, not from its draft: a draft of each of 100,000 changes costs seconds.
  if (isByHand(step)) Object.assign(step, closed(mergeEdits(original(step) ?? step, made)));
}

/**
 * Edits whose lists are frozen, so that they are taken into the document as they are instead of being gone through
 * for drafts.
 */
function closed(edits: NoteEdits): NoteEdits {
  Object.values(edits).forEach((list) => Object.freeze(list));
  return edits;
}

function placeInWords(part: Part, { index }: EditPlace): string {
  const before = listOf(part.steps)[index - 1]?.step;
  const after = listOf(part.steps)[index]?.step;
  const name = (step: typeof before) => (step ? kindOf(step.kind).title : null);
  const next = after && isByHand(after) ? name(listOf(part.steps)[index + 1]?.step) : name(after);
  return `Hand edits stand after ${name(before) ?? 'As played'}${next ? ` and before ${next}` : ''}.`;
}

/** The selected notes of a view, in order of start. */
export function selectedNotes(view: PartView | null, ids: ReadonlySet<number>): Note[] {
  if (!view || ids.size === 0) return [];
  const selected: Note[] = [];
  const { notes, channel } = view;
  const rows = selectedRows(notes.id, ids);
  for (let row = 0; row < notes.length; row++) {
    if (rows[row] === 0) continue;
    selected.push({
      id: notes.id[row],
      start: notes.start[row],
      end: notes.end[row],
      pitch: notes.pitch[row],
      velocity: notes.velocity[row],
      release: 64,
      channel: channel[row],
    });
  }
  return selected;
}
