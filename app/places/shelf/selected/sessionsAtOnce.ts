import { OrdleError, listOf, partsInUse, sentenceOf, type Session } from '@ordle/core';
import { cleanedWork } from '@/edits/cleanSession';
import { putBrought } from '@/edits/putBrought';
import { createCleaner } from '@/engine/cleaning/cleaners';
import { engine } from '@/engine/engineClient';
import { change, emptyHistory, undo, type Work } from '@/history/history';
import { storage } from '@/saving/workspace';
import { rememberTable } from '@/storage/editTables';
import type { ManyCleaning } from '@/storage/manyFiles';
import type { SessionSummary } from '@/storage/summary';

/** Who hears how far it has come, and may have it stopped. */
export interface Telling {
  tell(done: number, all: number, name: string): void;
  isCancelled(): boolean;
}

type Chosen = Pick<SessionSummary, 'id' | 'name'>;

/** Does something with each session in turn; one that fails says why, and the others go on. */
async function eachOf(
  sessions: readonly Chosen[],
  { tell, isCancelled }: Telling,
  act: (session: Chosen) => Promise<void>,
): Promise<string[]> {
  const failed: string[] = [];
  for (const [done, session] of sessions.entries()) {
    if (isCancelled()) break;
    tell(done, sessions.length, session.name);
    try {
      await act(session);
    } catch (error) {
      failed.push(`${session.name}: ${sentenceOf(error)}`);
    }
  }
  return failed;
}

/** What was done to sessions, and the way to take it back wherever nothing was done since. */
export interface CleanedSessions {
  changed: string[];
  failed: string[];
  takeBack(): Promise<void>;
}

/** Cleans sessions, each as one action of its own history. */
export async function cleanSessions(
  sessions: readonly Chosen[],
  cleaning: ManyCleaning,
  telling: Telling,
): Promise<CleanedSessions> {
  /** When each action was done, by the session it was done in: by that it is known again. */
  const done = new Map<string, number>();
  const failed = await eachOf(sessions, telling, ({ id }) =>
    storage.change(id, async (work) => {
      const next = await cleanedWork(work, cleaning, cleaning.recipe);
      const last = next === work ? undefined : next.history.done.at(-1);
      if (last) done.set(id, last.at);
      return next;
    }),
  );
  const takeBack = async () => {
    for (const [id, at] of done)
      await storage.change(id, (work: Work) => (work.history.done.at(-1)?.at === at ? undo(work) : work));
  };
  return { changed: [...done.keys()], failed, takeBack };
}

/** The whole of each session in some formats, each as usual, as one zip; a folder for each where there are several. */
export async function exportSessions(
  sessions: readonly Chosen[],
  formats: readonly string[],
  telling: Telling,
): Promise<{ zip: Blob; failed: string[] }> {
  const files: { path: string; content: Blob; isZip: boolean }[] = [];
  const failed = await eachOf(sessions, telling, async ({ id, name }) => {
    const session = await storage.glance(id);
    const written = await engine.writeExport({
      session,
      choice: {
        parts: partsInUse(session),
        version: 'cleaned',
        extent: { of: 'all' },
        names: null,
        formats: formats.map((format) => ({ format, options: {} })),
      },
    });
    files.push({
      path: written.files > 1 ? name : written.name,
      content: written.content,
      isZip: written.files > 1,
    });
  });
  if (telling.isCancelled()) throw new OrdleError('cancelled', 'Stopped; nothing was written.');
  if (files.length === 0) throw new OrdleError('nothing-to-export', failed.join(' '));
  const thread = createCleaner();
  try {
    return { zip: await thread.zipFiles(files), failed };
  } finally {
    thread.end();
  }
}

/** A new session with the parts of all, steps and takes included, in the tempo and meter of the first. Gives its id. */
export async function mergeAsParts(sessions: readonly Chosen[], telling: Telling): Promise<string> {
  const [first, ...others] = sessions;
  const begun = await storage.glance(first.id);
  const id = crypto.randomUUID();
  let work: Work = {
    document: { ...begun, id, name: mergedName(sessions), createdAt: Date.now() },
    history: emptyHistory(),
  };
  const failed = await eachOf(others, telling, async (other) => {
    const from = await storage.glance(other.id);
    const brought = await engine.bringParts({ session: work.document, from, ids: partsInUse(from) });
    brought.tables.forEach(rememberTable);
    work = change(work, 'Merge', (draft) => putBrought(draft, brought));
  });
  return kept(work.document, failed, telling);
}

/** A new session in which the sessions are takes of the parts of the first, as they were played. Gives its id. */
export async function mergeAsTakes(sessions: readonly Chosen[], telling: Telling): Promise<string> {
  const files: { name: string; bytes: Uint8Array }[] = [];
  const failed = await eachOf(sessions, telling, async ({ id, name }) => {
    const session = await storage.glance(id);
    const { content } = await engine.writeExport({
      session,
      choice: {
        parts: partsInUse(session),
        version: 'played',
        extent: { of: 'all' },
        names: null,
        formats: [{ format: 'mid', options: {} }],
      },
    });
    files.push({ name: `${name}.mid`, bytes: new Uint8Array(await content.arrayBuffer()) });
  });
  if (telling.isCancelled()) throw new OrdleError('cancelled', 'Stopped; nothing was added.');
  const { session, failed: unread } = await engine.gather({
    name: mergedName(sessions),
    files,
    as: 'takes',
    isLinedUp: true,
  });
  return kept(session, [...failed, ...unread.map(({ name, why }) => `${name}: ${why}`)], telling);
}

/** Stores a merged session, or says why there is none: nothing is added that lacks what was asked for. */
async function kept(session: Session, failed: readonly string[], { isCancelled }: Telling): Promise<string> {
  if (isCancelled()) throw new OrdleError('cancelled', 'Stopped; nothing was added.');
  if (failed.length > 0)
    throw new OrdleError('merge', `They were not merged, and nothing was added. ${failed.join(' ')}`);
  if (listOf(session.parts).length === 0)
    throw new OrdleError('merge', 'There is nothing to be merged: these sessions have no parts.');
  await storage.add(session);
  return session.id;
}

const mergedName = (sessions: readonly Chosen[]): string =>
  sessions
    .map(({ name }) => name)
    .join(' + ')
    .slice(0, 200);
