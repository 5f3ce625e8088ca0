import type { Reference } from '@ordle/core';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';

/** Lays a score that was found in the playing of some parts beside them, as one action. */
export function layBeside(dispatch: AppDispatch, partIds: readonly string[], reference: Reference) {
  dispatch(
    edit(
      `Lay “${reference.name}” beside ${partIds.length === 1 ? 'a part' : `${partIds.length} parts`}`,
      (draft) => {
        for (const id of partIds) draft.parts.byId[id].reference = reference;
      },
    ),
  );
}
