import { OrdleError, type Session } from '@ordle/core';
import { wrap, type Remote } from 'comlink';
import { unstoredTables } from '@/storage/editTables';
import { rememberTakes, rememberedTakes } from '@/storage/takes';
import { ENGINE_BEHIND, createDocumentSender } from './documentCopy';
import { unpackError, type PackedError } from './packedError';
import { takeProgress } from './progress';
import type { DocumentQuestions, Engine } from './protocol';

type Answer = { value: unknown } | { error: PackedError };

let worker: Worker | null = null;
let remote: Remote<Record<string, (...args: unknown[]) => Answer>> | null = null;
/** Calls under way, to be refused when the worker is stopped. */
const waiting = new Set<(reason: Error) => void>();

/** What a call is refused with when the work was cancelled. */
export class Cancelled extends Error {
  constructor() {
    super('The work was cancelled.');
    this.name = 'Cancelled';
  }
}

function connect() {
  if (!remote) {
    const started = new Worker(new URL('./engine.worker.ts', import.meta.url), {
      type: 'module',
      name: 'ordle-engine',
    });
    worker = started;
    const fail = (event: Event) => {
      if (worker === started) drop(brokenBy(event));
    };
    // Its script could not be loaded, or something in it broke that no call could answer for.
    started.addEventListener('message', takeProgress);
    started.addEventListener('error', fail);
    started.addEventListener('messageerror', fail);
    remote = wrap(started);
    const takes = rememberedTakes();
    if (takes.length > 0) void call('adopt', () => [takes]).catch(() => undefined);
    const tables = unstoredTables();
    if (tables.length > 0) void call('adoptTables', () => [tables]).catch(() => undefined);
  }
  return remote;
}

function brokenBy(event: Event): OrdleError {
  const reason = event instanceof ErrorEvent && event.message ? ` (${event.message})` : '';
  return new OrdleError(
    'engine-failed',
    `The part of Ordle that works out the music broke off or could not be loaded${reason}. Try again; if that does not help, reload the page. What was saved is safe.`,
  );
}

/** Ends the worker and refuses every call under way; the next call starts another. */
function drop(reason: Error) {
  worker?.terminate();
  worker = null;
  remote = null;
  sender.forget();
  const refused = [...waiting];
  waiting.clear();
  for (const refuse of refused) refuse(reason);
}

/** Stops whatever the worker is doing. Takes come back from storage when they are next needed. */
export function cancelEngine(): void {
  drop(new Cancelled());
}

const sender = createDocumentSender();

function call(name: string, makeArguments: () => unknown[]): Promise<unknown> {
  return new Promise((resolve, reject) => {
    waiting.add(reject);
    const settle = (answer: Answer) => {
      waiting.delete(reject);
      if ('error' in answer) reject(unpackError(answer.error));
      else resolve(answer.value);
    };
    const fail = (error: Error) => {
      waiting.delete(reject);
      reject(error);
    };
    const remote = connect();
    (remote[name](...makeArguments()) as Promise<Answer>).then(settle, fail);
  });
}

/** Asks about a document; what the engine does not have of it yet goes along. */
async function ask(name: keyof DocumentQuestions, request: { session: Session }): Promise<unknown> {
  const { session, ...rest } = request;
  const send = () => call(name, () => [{ ...rest, document: sender.messageFor(session) }]);
  try {
    return await send();
  } catch (error) {
    if (!(error instanceof OrdleError) || error.code !== ENGINE_BEHIND) throw error;
    sender.forget();
    return send();
  }
}

/** Has takes the browser would not store kept by this page, until it does. */
async function keeping<T extends { unkept: Parameters<typeof rememberTakes>[0] }>(
  answer: Promise<unknown>,
): Promise<T> {
  const made = (await answer) as T;
  rememberTakes(made.unkept);
  return made;
}

/** A question as the engine's interface has it. */
function question<K extends keyof DocumentQuestions>(name: K): DocumentQuestions[K] {
  return ((request: { session: Session }) => ask(name, request)) as DocumentQuestions[K];
}

/** The worker's calls with their types; an OrdleError in the worker is an OrdleError here. */
export const engine: Engine = {
  adopt: (takes) => call('adopt', () => [takes]) as ReturnType<Engine['adopt']>,
  adoptTables: (tables) => call('adoptTables', () => [tables]) as ReturnType<Engine['adoptTables']>,
  nameColumns: (columns) => call('nameColumns', () => [columns]) as ReturnType<Engine['nameColumns']>,
  timingPicture: (session) => call('timingPicture', () => [session]) as ReturnType<Engine['timingPicture']>,
  importFile: (...args) => keeping(call('importFile', () => args)),
  filesTogether: (files) => call('filesTogether', () => [files]) as ReturnType<Engine['filesTogether']>,
  gather: (request) => keeping(call('gather', () => [request])),
  sealTake: (...args) => keeping(call('sealTake', () => args)),
  buildPlan: (...args) => keeping(call('buildPlan', () => args)),
  joinFile: (request) => keeping(ask('joinFile', request)),
  fold: (request) => keeping(ask('fold', request)),
  viewPart: question('viewPart'),
  offTheGrid: question('offTheGrid'),
  takeRows: question('takeRows'),
  assembledView: question('assembledView'),
  draftOfPart: question('draftOfPart'),
  markers: question('markers'),
  foundBeats: question('foundBeats'),
  spans: question('spans'),
  suggestion: question('suggestion'),
  lieWithSteps: question('lieWithSteps'),
  readings: question('readings'),
  harmony: question('harmony'),
  score: question('score'),
  musicXml: question('musicXml'),
  playedScore: question('playedScore'),
  beatsByScore: question('beatsByScore'),
  scoreReadings: question('scoreReadings'),
  layScore: (request) => keeping(ask('layScore', request)),
  comparison: question('comparison'),
  chart: question('chart'),
  chartNotes: question('chartNotes'),
  partRows: question('partRows'),
  sharesOf: question('sharesOf'),
  handPicture: question('handPicture'),
  independent: question('independent'),
  takesOfFiles: (request) => keeping(ask('takesOfFiles', request)),
  playback: question('playback'),
  pickNotes: question('pickNotes'),
  touchedNotes: question('touchedNotes'),
  factsOf: question('factsOf'),
  noteStory: question('noteStory'),
  takeGroove: question('takeGroove'),
  alongEdits: question('alongEdits'),
  clipsOf: question('clipsOf'),
  layClips: question('layClips'),
  lanesBetween: question('lanesBetween'),
  clearLanes: question('clearLanes'),
  contents: question('contents'),
  checkExport: question('checkExport'),
  unfold: question('unfold'),
  bringParts: question('bringParts'),
  planExport: question('planExport'),
  checkFormats: question('checkFormats'),
  exportSound: question('exportSound'),
  writeExport: question('writeExport'),
  packSession: (...args) => call('packSession', () => args) as Promise<Uint8Array>,
  stopExport: () => call('stopExport', () => []) as Promise<void>,
};
