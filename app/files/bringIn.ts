import { activePart, OrdleError, sentenceOf, type Session } from '@ordle/core';
import { Cancelled, engine } from '@/engine/engineClient';
import type { GivenFile } from '@/engine/protocol';
import { isBackUp } from './backUpFile';
import { historyOfFile } from '@/saving/historyForFile';
import { storage } from '@/saving/workspace';
import { selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { rememberTable } from '@/storage/editTables';
import { rememberRepairs } from './cameIn';
import type { Outcome } from './ImportReport';
import { createJoining } from './joining';
import { layBeside } from './layBeside';
import { addTakesOfFiles, outcomesOfTakes } from './takesHere';
import type { Choice } from './WhatAreThey';

/** Files that are brought in, as what, and who is told how far it has come. */
interface BringingIn {
  files: readonly File[];
  choice: Exclude<Choice, 'many'>;
  /** Takes are slid to each other. */
  isLinedUp: boolean;
  dispatch: AppDispatch;
  isCancelled(): boolean;
  onFile(name: string, done: number): void;
}

/** What came of it: each file's outcome, where it leads to, and what is said of it. */
interface BroughtIn {
  outcomes: Outcome[];
  leadsTo: { path: string; state?: object } | null;
  words: string | null;
}

export const isSessionFile = (name: string) => /\.ordle$/i.test(name);

const ENDING = /\.(mid|midi|smf|kar|rmi|ordle|musicxml|mxl|xml)$/i;

/** Whether a file can be brought in, by its name. */
export const isMusicFile = (name: string): boolean => ENDING.test(name);

/** The name a session gets from its file. */
export const sessionName = (file: string): string => file.replace(ENDING, '').slice(0, 200) || file;

/** What the names of several files have in common, without the number at its end. */
function commonName(names: readonly string[]): string {
  const [first, ...others] = names.map(sessionName);
  let length = first.length;
  for (const other of others) while (!other.startsWith(first.slice(0, length))) length--;
  return first.slice(0, length).replace(/[\s\-_.\d]+$/, '') || first;
}

export const bytesOf = (files: readonly File[]): Promise<GivenFile[]> =>
  Promise.all(
    files.map(async (file) => ({ name: file.name, bytes: new Uint8Array(await file.arrayBuffer()) })),
  );

/** Brings files in as what they are said to be. Throws `Cancelled` where it was given up and nothing was added. */
export function bringIn(bringing: BringingIn): Promise<BroughtIn> {
  switch (bringing.choice) {
    case 'each':
      return oneByOne(bringing);
    case 'parts-here':
      return join(bringing);
    case 'takes-here':
      return takesHere(bringing);
    case 'score-here':
      return scoreHere(bringing);
    default:
      return gathered(bringing, bringing.choice);
  }
}

/** Lays a written score beside the part that is worked on, and goes to where it is seen. */
async function scoreHere({ files, dispatch }: BringingIn): Promise<BroughtIn> {
  const state = store.getState();
  const session = selectDocument(state);
  const part = session && activePart(session, state.view.partId);
  if (!session || !part) throw new OrdleError('no-part', 'There is no part to lay the score beside.');
  const [file] = await bytesOf(files);
  const { reference } = await engine.layScore({ session, parts: part.id, given: { file } });
  layBeside(dispatch, [part.id], reference);
  return { outcomes: [], leadsTo: { path: `/s/${session.id}/score` }, words: null };
}

/** Makes a file a session of its own; `unsaved` says why where it could not be stored. */
async function openFile({ name, bytes }: GivenFile): Promise<Outcome & { session: Session }> {
  if (isBackUp(new TextDecoder().decode(bytes.subarray(0, 40))))
    throw new OrdleError(
      'back-up',
      'This is a back-up of a whole shelf. Press “Restore a back-up” on the Shelf.',
    );
  const { session, repairs, tables, history } = await engine.importFile(sessionName(name), bytes);
  tables.forEach(rememberTable);
  const saving = await storage.add(session, historyOfFile(history, session));
  rememberRepairs(session.id, repairs);
  const unsaved = saving.state === 'failed' ? saving.message : undefined;
  return { file: name, error: null, repairs, session, unsaved };
}

/** Does something with each file in turn; one that fails says why, and the others go on. */
async function eachOf(
  { files, isCancelled, onFile }: BringingIn,
  work: (file: GivenFile) => Promise<Outcome>,
): Promise<Outcome[]> {
  const outcomes: Outcome[] = [];
  for (const [done, file] of files.entries()) {
    if (isCancelled()) break;
    onFile(file.name, done);
    try {
      const [given] = await bytesOf([file]);
      outcomes.push(await work(given));
    } catch (error) {
      if (error instanceof Cancelled) break;
      outcomes.push({ file: file.name, error: sentenceOf(error), repairs: [] });
    }
  }
  return outcomes;
}

async function oneByOne(bringing: BringingIn): Promise<BroughtIn> {
  let opened: string | null = null;
  const outcomes = await eachOf(bringing, async (file) => {
    const { session, ...outcome } = await openFile(file);
    opened = session.id;
    return outcome;
  });
  const { files } = bringing;
  // What was worked on before stands as it was left; what was only played is shown with what would be done to it.
  const path = opened && (isSessionFile(files[0].name) ? `/s/${opened}` : `/s/${opened}/clean-up`);
  return {
    outcomes,
    leadsTo: path && files.length === 1 ? { path } : null,
    words: importedInWords(outcomes),
  };
}

async function join(bringing: BringingIn): Promise<BroughtIn> {
  const joining = createJoining();
  const outcomes = await eachOf(bringing, ({ name, bytes }) => joining.read(name, bytes));
  // Given up half-way nothing of it is added; else all of it is, as one action.
  if (bringing.isCancelled()) throw new Cancelled();
  try {
    joining.finish(bringing.dispatch);
  } catch (error) {
    for (const outcome of outcomes) outcome.error ??= sentenceOf(error);
  }
  return { outcomes, leadsTo: null, words: importedInWords(outcomes) };
}

async function takesHere({ files, isLinedUp, dispatch, onFile }: BringingIn): Promise<BroughtIn> {
  const session = selectDocument(store.getState());
  const part = session && activePart(session, store.getState().view.partId);
  if (!session || !part) throw new OrdleError('no-part', 'There is no part to add takes to.');
  onFile(files[0].name, 0);
  const given = await bytesOf(files);
  const brought = await addTakesOfFiles(dispatch, part.id, given, isLinedUp);
  return {
    outcomes: outcomesOfTakes(given, brought),
    leadsTo: brought.brought.length > 0 ? proposalOf(session.id) : null,
    words: takesInWords(brought.brought.length, part.name),
  };
}

async function gathered({ files, isLinedUp, onFile }: BringingIn, as: 'takes' | 'parts'): Promise<BroughtIn> {
  onFile(files[0].name, 0);
  const given = await bytesOf(files);
  const made = await engine.gather({
    name: commonName(given.map(({ name }) => name)),
    files: given,
    as,
    isLinedUp,
  });
  const { session, repairs, failed, silent } = made;
  const saving = await storage.add(session);
  rememberRepairs(session.id, repairs);
  const outcomes = outcomesOfTakes(given, { failed, silent, otherTempo: null });
  if (saving.state === 'failed') for (const outcome of outcomes) outcome.unsaved = saving.message;
  return {
    outcomes,
    leadsTo: as === 'takes' ? proposalOf(session.id) : { path: `/s/${session.id}/clean-up` },
    words: importedInWords(outcomes),
  };
}

/** Takes lead to where they are chosen from, with the tightest of them proposed. */
const proposalOf = (id: string) => ({ path: `/s/${id}/takes`, state: { isProposing: true } });

const takesInWords = (count: number, part: string): string | null =>
  count === 0 ? null : `${count === 1 ? 'One take was' : `${count} takes were`} added to ${part}.`;

function importedInWords(outcomes: readonly Outcome[]): string | null {
  const good = outcomes.filter(({ error }) => error === null);
  if (good.length === 0) return null;
  const words = good.length === 1 ? `${good[0].file} was imported` : `${good.length} files were imported`;
  return good.some(({ unsaved }) => unsaved !== undefined) ? `${words}, but not saved yet.` : `${words}.`;
}
