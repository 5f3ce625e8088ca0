import { insertItems, itemOf, sentenceOf, type Part, type Session } from '@ordle/core';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { applyAnswer } from '@/state/answers';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';
import { currentStopSet } from '@/state/viewSlice';
import { rememberTable } from '@/storage/editTables';
import { counted } from '@/words/counts';

const put = (draft: Session, part: Part) => {
  const own = itemOf(draft.parts, part.id);
  const { layers, doubles, seams, steps, folded } = part;
  // What was changed elsewhere in the part meanwhile stays; only what it is made of and its steps are new.
  if (own) Object.assign(own, { layers, doubles, seams, steps, folded });
};

const CHANGED =
  'The part was changed while its steps were worked out, so nothing was made of them. Do it again as the part is now.';

/**
 * Writes what was made of a part; refused where the part is another by now, since it would undo what was done
 * meanwhile.
 */
function takeUp(session: Session, part: Part, apply: () => void): boolean {
  let done = false;
  const refuse = () => void toast(CHANGED);
  void applyAnswer({
    asked: { sessionId: session.id, partId: part.id },
    // The new take's piece has the number that was next then.
    fits: ({ session: now, part: own }) =>
      now.nextPiece === session.nextPiece &&
      own?.layers === part.layers &&
      own.steps === part.steps &&
      own.folded === part.folded,
    apply() {
      apply();
      done = true;
    },
    gone: refuse,
    changed: refuse,
  });
  return done;
}

/** Makes the first `count` steps of a part permanent: they become a take, which the part then stands on. */
export async function makePermanent(dispatch: AppDispatch, session: Session, part: Part, count: number) {
  try {
    const made = await engine.fold({ session, partId: part.id, count });
    const { part: folded, reference, unkept } = made;
    made.tables.forEach(rememberTable);
    const words = counted(count, 'step');
    const isDone = takeUp(session, part, () =>
      dispatch(
        edit(`Make ${words} of ${part.name} permanent`, (draft) => {
          insertItems(draft.takes, [reference]);
          draft.nextPiece++;
          put(draft, folded);
        }),
      ),
    );
    if (!isDone) return;
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
    const { part: before, tables } = await engine.unfold({ session, partId: part.id });
    tables.forEach(rememberTable);
    const isDone = takeUp(session, part, () =>
      dispatch(edit(`Bring back the steps of ${part.name}`, (draft) => put(draft, before))),
    );
    if (!isDone) return;
    dispatch(currentStopSet({ partId: part.id, stop: 'cleaned' }));
  } catch (error) {
    toast(sentenceOf(error));
  }
}
