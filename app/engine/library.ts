import {
  OrdleError,
  itemOf,
  listOf,
  partsIn,
  takesIn,
  type EditTable,
  type Part,
  type Session,
  type StoredTake,
  type Take,
} from '@ordle/core';
import { loadTable } from '@/storage/editTables';
import { loadTake, storedPart, storeTakes } from '@/storage/takes';

/** Takes and large hand edits in memory, by key, brought from the browser's storage when they are needed. */
export function createLibrary() {
  const takes = new Map<string, Take>();
  const tables = new Map<string, EditTable>();

  return {
    /** A take in memory. Throws OrdleError `take-missing` where it was not summoned. */
    takeOf(key: string): Take {
      const take = takes.get(key);
      if (!take) throw new OrdleError('take-missing', 'A performance of this session is not loaded.');
      return take;
    },
    editTable: (key: string) => tables.get(key),
    adopt(take: Take) {
      takes.set(take.key, take);
    },
    adoptTable(table: EditTable) {
      tables.set(table.key, table);
    },
    /** Puts takes into memory and into the browser's storage; gives back those the browser would not store. */
    async keep(list: readonly Take[]): Promise<StoredTake[]> {
      for (const take of list) takes.set(take.key, take);
      const stored = list.map(storedPart);
      return storeTakes(stored).then(
        () => [],
        () => stored,
      );
    },
    /** All that a session refers to, also in what was made permanent: its takes as they are stored, and its large hand edits. Throws as loading does. */
    async everythingOf(session: Session): Promise<{ takes: StoredTake[]; tables: EditTable[] }> {
      const named = JSON.stringify(session.parts).match(/"table":{"key":"[^"]+"/g) ?? [];
      const keys = new Set(named.map((text) => text.slice('"table":{"key":"'.length, -1)));
      const stored = session.takes.order.map(async (key) => {
        const known = takes.get(key);
        return storedPart(known ?? (await loadTake(key)));
      });
      const edits = [...keys].map(async (key) => tables.get(key) ?? loadTable(key));
      return { takes: await Promise.all(stored), tables: await Promise.all(edits) };
    },
    /** Loads from storage whatever takes some parts, and those they are made of, need and are not in memory yet. */
    async summon(parts: readonly Part[], session: Session): Promise<void> {
      const keys = new Set<string>();
      const edits = new Set<string>();
      const seen = new Set<string>();
      const visit = (part: Part) => {
        for (const key of takesIn(part)) keys.add(key);
        for (const { step } of listOf(part.steps))
          if (step.kind === 'edits' && step.table) edits.add(step.table.key);
        for (const id of partsIn(part)) {
          const source = itemOf(session.parts, id);
          if (!source || seen.has(id)) continue;
          seen.add(id);
          visit(source);
        }
      };
      parts.forEach(visit);
      if (session.conductor) keys.add(session.conductor.take);
      await Promise.all([
        ...[...keys].filter((key) => !takes.has(key)).map(async (key) => takes.set(key, await loadTake(key))),
        ...[...edits]
          .filter((key) => !tables.has(key))
          .map(async (key) => tables.set(key, await loadTable(key))),
      ]);
    },
  };
}

/** Takes and tables in memory. */
export type Library = ReturnType<typeof createLibrary>;
