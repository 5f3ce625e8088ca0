import { collisionsOf, countOfCollisions, mendCollisions, type Timeline } from '@ordle/core';
import { toast } from 'sonner';
import { partViewStore } from '@/music/partViewStore';
import { selectedRows, selectionStore } from '@/state/selection';
import type { AppDispatch } from '@/state/store';
import { applyEdits } from './editActions';
import { inTurn } from './inTurn';
import { counted } from '@/words/counts';

/** Parts with more notes are not looked through after every move. */
const MOST_NOTES = 200_000;
const TOAST = 'collisions';

/** Once the selected notes are where they were put: says what they came to lie on, and offers to put it right. */
export function tellCollisions(dispatch: AppDispatch, partId: string, isDrums: boolean, timeline: Timeline) {
  void inTurn(() => {
    const { view } = partViewStore.get();
    const selection = selectionStore.get();
    if (view?.partId !== partId || selection.partId !== partId || view.notes.length > MOST_NOTES) return;
    const notes = { ...view.notes, channel: view.channel };
    const found = collisionsOf(notes, selectedRows(notes.id, selection.ids), isDrums);
    const count = countOfCollisions(found);
    // One word about it at a time, and none about what has been put right.
    if (count === 0) return void toast.dismiss(TOAST);
    const lies = counted(count, 'note lies', 'notes lie');
    const on =
      found.flams.length > 0
        ? 'on the very tick of another stroke of the instrument'
        : 'over another of the same pitch';
    toast(`${lies} ${on}.`, {
      id: TOAST,
      duration: 9000,
      action: {
        label: found.flams.length > 0 ? 'Make it a flam' : 'Cut it',
        onClick: () =>
          void applyEdits(dispatch, 'Put overlapping notes right', () =>
            mendCollisions(notes, found, timeline),
          ),
      },
    });
  });
}
