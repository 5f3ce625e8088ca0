import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { FORMER_NAMES, createEvaluator, createTimeline, type Take } from '@ordle/core';
import { openDB } from 'idb';
import { jump } from '@/state/history';
import { createStorage } from './createStorage';
import { DATABASE_NAME, openDatabase } from './database';
import { createLocks } from './locks';
import { loadTake } from './takes';

/** A database as the first version stored it, with a session of hand edits, steps made permanent and a long history. */
function firstVersion() {
  const unpack = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(unpack);
    if (typeof value !== 'object' || value === null) return value;
    if ('$' in value && 'v' in value) {
      const list = value.v as number[];
      if (value.$ === 'Float64Array') return Float64Array.from(list);
      return value.$ === 'Uint32Array' ? Uint32Array.from(list) : Uint8Array.from(list);
    }
    return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, unpack(each)]));
  };
  return unpack(JSON.parse(readFileSync(path.join(__dirname, 'fixtures/database-1.json'), 'utf8'))) as Record<
    string,
    Record<string, unknown>[]
  >;
}

describe('a database of the first version', () => {
  it('opens with everything it had, and sounds the same', async () => {
    const { cleaned, ...stores } = firstVersion();
    const old = await openDB(DATABASE_NAME, 1, {
      upgrade(database) {
        for (const [name, keyPath] of [
          ['sessions', 'id'],
          ['histories', 'id'],
          ['takes', 'key'],
          ['views', 'id'],
          ['marks', 'key'],
        ])
          // prettier-ignore
          database.createObjectStore(name, { keyPath });
      },
    });
    for (const [name, records] of Object.entries(stores))
      for (const record of records) await old.put(name, record);
    old.close();
    const storage = createStorage({ locks: createLocks(undefined), onSaving: () => undefined });
    expect((await openDatabase()).version).toBe(2);
    const [summary] = await storage.list();
    expect(summary).toMatchObject({ name: 'Quay in the morning', parts: 2, broken: null });
    const { document, history } = await storage.load(summary.id);
    expect([history.done.length, history.undone.length]).toEqual([287, 2]);
    // The same to the letter, but for fields that have another name now.
    const renamed = (value: unknown): unknown =>
      JSON.parse(
        Object.entries(FORMER_NAMES).reduce(
          (text, [before, now]) => text.replaceAll(`"${before}"`, `"${now}"`),
          JSON.stringify(value),
        ),
      );
    expect(document).toEqual(renamed(stores.sessions[0].document));
    expect(history).toEqual(renamed(stores.histories[0].history));
    expect(JSON.stringify(stores)).toContain(Object.keys(FORMER_NAMES)[0]);
    const takes = new Map<string, Take>();
    for (const { key } of document.takes) takes.set(key, await loadTake(key));
    const evaluator = createEvaluator((key) => takes.get(key) as Take);
    const timeline = createTimeline(document.division, document.tempos, document.meters);
    expect(
      document.parts.map((part) => {
        const { notes } = evaluator.evaluate(part, document, timeline).stages[part.steps.length];
        return {
          part: part.id,
          notes: Array.from({ length: notes.length }, (_, row) => [
            notes.start[row], notes.end[row], notes.pitch[row], notes.velocity[row], notes.channel[row],
          ]), // prettier-ignore
        };
      }),
    ).toEqual(cleaned);
    // Every point of the history can be reached.
    const first = jump({ document, history }, 0);
    expect(first.document.parts.every(({ steps }) => steps.length === 0)).toBe(true);
    expect(jump(first, 287).document).toEqual(document);
  });
});
