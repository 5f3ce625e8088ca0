import { openDatabase } from './database';

/**
 * A small value kept in this browser (whether the demo was offered, say); undefined when there is none or no storage.
 */
export async function readPreference(key: string): Promise<unknown> {
  return openDatabase()
    .then((database) => database.get('marks', key))
    .then((record) => record?.value)
    .catch(() => undefined);
}

export async function writePreference(key: string, value: unknown): Promise<void> {
  await openDatabase()
    .then((database) => database.put('marks', { key, value }))
    .catch(() => undefined);
}

/** All such values, by their keys. */
export async function readMarks(): Promise<[key: string, value: unknown][]> {
  return openDatabase()
    .then((database) => database.getAll('marks'))
    .then((records) => records.map(({ key, value }): [string, unknown] => [key, value]))
    .catch(() => []);
}

export async function readView(id: string): Promise<unknown> {
  return openDatabase()
    .then((database) => database.get('views', id))
    .then((record) => record?.view)
    .catch(() => undefined);
}

export async function writeView(id: string, view: unknown): Promise<void> {
  await openDatabase()
    .then((database) => database.put('views', { id, view }))
    .catch(() => undefined);
}
