import { itemOf, listedParts, movedParts, placeBeside, type PartsPlace } from '@ordle/core';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { counted } from '@/words/counts';

/** "Marimba", or "3 parts". */
function whom(ids: readonly string[]): string {
  const session = selectDocument(store.getState());
  const [one] = ids;
  return ids.length === 1 && session
    ? (itemOf(session.parts, one)?.name ?? 'part')
    : counted(ids.length, 'part');
}

/** Mutes or solos some parts together, or no longer. */
export function switchParts(
  dispatch: AppDispatch,
  ids: readonly string[],
  name: string,
  what: 'muted' | 'soloed',
  isOn: boolean,
) {
  const word = what === 'muted' ? (isOn ? 'Mute' : 'Unmute') : isOn ? 'Solo' : 'Unsolo';
  dispatch(
    edit(`${word} ${name}`, (draft) => {
      for (const id of ids) {
        const part = itemOf(draft.parts, id);
        if (part) part[what] = isOn;
      }
    }),
  );
}

/** Puts parts into a group, or with undefined into none. They stand together from then on. */
export function setGroup(
  dispatch: AppDispatch,
  ids: readonly string[],
  group: string | undefined,
  label = group === undefined ? `Take ${whom(ids)} out of the group` : `Group ${whom(ids)} as ${group}`,
) {
  dispatch(
    edit(label, (draft) => {
      for (const id of ids) {
        const part = itemOf(draft.parts, id);
        if (!part) continue;
        if (group === undefined) delete part.group;
        else part.group = group;
      }
      draft.parts.order = listedParts(draft.parts).map(({ id }) => id);
    }),
  );
}

/** Puts parts into a new group, whose name nobody has yet. */
export function groupParts(dispatch: AppDispatch, ids: readonly string[]) {
  const session = selectDocument(store.getState());
  const taken = new Set(Object.values(session?.parts.byId ?? {}).map(({ group }) => group));
  let number = 1;
  while (taken.has(`Group ${number}`)) number++;
  setGroup(dispatch, ids, `Group ${number}`);
}

export function renameGroup(dispatch: AppDispatch, group: string, typed: string) {
  const name = typed.trim().slice(0, 200);
  if (name === '' || name === group) return;
  dispatch(
    edit(`Rename ${group} to ${name}`, (draft) => {
      for (const part of Object.values(draft.parts.byId)) if (part.group === group) part.group = name;
      draft.parts.order = listedParts(draft.parts).map(({ id }) => id);
    }),
  );
}

/** Moves parts to another place of the list; they join the group of the part they are put beside. */
export function moveParts(dispatch: AppDispatch, ids: readonly string[], place: PartsPlace) {
  const session = selectDocument(store.getState());
  const moved = session && movedParts(session.parts, new Set(ids), place);
  if (!moved) return;
  dispatch(
    edit(`Move ${whom(ids)} in the list`, (draft) => {
      draft.parts.order = [...moved.order];
      for (const id of ids) {
        const part = itemOf(draft.parts, id);
        if (!part) continue;
        if (moved.group === undefined) delete part.group;
        else part.group = moved.group;
      }
    }),
  );
}

/** Moves a part one place up or down the list. */
export function stepPart(dispatch: AppDispatch, id: string, by: -1 | 1) {
  const session = selectDocument(store.getState());
  const place = session && placeBeside(session.parts, id, by);
  if (place) moveParts(dispatch, [id], place);
}
