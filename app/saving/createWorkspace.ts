import { sentenceOf } from '@ordle/core';
import type { Claim } from '@/storage/locks';
import type { Saving } from '@/storage/saver';
import type { LoadedSession, Storage } from '@/storage/createStorage';
import { withIdentity } from '@/history/history';
import { ENTRIES_IN_MEMORY } from '@/storage/historyRecords';
import { closed, earlierLetGo, earlierRead, opened, savingChanged } from '@/state/sessionSlice';
import type { AppStore } from '@/state/store';
import {
  initialView,
  viewRestored,
  viewSchema,
  barsWindowsRestored,
  barsWindowsSchema,
  windowsRestored,
  windowsSchema,
  type View,
  type BarsWindows,
  type Windows,
} from '@/state/viewSlice';

/** Milliseconds of quiet after the view has changed before it is kept. */
const VIEW_QUIET_MS = 400;
/** Actions read at a time beyond the one that is looked at. */
const MORE_ENTRIES = 500;

export interface WorkspaceOptions {
  store: AppStore;
  storage: Storage;
  readView(id: string): Promise<unknown>;
  writeView(id: string, view: StoredView): Promise<void>;
}

/** What of the view is stored. */
interface Seen {
  view: View;
  windows: Windows;
  barsWindows: BarsWindows;
}

/** Where a person left a session. */
export type StoredView = View & Partial<Omit<Seen, 'view'>>;

/** The one session a tab works on: opened, saved with every change, closed. */
export interface Workspace {
  /**
   * Opens a session: asks for the right to write, loads it, and saves every change from now on. Throws as loading
   * does.
   */
  open(id: string): Promise<void>;
  /** Lets the session go. What is unsaved is saved now, or stays in this tab until that works. */
  close(): void;
  /** Stores at once how the open session is looked at, as when the page is about to go. */
  keepView(): void;
  /** Keeps the open session under a new id, for when it can no longer be saved under its own. Gives the id. */
  keepCopy(newId: string): Promise<string | null>;
  /**
   * Sees to it that the point where `count` actions are done can be gone to: reads from storage what of the way is
   * not in memory.
   */
  reach(count: number): Promise<void>;
  /** To be called with every change of how saving a session stands. */
  onSaving(id: string, saving: Saving): void;
}

export function createWorkspace({ store, storage, readView, writeView }: WorkspaceOptions): Workspace {
  const { locks, saver } = storage;
  let openId: string | null = null;
  let claim: Claim | null = null;
  let openings = 0;
  let saved: Seen | null = null;
  let viewTimer: ReturnType<typeof setTimeout> | null = null;
  let stopWatching: (() => void) | null = null;

  function show({ document, history, changedAt }: LoadedSession, mayWrite: boolean) {
    const work = { document, history };
    const inHand = saver.unsaved(document.id);
    // Work that is still waiting here is gone on with; how saving it stands is known.
    saver.track(inHand ?? work, inHand ? null : changedAt);
    const saving = saver.saving(document.id) ?? { state: 'waiting' };
    store.dispatch(opened({ work: inHand ?? work, mayWrite, saving }));
  }

  function onChange() {
    const { session } = store.getState();
    if (!session.work || !session.mayWrite) return;
    saver.offer(session.work);
    if (!isSeenSaved()) viewTimer ??= setTimeout(keepView, VIEW_QUIET_MS);
  }

  function keepView() {
    if (viewTimer) clearTimeout(viewTimer);
    viewTimer = null;
    const { session } = store.getState();
    if (!session.work || !session.mayWrite || isSeenSaved()) return;
    saved = seen();
    const { view, windows, barsWindows } = saved;
    void writeView(session.work.document.id, { ...view, windows, barsWindows });
  }

  function seen(): Seen {
    const { view, windows, barsWindows } = store.getState();
    return { view, windows, barsWindows };
  }

  function isSeenSaved(): boolean {
    const { view, windows, barsWindows } = store.getState();
    return view === saved?.view && windows === saved.windows && barsWindows === saved.barsWindows;
  }

  /** The other tab has let go: its work is taken up before anything can be changed here. */
  async function takeOver(id: string, turn: number) {
    try {
      const loaded = await storage.load(id);
      if (turn === openings) show(loaded, true);
    } catch (error) {
      if (turn !== openings) return;
      store.dispatch(savingChanged({ state: 'failed', message: sentenceOf(error), retryAt: null }));
    }
  }

  function close() {
    openings++;
    keepView();
    stopWatching?.();
    stopWatching = null;
    if (openId !== null) saver.close(openId);
    openId = null;
    claim?.release();
    claim = null;
    if (store.getState().session.work) store.dispatch(closed());
  }

  async function open(id: string) {
    if (openId === id) return;
    close();
    const turn = ++openings;
    let grantedEarly = false;
    const asked = locks.claim(id, () => {
      if (openId === id) void takeOver(id, turn);
      else grantedEarly = true;
    });
    try {
      // First the right to write, then the document: what is read is then the newest there is.
      const mayWrite = await asked.first;
      const loaded = await storage.load(id);
      const stored = await readView(id);
      const view = viewSchema.safeParse(stored);
      const windows = windowsSchema.safeParse((stored as Partial<StoredView> | undefined)?.windows);
      const bars = barsWindowsSchema.safeParse((stored as Partial<StoredView> | undefined)?.barsWindows);
      // Closed, or another session asked for, while this one was being read.
      if (turn !== openings) return asked.release();
      claim = asked;
      openId = id;
      show(loaded, mayWrite);
      store.dispatch(viewRestored(view.success ? view.data : initialView));
      store.dispatch(windowsRestored(windows.success ? windows.data : {}));
      store.dispatch(barsWindowsRestored(bars.success ? bars.data : {}));
      saved = seen();
      stopWatching = store.subscribe(onChange);
      if (grantedEarly) await takeOver(id, turn);
    } catch (error) {
      asked.release();
      throw error;
    }
  }

  return {
    open,
    close,
    keepView,
    async keepCopy(newId) {
      const work = store.getState().session.work;
      if (!work) return null;
      const name = `${work.document.name}, copy`.slice(0, 200);
      const { document, history } = withIdentity(work, { id: newId, name });
      if (openId !== null) saver.forget(openId);
      store.dispatch(savingChanged({ state: 'waiting' }));
      await storage.add(document, history);
      return newId;
    },
    async reach(count) {
      const before = store.getState().session.work;
      const earlier = before?.history.earlier ?? 0;
      if (!before || count >= earlier) return;
      const entries = await storage.earlier(before.document.id, Math.max(0, count - MORE_ENTRIES), earlier);
      const now = store.getState().session.work;
      if (now?.document.id === before.document.id && now.history.earlier === earlier)
        store.dispatch(earlierRead(entries));
    },
    onSaving(id, saving) {
      if (id !== openId) return;
      store.dispatch(savingChanged(saving));
      const done = store.getState().session.work?.history.done.length ?? 0;
      if (saving.state === 'saved' && done > 2 * ENTRIES_IN_MEMORY)
        store.dispatch(earlierLetGo(ENTRIES_IN_MEMORY));
    },
  };
}
