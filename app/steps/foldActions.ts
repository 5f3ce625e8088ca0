import { insertItems, itemOf, sentenceOf, type Part, type Session } from '@ordle/core';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { currentStopSet } from '@/state/viewSlice';

const put = (draft: Session, part: Part) => {
  const own = itemOf(draft.parts, part.id);
  const { layers, doubles, seams, steps, folded } = part;
  // What was changed elsewhere in the part meanwhile stays; only what it is made of and its steps are new.
  if (own) Object.assign(own, { layers, doubles, seams, steps, folded });
};

const CHANGED =
  'The part was changed while its steps were worked out, so nothing was made of them. Do it again as the part is now.';

/** Whether a part is still what the engine worked on; else its answer would undo what was done meanwhile. */
function isAsItWas(session: Session, part: Part): boolean {
  const document = selectDocument(store.getState());
  const now = document?.id === session.id ? itemOf(document.parts, part.id) : undefined;
  // The new take's piece has the number that was next then.
  return (
    document?.nextPiece === session.nextPiece &&
    now?.layers === part.layers &&
    now.steps === part.steps &&
    now.folded === part.folded
  );
}

/** Makes the first `count` steps of a part permanent: they become a take, which the part then stands on. */
export async function makePermanent(dispatch: AppDispatch, session: Session, part: Part, count: number) {
  try {
    const { part: folded, reference, unkept } = await engine.fold({ session, partId: part.id, count });
    if (!isAsItWas(session, part)) return void toast(CHANGED);
    const words = count === 1 ? '1 step' : `${count} steps`;
    dispatch(
      edit(`Make ${words} of ${part.name} permanent`, (draft) => {
        insertItems(draft.takes, [reference]);
        draft.nextPiece++;
        put(draft, folded);
      }),
    );
    dispatch(
      currentStopSet({ partId: part.id, stop: folded.steps.order.length === 0 ? 'cleaned' : 'played' }),
    );
    toast(
      unkept.length === 0
        ? `${words} became a take. What was played stays on record; As played brings it back.`
        : `${words} became a take, but this browser would not store it yet: it is kept in this tab, and storing it is tried again.`,
    );
  } catch (error) {
    toast(sentenceOf(error));
  }
}

/** Brings back what was played and the steps that were last made permanent. */
export async function bringBack(dispatch: AppDispatch, session: Session, part: Part) {
  try {
    const before = await engine.unfold({ session, partId: part.id });
    if (!isAsItWas(session, part)) return void toast(CHANGED);
    dispatch(edit(`Bring back the steps of ${part.name}`, (draft) => put(draft, before)));
    dispatch(currentStopSet({ partId: part.id, stop: 'cleaned' }));
  } catch (error) {
    toast(sentenceOf(error));
  }
}
