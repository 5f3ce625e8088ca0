import { circleIn, type Session } from '@ordle/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Draft } from 'immer';
import { toast } from 'sonner';
import type { Saving } from '@/storage/saver';
import {
  abandon,
  change,
  jump,
  mark,
  undo,
  withEarlier,
  withoutEarlier,
  type HistoryEntry,
  type Work,
} from '@/history/history';

export interface SessionState {
  /** The open session and its history; null while none is open. */
  work: Work | null;
  /** False while another tab holds the session. */
  mayWrite: boolean;
  saving: Saving;
}

const initialState: SessionState = { work: null, mayWrite: true, saving: { state: 'waiting' } };

/** Work is replaced whole by the history's functions, so that the reducers here need no drafts of their own. */
export const sessionSlice = createSlice({
  name: 'session',
  initialState,
  reducers: {
    opened: (
      _,
      { payload }: PayloadAction<{ work: Work; mayWrite: boolean; saving: Saving }>,
    ): SessionState => payload,
    closed: (): SessionState => initialState,
    worked: (state, { payload }: PayloadAction<Work>): SessionState => ({
      ...(state as SessionState),
      work: payload,
      // What could not be saved is still not saved.
      saving: state.saving.state === 'failed' ? state.saving : { state: 'waiting' },
    }),
    /** Nothing more can be stored from here. */
    writingEnded: (state): SessionState => ({ ...(state as SessionState), mayWrite: false }),
    savingChanged: (state, { payload }: PayloadAction<Saving>): SessionState => ({
      ...(state as SessionState),
      saving: payload,
    }),
  },
});

export const { opened, closed, worked, writingEnded, savingChanged } = sessionSlice.actions;

interface StateWithSession {
  session: SessionState;
}
type Thunk = (
  dispatch: (action: ReturnType<typeof worked>) => unknown,
  getState: () => StateWithSession,
) => void;

function rework(next: (work: Work) => Work): Thunk {
  return (dispatch, getState) => {
    const { work, mayWrite } = getState().session;
    if (!work || !mayWrite) return;
    const after = next(work);
    if (after !== work) dispatch(worked(after));
  };
}

/**
 * Changes the session under a label a person would use; changes of one `gesture` become one entry of the history. What
 * would make parts wait for each other is refused with a sentence: nothing of it is stored.
 */
export const edit = (
  label: string,
  recipe: (draft: Draft<Session>) => void,
  gesture: string | null = null,
): Thunk =>
  rework((work) => {
    const after = change(work, label, recipe, gesture);
    const circle = after.document.parts === work.document.parts ? null : circleIn(after.document);
    if (!circle || circleIn(work.document)) return after;
    toast(circle.message, { duration: 8000 });
    return work;
  });

export const undoLast = (): Thunk => rework(undo);

/** Goes to the point where `count` actions are done. */
export const jumpTo = (count: number): Thunk => rework((work) => jump(work, count));

/** Takes up actions that were read from storage, or lets all but the last go that lie there. */
export const earlierRead = (entries: readonly HistoryEntry[]): Thunk =>
  rework((work) => withEarlier(work, entries));
export const earlierLetGo = (kept: number): Thunk => rework((work) => withoutEarlier(work, kept));

/** Gives the present point of the history a name. */
export const markHere = (name: string): Thunk => rework((work) => mark(work, name));

/** Takes back everything a gesture did, without a trace in the history. */
export const abandonGesture = (gesture: string): Thunk => rework((work) => abandon(work, gesture));

export const selectDocument = (state: StateWithSession): Session | null =>
  state.session.work?.document ?? null;
export const selectMayWrite = (state: StateWithSession): boolean => state.session.mayWrite;
