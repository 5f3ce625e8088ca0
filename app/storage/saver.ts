import { OrdleError, sentenceOf } from '@ordle/core';
import type { Work } from '@/history/history';

/** How saving a session stands. "saved" is only said of what is stored. */
export type Saving =
  | { state: 'saved'; at: number }
  | { state: 'waiting' }
  /** `retryAt` is when it is tried again, in milliseconds since 1970; null where trying again cannot help. */
  | { state: 'failed'; message: string; retryAt: number | null };

/** Milliseconds of quiet after a change before it is saved, and the longest a change may wait. */
const QUIET_MS = 250;
const LONGEST_MS = 900;
/** Pauses after a failure: the first, doubled each time, and the longest. */
const FIRST_PAUSE_MS = 1000;
const LONGEST_PAUSE_MS = 60_000;
/** Failures that trying again cannot mend. */
const FINAL = new Set(['session-deleted']);

export interface SaverOptions {
  /**
   * Stores some work; gives when. `base` is when it was last known to be stored, null for work that never was. Writes
   * of one session that overlap end in the order in which they began.
   */
  write(work: Work, base: number | null): Promise<number>;
  onChange(id: string, saving: Saving): void;
  /** Called when a session that was closed unsaved has been saved after all. */
  onSettled?(id: string): void;
  /** A clock and timers; the browser's own unless a test gives others. */
  now?(): number;
  later?(work: () => void, ms: number): () => void;
}

/** Saves sessions, and keeps what could not be saved until it is. */
export interface Saver {
  /** Takes up a session as it is stored, or as it is before it was ever stored (`savedAt` null). */
  track(work: Work, savedAt: number | null): void;
  /** The newest state of a session; saved soon. */
  offer(work: Work): void;
  /** Saves what is waiting right away, of one session or of all. */
  flush(id?: string): void;
  /** Tries again now what failed. */
  retry(id: string): void;
  /** Nobody works on the session any more. What is unsaved stays here and is still tried. */
  close(id: string): void;
  /** Forgets a session, saved or not. */
  forget(id: string): void;
  /** Work that is not stored, of one session or of all. */
  unsaved(id: string): Work | null;
  /** Whether a session that is known here is stored in some state. */
  wasStored(id: string): boolean;
  allUnsaved(): { work: Work; saving: Saving }[];
  saving(id: string): Saving | null;
  /** Resolves when a session is saved or saving it has failed. */
  settled(id: string): Promise<Saving>;
}

interface Entry {
  work: Work;
  savedWork: Work | null;
  base: number | null;
  saving: Saving;
  open: boolean;
  /** When the oldest unsaved change was made; 0 while there is none. */
  firstChange: number;
  tries: number;
  /** Number of the last write that was begun. */
  begun: number;
  stopTimer: (() => void) | null;
  waiting: ((saving: Saving) => void)[];
}

const browserTimer = (work: () => void, ms: number) => {
  const timer = setTimeout(work, ms);
  return () => clearTimeout(timer);
};

export function createSaver({
  write,
  onChange,
  onSettled = () => undefined,
  now = Date.now,
  later = browserTimer,
}: SaverOptions): Saver {
  const entries = new Map<string, Entry>();
  const isUnsaved = (entry: Entry) => entry.work !== entry.savedWork;

  function set(id: string, entry: Entry, saving: Saving) {
    entry.saving = saving;
    if (saving.state !== 'waiting') entry.waiting.splice(0).forEach((resolve) => resolve(saving));
    onChange(id, saving);
  }

  function stop(entry: Entry) {
    entry.stopTimer?.();
    entry.stopTimer = null;
  }

  function schedule(id: string, entry: Entry, ms: number) {
    stop(entry);
    entry.stopTimer = later(() => attempt(id, entry), ms);
  }

  function attempt(id: string, entry: Entry) {
    stop(entry);
    entry.firstChange = 0;
    const { work } = entry;
    const turn = ++entry.begun;
    write(work, entry.base).then(
      (at) => {
        if (entries.get(id) !== entry) return;
        entry.base = at;
        entry.savedWork = work;
        entry.tries = 0;
        if (!isUnsaved(entry)) {
          stop(entry);
          set(id, entry, { state: 'saved', at });
          if (!entry.open) {
            entries.delete(id);
            onSettled(id);
          }
        } else if (turn === entry.begun && !entry.stopTimer) schedule(id, entry, QUIET_MS);
      },
      (error: unknown) => {
        // A newer write is under way: what it brings counts.
        if (entries.get(id) !== entry || turn !== entry.begun) return;
        const pause = Math.min(LONGEST_PAUSE_MS, FIRST_PAUSE_MS * 2 ** entry.tries++);
        const final = error instanceof OrdleError && FINAL.has(error.code);
        if (!final) schedule(id, entry, pause);
        set(id, entry, {
          state: 'failed',
          message: sentenceOf(error),
          retryAt: final ? null : now() + pause,
        });
      },
    );
  }

  return {
    track(work, savedAt) {
      const id = work.document.id;
      const known = entries.get(id);
      if (known && isUnsaved(known) && known.work === work) {
        known.open = true;
        return;
      }
      if (known) stop(known);
      entries.set(id, {
        work,
        savedWork: savedAt === null ? null : work,
        base: savedAt,
        saving: savedAt === null ? { state: 'waiting' } : { state: 'saved', at: savedAt },
        open: true,
        firstChange: 0,
        tries: 0,
        begun: 0,
        stopTimer: null,
        waiting: [],
      });
    },
    offer(work) {
      const id = work.document.id;
      const entry = entries.get(id);
      if (!entry || entry.work === work) return;
      entry.work = work;
      // While saving fails its pauses grow, however much is changed meanwhile.
      if (entry.saving.state === 'failed') return;
      entry.firstChange ||= now();
      schedule(id, entry, Math.max(0, Math.min(QUIET_MS, entry.firstChange + LONGEST_MS - now())));
      if (entry.saving.state !== 'waiting') set(id, entry, { state: 'waiting' });
    },
    flush(only) {
      for (const [id, entry] of entries)
        if ((only === undefined || id === only) && isUnsaved(entry)) attempt(id, entry);
    },
    retry(id) {
      const entry = entries.get(id);
      if (entry && isUnsaved(entry)) attempt(id, entry);
    },
    close(id) {
      const entry = entries.get(id);
      if (!entry) return;
      entry.open = false;
      if (isUnsaved(entry)) {
        if (entry.saving.state !== 'failed') attempt(id, entry);
      } else {
        entries.delete(id);
        onSettled(id);
      }
    },
    forget(id) {
      const entry = entries.get(id);
      if (entry) stop(entry);
      entries.delete(id);
      onSettled(id);
    },
    unsaved(id) {
      const entry = entries.get(id);
      return entry && isUnsaved(entry) ? entry.work : null;
    },
    wasStored: (id) => (entries.get(id)?.base ?? null) !== null,
    allUnsaved: () => [...entries.values()].filter(isUnsaved).map(({ work, saving }) => ({ work, saving })),
    saving: (id) => entries.get(id)?.saving ?? null,
    settled(id) {
      const entry = entries.get(id);
      if (!entry) return Promise.reject(new Error(`No work of ${id} is known here.`));
      if (entry.saving.state !== 'waiting') return Promise.resolve(entry.saving);
      return new Promise((resolve) => entry.waiting.push(resolve));
    },
  };
}
