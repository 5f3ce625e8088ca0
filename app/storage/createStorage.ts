import { OrdleError, type Session } from '@ordle/core';
import {
  countOf,
  emptyHistory,
  withIdentity,
  type History,
  type HistoryEntry,
  type Work,
} from '@/history/history';
import { announceChange } from './changes';
import { openDatabase, type Database, type DeletedRecord, type SessionRecord } from './database';
import type { Claim, Locks } from './locks';
import { rescueTakes, type RescuedFile } from './rescue';
import { createSaver, type Saver, type SaverOptions, type Saving } from './saver';
import { copyEntries, entriesOf, recordsOf } from './historyRecords';
import { readDocumentOf, readEntries, readSession, writeSession } from './sessionRecords';
import { summariesIn } from './sessionList';
import { summaryOf, summaryRecordOf, type SessionSummary } from './summary';
import { storageError } from './storageError';
import { dropUnusedTakes } from './takes';

/** A deleted session can be brought back this long. */
const KEEP_DELETED_MS = 7 * 24 * 60 * 60 * 1000;

export interface StorageOptions extends Pick<SaverOptions, 'now' | 'later'> {
  locks: Locks;
  /** Called whenever saving a session gets on or fails. */
  onSaving(id: string, saving: Saving): void;
  open?(): Promise<Database>;
}

/** A session to be worked on, and when it was stored (null: it never was). */
export interface LoadedSession extends Work {
  changedAt: number | null;
}

/**
 * Everything one tab does with stored sessions. Every write goes through the session's lock; what the browser will
 * not store stays in memory, is shown as unsaved and tried again.
 */
export interface Storage {
  locks: Locks;
  saver: Saver;
  /** The sessions of the shelf, newest first, unsaved and broken ones included. */
  list(): Promise<SessionSummary[]>;
  /** A session as it was last worked on in this tab, or else as it is stored. Throws as `readSession`. */
  load(id: string): Promise<LoadedSession>;
  /** The document alone, as `load` would give it. */
  glance(id: string): Promise<Session>;
  /** Stores a session that was just made; resolves when that is done, or failed: then it is kept here, unsaved. */
  add(document: Session, work?: Work['history']): Promise<Saving>;
  rename(id: string, name: string): Promise<void>;
  /**
   * Changes a session that need not be open, history and all; what gives the very work back changes nothing. Throws
   * `session-open-elsewhere` where another tab holds it, and what `make` throws.
   */
  change(id: string, make: (work: Work) => Work | Promise<Work>): Promise<void>;
  /** A copy under a new id and name, history and all; takes are shared. */
  duplicate(id: string, newId: string): Promise<void>;
  /**
   * Deletes a session; `bringBack` restores it for a week, in any tab. `as`: it is kept under another id, since one of
   * its own comes in its place.
   */
  remove(id: string, as?: string): Promise<void>;
  bringBack(id: string): Promise<void>;
  /**
   * Says that bringing a session back is offered, until the returned function is called: while it is, nothing of it
   * goes.
   */
  offer(id: string): () => void;
  listDeleted(): Promise<DeletedSummary[]>;
  removeForGood(id: string): Promise<void>;
  rescue(id: string): Promise<RescuedFile[]>;
  /** Actions of a session that are not in memory, from one place in their order up to another, not included. */
  earlier(id: string, from: number, to: number): Promise<HistoryEntry[]>;
  /**
   * Lets go of what nothing can bring back any more. Returns how many takes went; null, and nothing goes, while a
   * session is open in any tab or an undo is on offer.
   */
  tidy(): Promise<number | null>;
}

export interface DeletedSummary {
  id: string;
  name: string;
  deletedAt: number;
}

export function createStorage({
  locks,
  onSaving,
  now = Date.now,
  later,
  open = openDatabase,
}: StorageOptions): Storage {
  /** Rights to write sessions that were closed unsaved. */
  const claims = new Map<string, Claim>();
  /** Deleted sessions that were never stored. */
  const unstored = new Map<string, Work>();
  let lastWrite = 0;

  const saver = createSaver({
    async write(work, base) {
      // Two writes never carry the same time: it tells which of them is stored.
      lastWrite = Math.max(now(), lastWrite + 1);
      const at = await writeSession(await open(), work, base, lastWrite).catch((error: unknown) => {
        throw storageError(error);
      });
      announceChange();
      return at;
    },
    onChange: onSaving,
    onSettled(id) {
      claims.get(id)?.release();
      claims.delete(id);
    },
    now,
    later,
  });
  const { close } = saver;
  const guardedSaver: Saver = {
    ...saver,
    close(id) {
      // What is unsaved must not be overtaken by another tab.
      if (saver.unsaved(id) && !claims.has(id)) claims.set(id, locks.claim(id));
      close(id);
    },
  };

  async function moveToDeleted(database: Database, record: SessionRecord, work: Work | null, as = record.id) {
    const { id } = record;
    const transaction = database.transaction(['sessions', 'summaries', 'entries', 'deleted'], 'readwrite');
    const entries = transaction.objectStore('entries');
    // What was not saved yet takes the place of what is stored from there on.
    const kept = (await entries.getAll(entriesOf(id, 0, work?.history.earlier ?? Infinity))).map(
      ({ entry }) => entry,
    );
    const done = record.done ?? 0;
    const history: History = work
      ? { ...work.history, done: [...(work.history.earlier ? kept : []), ...work.history.done], earlier: 0 }
      : { done: kept.slice(0, done), undone: kept.slice(done).reverse(), former: record.former };
    const own = { document: work?.document ?? record.document, history };
    const gone = as === id ? own : withIdentity(own, { id: as });
    await Promise.all([
      transaction.objectStore('deleted').put({
        id: as,
        session: { ...record, id: as, document: gone.document },
        history: { id: as, history: gone.history },
        deletedAt: now(),
      }),
      transaction.objectStore('sessions').delete(id),
      transaction.objectStore('summaries').delete(id),
      entries.delete(entriesOf(id)),
      transaction.done,
    ]).catch((error: unknown) => {
      throw storageError(transaction.error ?? error);
    });
  }

  async function list() {
    const stored = await open().then(summariesIn, () => []);
    const unsaved = saver.allUnsaved().map(({ work: { document }, saving }) => ({
      ...summaryOf({ id: document.id, document, changedAt: now() }),
      unsaved: saving.state === 'failed' ? saving.message : 'It is being saved.',
    }));
    return [...unsaved, ...stored.filter(({ id }) => !unsaved.some((other) => other.id === id))].sort(
      (a, b) => b.changedAt - a.changedAt,
    );
  }

  async function load(id: string): Promise<LoadedSession> {
    const work = saver.unsaved(id);
    if (work) return { ...work, changedAt: null };
    const database = await open();
    try {
      return await readSession(database, id);
    } catch (error) {
      // The shelf looks at it for itself from now on.
      if (error instanceof OrdleError && error.code === 'session-unreadable')
        await database.delete('summaries', id).catch(() => undefined);
      throw error;
    }
  }

  async function add(document: Session, history = emptyHistory()): Promise<Saving> {
    saver.track({ document, history }, null);
    guardedSaver.close(document.id);
    // Its one write is under way; there may be nothing left to wait for.
    const saving = saver.saving(document.id);
    return saving ? saver.settled(document.id) : { state: 'saved', at: now() };
  }

  const change: Storage['change'] = (id, make) =>
    locks.run(id, async () => {
      const unsaved = saver.unsaved(id);
      if (unsaved) {
        saver.offer(await make(unsaved));
        announceChange();
        return;
      }
      const database = await open();
      const { changedAt, ...work } = await readSession(database, id);
      const next = await make(work);
      if (next === work) return;
      await writeSession(database, next, changedAt, now());
      announceChange();
    });

  return {
    locks,
    saver: guardedSaver,
    list,
    load,
    glance: async (id) => saver.unsaved(id)?.document ?? readDocumentOf(await open(), id),
    add,

    rename: (id, name) => change(id, (work) => withIdentity(work, { name })),

    change,

    async duplicate(id, newId) {
      const work: Work = await load(id);
      const name = `${work.document.name}, copy`.slice(0, 200);
      const copy = withIdentity(work, { id: newId, name, createdAt: now() });
      const { earlier = 0 } = copy.history;
      if (earlier > 0) await copyEntries(await open(), id, newId, earlier);
      await add(copy.document, copy.history);
    },

    remove: (id, as) =>
      locks.run(id, async () => {
        const work = saver.unsaved(id);
        const database = await open().catch((error: unknown) => {
          // Only what was never stored can be deleted where storage is out of reach.
          if (!work || saver.wasStored(id)) throw error;
          return null;
        });
        const record = await database?.get('sessions', id);
        if (database && record) await moveToDeleted(database, record, work, as);
        else if (work) unstored.set(id, work);
        if (work) saver.forget(id);
        announceChange();
      }),

    async bringBack(id) {
      const work = unstored.get(id);
      if (work) {
        unstored.delete(id);
        await add(work.document, work.history);
        announceChange();
        return;
      }
      const transaction = (await open()).transaction(
        ['sessions', 'summaries', 'entries', 'deleted'],
        'readwrite',
      );
      const record = await transaction.objectStore('deleted').get(id);
      if (!record) {
        throw new OrdleError(
          'no-session',
          'The session is no longer there to be brought back: it was brought back or deleted for good in another tab.',
        );
      }
      const { session, history } = record;
      const entries = history ? recordsOf(id, history.history) : [];
      await Promise.all([
        transaction.objectStore('sessions').put({
          ...session,
          done: history ? countOf(history.history) : 0,
          ...(history?.history.former && { former: history.history.former }),
        }),
        summaryOf(session).broken === null &&
          transaction.objectStore('summaries').put(summaryRecordOf(session)),
        ...entries.map((entry) => transaction.objectStore('entries').put(entry)),
        transaction.objectStore('deleted').delete(id),
        transaction.done,
      ]);
      announceChange();
    },

    offer: (id) => locks.offer(id),

    async listDeleted() {
      const records = await open().then(
        (database) => database.getAll('deleted'),
        () => [],
      );
      return records.map(deletedSummary).sort((a, b) => b.deletedAt - a.deletedAt);
    },

    async removeForGood(id) {
      await (await open()).delete('deleted', id);
      announceChange();
    },

    rescue: async (id) => rescueTakes(await open(), id),

    earlier: async (id, from, to) => readEntries(await open(), id, from, to),

    async tidy() {
      if (saver.allUnsaved().length > 0 || (await locks.anyHeld())) return null;
      const database = await open();
      for (const { id, deletedAt } of await database.getAll('deleted'))
        if (now() - deletedAt >= KEEP_DELETED_MS) await database.delete('deleted', id);
      return dropUnusedTakes(database, now());
    },
  };
}

function deletedSummary({ id, session, deletedAt }: DeletedRecord): DeletedSummary {
  return { id, name: summaryOf(session).name, deletedAt };
}
