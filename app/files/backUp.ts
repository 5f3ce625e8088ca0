import { OrdleError, sentenceOf, type Session } from '@ordle/core';
import { engine } from '@/engine/engineClient';
import { rememberTable } from '@/storage/editTables';
import { historyOf, historyOfFile } from '@/saving/historyForFile';
import { storage } from '@/saving/workspace';
import { readMarks, readPreference, writePreference } from '@/storage/preferences';
import { headOf, lineOf, readBackUp, type BackedUp, type Preferences } from './backUpFile';

/** What is of this browser alone, or told anew by the next visit. */
const NOT_TAKEN = new Set(['demo-offered', 'tidied-at', 'backed-up-at', 'asked-to-keep']);
/** Lists that are put together by the names of what is in them where a back-up is restored beside what is here. */
const NAMED_LISTS = ['recipes', 'grooves', 'questions'];
const LOCAL = /^ordle-/;
/** Sessions that are read and packed at the same time. */
const AT_ONCE = 6;

/** How far the work is, and a way to stop it: told before each session. */
export interface BackUpWork {
  onProgress(done: number, all: number): void;
  isCancelled(): boolean;
}

const stopped = () => new OrdleError('cancelled', 'The work was stopped.');

/** Everything in this browser as one file; what could not be read is told, and the rest is in it. */
export async function makeBackUp({
  onProgress,
  isCancelled,
}: BackUpWork): Promise<{ file: Blob; failed: string[] }> {
  // The oldest first, so that they come to lie as they lay.
  const list = (await storage.list()).reverse();
  const lines: Blob[] = [];
  const failed: string[] = [];
  const pack = async (id: string) => {
    const work = await storage.load(id);
    return engine.packSession(work.document, await historyOf(work));
  };
  // While one is packed by the engine the next are read.
  const ahead = new Map<number, Promise<Uint8Array>>();
  for (const [at, { name }] of list.entries()) {
    if (isCancelled()) throw stopped();
    onProgress(at, list.length);
    for (let next = at; next < Math.min(list.length, at + AT_ONCE); next++)
      if (!ahead.has(next)) {
        const packing = pack(list[next].id);
        // Whether it fails is asked when its turn comes.
        packing.catch(() => undefined);
        ahead.set(next, packing);
      }
    try {
      const bytes = (await ahead.get(at)) ?? new Uint8Array();
      lines.push(new Blob([lineOf({ name, bytes })]));
    } catch (error) {
      failed.push(`“${name}”: ${sentenceOf(error)}`);
    }
    ahead.delete(at);
  }
  const file = new Blob([headOf(lines.length, await preferences()), ...lines]);
  await writePreference('backed-up-at', Date.now());
  return { file, failed };
}

async function preferences(): Promise<Preferences> {
  const marks = Object.fromEntries((await readMarks()).filter(([key]) => !NOT_TAKEN.has(key)));
  const local = Object.fromEntries(
    Object.keys(localStorage)
      .filter((key) => LOCAL.test(key))
      .map((key) => [key, localStorage.getItem(key) ?? '']),
  );
  return { marks, local };
}

/**
 * Puts what is in a back-up onto the shelf: beside what is there, where a session of the same name and making that is
 * there already gets a copy; or in its place. Gives how many came, what did not, in sentences, and whether all of it
 * is stored: then the page has to be loaded anew, since it remembers recipes and keys as they were.
 */
export async function restoreBackUp(
  text: string,
  how: 'beside' | 'in-place',
  { onProgress, isCancelled }: BackUpWork,
): Promise<{ restored: number; failed: string[]; isStored: boolean }> {
  const { sessions, preferences: given, damaged } = readBackUp(text);
  const failed = [...damaged];
  // Everything is read before anything that is here goes.
  const opened: Awaited<ReturnType<typeof openBackedUp>>[] = [];
  for (const [at, each] of sessions.entries()) {
    if (isCancelled()) throw stopped();
    onProgress(at, 2 * sessions.length);
    try {
      opened.push(await openBackedUp(each));
    } catch (error) {
      failed.push(`“${each.name}”: ${sentenceOf(error)}`);
    }
  }
  const here = new Set((await storage.list()).map(({ id }) => id));
  // Kept under ids of their own: those of the back-up come with theirs.
  if (how === 'in-place') for (const id of here) await storage.remove(id, crypto.randomUUID());
  let restored = 0;
  let isStored = true;
  for (const { session, history, tables } of opened) {
    onProgress(sessions.length + restored, 2 * sessions.length);
    const isTaken = how === 'beside' && here.has(session.id);
    const document: Session = isTaken ? { ...session, id: crypto.randomUUID() } : session;
    tables.forEach(rememberTable);
    const saving = await storage.add(document, historyOfFile(history, document));
    if (saving.state === 'failed') {
      isStored = false;
      failed.push(`“${session.name}”: ${saving.message}`);
    }
    restored++;
  }
  if (given) await restorePreferences(given, how);
  return { restored, failed, isStored };
}

const openBackedUp = ({ name, bytes }: BackedUp) => engine.importFile(name, bytes, true);

async function restorePreferences({ marks, local }: Preferences, how: 'beside' | 'in-place'): Promise<void> {
  if (how === 'in-place') {
    for (const [key, value] of Object.entries(marks))
      if (!NOT_TAKEN.has(key)) await writePreference(key, value);
    for (const [key, value] of Object.entries(local)) if (LOCAL.test(key)) localStorage.setItem(key, value);
    return;
  }
  for (const key of NAMED_LISTS) {
    const [own, given] = [await readPreference(key), marks[key]];
    if (!Array.isArray(given)) continue;
    const there = Array.isArray(own) ? (own as unknown[]) : [];
    const names = new Set(there.map(nameOf));
    await writePreference(key, [...there, ...given.filter((each) => !names.has(nameOf(each)))]);
  }
}

const nameOf = (each: unknown): unknown => (each as { name?: unknown } | null)?.name;
