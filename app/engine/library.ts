import {
  OrdleError,
  storedPart,
  namedBy,
  namedIn,
  withSources,
  type EditTable,
  type Part,
  type Session,
  type StoredTake,
  type Take,
} from '@ordle/core';
import { loadTable } from '@/storage/editTables';
import { loadTake, storeTakes } from '@/storage/takes';

/** How long what the open document does not name stays: a question about another session may be under way. */
const KEPT_UNNAMED_MS = 60_000;

/** Takes and large hand edits in memory, by key, brought from the browser's storage when they are needed. */
export function createLibrary() {
  const takes = new Map<string, Take>();
  const tables = new Map<string, EditTable>();
  /** When each was last asked for, in ms since 1970. */
  const used = new Map<string, number>();
  /** What only this page and this engine hold. */
  const unstored = new Set<string>();
  let lastSeen: Session | null = null;

  return {
    /** A take in memory. Throws OrdleError `take-missing` where it was not summoned. */
    takeOf(key: string): Take {
      const take = takes.get(key);
      if (!take) throw new OrdleError('take-missing', 'A performance of this session is not loaded.');
      return take;
    },
    editTable: (key: string) => tables.get(key),
    adopt(take: Take) {
      unstored.add(take.key);
      takes.set(take.key, take);
    },
    adoptTable(table: EditTable) {
      used.set(table.key, Date.now());
      // It is stored with the next saving, by the page.
      unstored.add(table.key);
      tables.set(table.key, table);
    },
    /** Puts takes into memory and into the browser's storage; gives back those the browser would not store. */
    async keep(list: readonly Take[]): Promise<StoredTake[]> {
      for (const take of list) {
        takes.set(take.key, take);
        used.set(take.key, Date.now());
      }
      const stored = list.map(storedPart);
      return storeTakes(stored).then(
        () => [],
        () => {
          for (const { key } of stored) unstored.add(key);
          return stored;
        },
      );
    },
    /**
     * All that a session refers to, also in what was made permanent: its takes as they are stored, and its large hand
     * edits. Throws as loading does.
     */
    async everythingOf(session: Session): Promise<{ takes: StoredTake[]; tables: EditTable[] }> {
      const named = namedIn(session);
      const stored = [...named.takes].map(async (key) => storedPart(takes.get(key) ?? (await loadTake(key))));
      const edits = [...named.tables].map(async (key) => tables.get(key) ?? loadTable(key));
      return { takes: await Promise.all(stored), tables: await Promise.all(edits) };
    },
    /** Loads from storage whatever some parts, and those they are made of, need and is not in memory yet. */
    async summon(parts: readonly Part[], session: Session): Promise<void> {
      const sources = withSources(
        session,
        parts.flatMap((part) => [...namedBy(part).parts]),
      );
      const named = [...parts, ...sources].map((part) => namedBy(part));
      const keys = new Set(named.flatMap((each) => [...each.takes, ...each.scores]));
      if (session.conductor) keys.add(session.conductor.take);
      const edits = new Set(named.flatMap((each) => [...each.tables]));
      await Promise.all([
        ...[...keys].filter((key) => !takes.has(key)).map(async (key) => takes.set(key, await loadTake(key))),
        ...[...edits]
          .filter((key) => !tables.has(key))
          .map(async (key) => tables.set(key, await loadTable(key))),
      ]);
      for (const key of [...keys, ...edits]) used.set(key, Date.now());
    },
    /**
     * Lets go of what the open document names no longer and nothing has used for a while; it comes back from storage
     * when it is needed again. What could not be stored stays.
     */
    letGo(session: Session) {
      if (session === lastSeen) return;
      lastSeen = session;
      const named = namedIn(session);
      const isOver = (key: string) =>
        !unstored.has(key) && Date.now() - (used.get(key) ?? 0) > KEPT_UNNAMED_MS;
      for (const key of takes.keys()) if (!named.takes.has(key) && isOver(key)) takes.delete(key);
      for (const key of tables.keys()) if (!named.tables.has(key) && isOver(key)) tables.delete(key);
    },
  };
}

/** Takes and tables in memory. */
export type Library = ReturnType<typeof createLibrary>;
