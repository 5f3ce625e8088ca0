import { itemOf, type AlongAction, type Note, type NoteEdits, type PartView } from '@ordle/core';
import { otherViewsStore } from '@/music/otherViews';
import { partViewStore } from '@/music/partViewStore';
import { selectionStore } from '@/state/selection';
import { selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { counted } from '@/words/counts';
import { applyEdits, applyEditsAlong, selectedNotes, targetNow, type EditTarget } from './editActions';

/** The selected notes of one part, in order of start, and where edits of them go. */
export interface SelectedInPart {
  target: EditTarget;
  view: PartView;
  notes: Note[];
}

/** The selected notes of every part that is shown: of the one looked at first, at its stop; of others as cleaned. */
export function selectedInAll(): SelectedInPart[] {
  const target = targetNow();
  const session = selectDocument(store.getState());
  if (!target || !session) return [];
  const { partId, ids, others } = selectionStore.get();
  const { view } = partViewStore.get();
  const own = partId === target.partId && view?.partId === partId ? selectedNotes(view, ids) : [];
  const elsewhere = otherViewsStore.get().flatMap((other): SelectedInPart[] => {
    const notes = selectedNotes(other.view, others.get(other.partId) ?? new Set());
    return notes.length === 0 || other.partId === target.partId || !itemOf(session.parts, other.partId)
      ? []
      : [{ target: { ...target, partId: other.partId, stop: 'cleaned' }, view: other.view, notes }];
  });
  return [...(view && own.length > 0 ? [{ target, view, notes: own }] : []), ...elsewhere];
}

/** The notes of all of them together, in order of start: what limits how far any of them can go. */
export const notesOfAll = (all: readonly SelectedInPart[]): Note[] =>
  all.length === 1 ? all[0].notes : all.flatMap(({ notes }) => notes).sort((a, b) => a.start - b.start);

/** "3 notes", "12 notes in 2 parts". */
export function countedInAll(all: readonly SelectedInPart[]): string {
  const notes = counted(
    all.reduce((sum, own) => sum + own.notes.length, 0),
    'note',
  );
  return all.length > 1 ? `${notes} in ${all.length} parts` : notes;
}

/**
 * Edits the selected notes of one part or of several, as one entry of the history; with an action their controllers
 * go along.
 */
export function applyToAll(
  dispatch: AppDispatch,
  label: string,
  all: readonly SelectedInPart[],
  make: (notes: Note[], newId: () => number) => NoteEdits,
  action: AlongAction | null = null,
): Promise<void> | void {
  const one = ({ target, view, notes }: SelectedInPart, gesture: string | null) => {
    const maker = (newId: () => number) => make(notes, newId);
    return action
      ? applyEditsAlong(dispatch, label, action, notes, maker, gesture, { target, view })
      : applyEdits(dispatch, label, maker, gesture, target);
  };
  if (all.length === 0) return;
  if (all.length === 1) return one(all[0], null);
  const gesture = crypto.randomUUID();
  return inSequence(all, (own) => one(own, gesture));
}

const inSequence = async (
  all: readonly SelectedInPart[],
  work: (own: SelectedInPart) => Promise<void> | void,
): Promise<void> => {
  for (const own of all) await work(own);
};
