import { sentenceOf, type Session } from '@ordle/core';
import { lockSession, type SessionLock } from '@/storage/lock';
import { readView, writeView } from '@/storage/marks';
import { loadSession, saveSession } from '@/storage/sessions';
import { emptyHistory } from './history';
import { closed, lockChanged, opened, savingChanged } from './sessionSlice';
import { store } from './store';
import { initialView, viewRestored, viewSchema } from './viewSlice';

/** Milliseconds of quiet after a change before it is saved, and the longest a change may wait. */
const QUIET_MS = 250;
const LONGEST_MS = 900;

let lock: SessionLock | null = null;
let timer: ReturnType<typeof setTimeout> | null = null;
let firstUnsaved = 0;
let savedWork: unknown = null;
let savedView: unknown = null;
let openings = 0;
let stopWatching: (() => void) | null = null;

/** Opens a stored session in this tab: loads it, asks for the right to write, and saves every change from now on. */
export async function openSession(id: string): Promise<void> {
  if (store.getState().session.work?.document.id === id && lock) return;
  closeSession();
  const turn = ++openings;
  const { document, history, changedAt } = await loadSession(id);
  const view = viewSchema.safeParse(await readView(id));
  // Closed, or another session asked for, while this one was being read.
  if (turn !== openings) return;
  store.dispatch(opened({ document, history, savedAt: changedAt }));
  store.dispatch(viewRestored(view.success ? view.data : initialView));
  savedWork = store.getState().session.work;
  savedView = store.getState().view;
  let first = true;
  lock = lockSession(id, (mayWrite) => {
    const waited = !first && mayWrite;
    first = false;
    store.dispatch(lockChanged(mayWrite));
    // Another tab wrote while this one looked on: take up its work before going on.
    if (waited) void reload(id);
  });
  stopWatching = store.subscribe(onChange);
}

async function reload(id: string) {
  try {
    const { document, history, changedAt } = await loadSession(id);
    store.dispatch(opened({ document, history, savedAt: changedAt }));
    savedWork = store.getState().session.work;
  } catch (error) {
    store.dispatch(savingChanged({ state: 'failed', message: sentenceOf(error) }));
  }
}

/** Saves what is waiting and lets the session go. */
export function closeSession(): void {
  openings++;
  flush();
  stopWatching?.();
  stopWatching = null;
  lock?.release();
  lock = null;
  if (store.getState().session.work) store.dispatch(closed());
}

/** Stores a session that was just made (imported, demo) so that it can be opened. */
export async function addSession(document: Session): Promise<void> {
  await saveSession(document, emptyHistory());
}

function onChange() {
  const { view, session } = store.getState();
  if (!session.work || (session.work === savedWork && view === savedView)) return;
  if (!session.mayWrite) return;
  const now = Date.now();
  firstUnsaved ||= now;
  if (timer) clearTimeout(timer);
  timer = setTimeout(flush, Math.max(0, Math.min(QUIET_MS, firstUnsaved + LONGEST_MS - now)));
}

/** Writes whatever is unsaved right away. */
function flush() {
  if (timer) clearTimeout(timer);
  timer = null;
  firstUnsaved = 0;
  const { view, session } = store.getState();
  const { work } = session;
  if (!work || !session.mayWrite) return;
  if (view !== savedView) {
    savedView = view;
    void writeView(work.document.id, view);
  }
  if (work === savedWork) return;
  savedWork = work;
  saveSession(work.document, work.history).then(
    ({ changedAt, stored }) => {
      if (store.getState().session.work !== work) return;
      store.dispatch(
        savingChanged(
          stored
            ? { state: 'saved', at: changedAt }
            : {
                state: 'failed',
                message:
                  'This browser refuses storage: the work is kept only until this tab is closed. Export what you need.',
              },
        ),
      );
    },
    (error: unknown) => {
      savedWork = null;
      store.dispatch(savingChanged({ state: 'failed', message: `Not saved: ${sentenceOf(error)}` }));
    },
  );
}

if (typeof window !== 'undefined') {
  window.addEventListener('pagehide', flush);
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'hidden') flush();
  });
}
