import { createStorage } from '@/storage/createStorage';
import { createLocks } from '@/storage/locks';
import { readView, writeView } from '@/storage/preferences';
import { createWorkspace } from './createWorkspace';
import { store } from '@/state/store';

/** This tab's stored sessions, and the one it works on. */
export const storage = createStorage({
  locks: createLocks(),
  onSaving: (id, saving) => workspace.onSaving(id, saving),
});
export const workspace = createWorkspace({ store, storage, readView, writeView });

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
