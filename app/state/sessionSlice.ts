import type { Session } from '@ordle/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Draft } from 'immer';
import { abandon, change, jump, mark, redo, undo, type History, type Work } from './history';

/** Whether the work is in the browser's storage. */
export type Saving =
  { state: 'saved'; at: number } | { state: 'waiting' } | { state: 'failed'; message: string };

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
      { payload }: PayloadAction<{ document: Session; history: History; savedAt: number | null }>,
    ): SessionState => ({
      work: { document: payload.document, history: payload.history },
      mayWrite: true,
      saving: payload.savedAt === null ? { state: 'waiting' } : { state: 'saved', at: payload.savedAt },
    }),
    closed: (): SessionState => initialState,
    worked: (state, { payload }: PayloadAction<Work>): SessionState => ({
      ...(state as SessionState),
      work: payload,
      saving: { state: 'waiting' },
    }),
    lockChanged: (state, { payload }: PayloadAction<boolean>): SessionState => ({
      ...(state as SessionState),
      mayWrite: payload,
    }),
    savingChanged: (state, { payload }: PayloadAction<Saving>): SessionState => ({
      ...(state as SessionState),
      saving: payload,
    }),
  },
});

export const { opened, closed, worked, lockChanged, savingChanged } = sessionSlice.actions;

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

/** Changes the session under a label a person would use; changes of one `gesture` become one entry of the history. */
export const edit = (
  label: string,
  recipe: (draft: Draft<Session>) => void,
  gesture: string | null = null,
): Thunk => rework((work) => change(work, label, recipe, gesture));

export const undoLast = (): Thunk => rework(undo);
export const redoLast = (): Thunk => rework(redo);

/** Goes to the point where `count` actions are done. */
export const jumpTo = (count: number): Thunk => rework((work) => jump(work, count));

/** Gives the present point of the history a name. */
export const markHere = (name: string): Thunk => rework((work) => mark(work, name));

/** Takes back everything a gesture did, without a trace in the history. */
export const abandonGesture = (gesture: string): Thunk => rework((work) => abandon(work, gesture));

export const selectDocument = (state: StateWithSession): Session | null =>
  state.session.work?.document ?? null;
export const selectMayWrite = (state: StateWithSession): boolean => state.session.mayWrite;
