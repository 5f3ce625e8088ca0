import type { Part } from '@ordle/core';
import { otherViewsStore } from '@/music/otherViews';
import { partViewStore } from '@/music/partViewStore';
import { selectionStore, type Selection } from '@/state/selection';
import { counted } from '@/words/counts';

/** The notes a step is limited to, by part. */
export type OnlyNotes = ReadonlyMap<string, readonly number[]>;

const NONE: OnlyNotes = new Map();

/**
 * The selected notes that a new step would be limited to, by part; none where nothing is selected or everything is:
 * then whole parts are meant, which go on holding when notes are added.
 */
export function selectedForSteps(part: Part | null, selection: Selection = selectionStore.get()): OnlyNotes {
  const { partId, ids, others } = selection;
  const { view } = partViewStore.get();
  const mine: [string, readonly number[]][] =
    part && partId === part.id && ids.size > 0 ? [[part.id, [...ids]]] : [];
  const elsewhere = otherViewsStore.get().flatMap(({ partId: id }): [string, readonly number[]][] => {
    const own = others.get(id);
    return own && id !== part?.id ? [[id, [...own]]] : [];
  });
  const isAll =
    elsewhere.length === 0 && view?.partId === part?.id && mine[0]?.[1].length === view?.notes.length;
  return isAll ? NONE : new Map([...mine, ...elsewhere]);
}

/** "the 3 selected notes", "the 12 selected notes in 2 parts". */
export function onlyInWords(only: OnlyNotes): string {
  const count = [...only.values()].reduce((sum, ids) => sum + ids.length, 0);
  const notes = count === 1 ? 'the selected note' : `the ${counted(count, 'selected note')}`;
  return only.size > 1 ? `${notes} in ${only.size} parts` : notes;
}
