import { createStorage } from '@/storage/createStorage';
import { createLocks } from '@/storage/locks';
import { readView, writeView } from '@/storage/preferences';
import { askToKeep } from '@/storage/upkeep';
import { whenOver } from '@/ui/underWay';
import { createWorkspace } from './createWorkspace';
import { beforeSteppingAside, onOpeningFault, openingFault } from '@/storage/database';
import { writingEnded } from '@/state/sessionSlice';
import { store } from '@/state/store';

/** This tab's stored sessions, and the one it works on. */
export const storage = createStorage({
  locks: createLocks(),
  onSaving(id, saving) {
    workspace.onSaving(id, saving);
    // From the first action on there is something that can be had nowhere else.
    const done = store.getState().session.work?.history.done.length ?? 0;
    if (saving.state === 'saved' && done > 0) void askToKeep();
  },
});
export const workspace = createWorkspace({ store, storage, readView, writeView });

// A newer Ordle takes over what is stored: first what is being recorded here ends and what is unsaved is stored, then
// nothing more.
beforeSteppingAside(async () => {
  await new Promise<void>((resolve) => whenOver(resolve, (work) => work === 'the recording'));
  storage.saver.flush();
  await Promise.all(storage.saver.allUnsaved().map(({ work }) => storage.saver.settled(work.document.id)));
});
onOpeningFault(() => {
  if (openingFault()?.code === 'database-newer') store.dispatch(writingEnded());
});

if (typeof window !== 'undefined') {
  const flush = () => {
    storage.saver.flush();
    workspace.keepView();
  };
  window.addEventListener('pagehide', flush);
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'hidden') flush();
  });
  window.addEventListener('beforeunload', (event) => {
    flush();
    // Where saving fails, closing the tab would lose the work: the browser asks.
    if (storage.saver.allUnsaved().some(({ saving }) => saving.state === 'failed')) event.preventDefault();
  });
}
