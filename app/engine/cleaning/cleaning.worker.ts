import '@/zodWithoutEval';
import {
  chosenParts,
  cleanMusic,
  createEvaluator,
  isCompressed,
  listOf,
  midiOfSessionFile,
  OrdleError,
  readMusic,
  sentenceOf,
  sessionOfFile,
  soundingOf,
  timelineOf,
  timingPictureOf,
  zipOf,
  type Cleaning,
  type LatenessStrip,
  type Sounding,
  type Take,
} from '@ordle/core';
import { expose } from 'comlink';
import { unzipSync } from 'fflate';
import { unpackSession } from '@/engine/sessionFile';
import { keepResult, readBytes, readFile, readMany, type ManyFile } from '@/storage/manyFiles';
import { packError } from '@/engine/packedError';
import { freeName, resultPath } from './resultPath';

/** Larger files have no picture: it would hold up those that wait. */
const MOST_NOTES = 300_000;

/** The bytes of a MIDI file; of a session file what it would be exported as. */
const midiBytes = async (bytes: Uint8Array): Promise<Uint8Array> =>
  isCompressed(bytes) ? midiOfSessionFile(await unpackSession(bytes)) : bytes;

async function bytesOf(which: 'given' | 'made', index: number): Promise<Uint8Array> {
  const bytes = await readBytes(which, index);
  if (!bytes) throw new OrdleError('no-file', 'This file was put away meanwhile.');
  return bytes;
}

/** A file as a session with its takes in memory. */
function opened(bytes: Uint8Array) {
  let next = 0;
  const { session, takes } = sessionOfFile(
    readMusic(bytes).file,
    '',
    () => `${next++}`,
    0,
    (_, place) => `${place}`,
  );
  const byKey = new Map(takes.map((take) => [take.key, take]));
  const takeOf = (key: string) => byKey.get(key) as Take;
  return { session, takeOf, evaluator: createEvaluator(takeOf) };
}

function pictureOf(bytes: Uint8Array): LatenessStrip | null {
  const { session, evaluator } = opened(bytes);
  const count = listOf(session.takes).reduce((sum, { noteCount }) => sum + noteCount, 0);
  if (count === 0 || count > MOST_NOTES) return null;
  const timeline = timelineOf(session);
  const read = listOf(session.parts).map((part) => ({
    part,
    evaluation: evaluator.evaluate(part, session, timeline),
  }));
  return timingPictureOf(read, timeline);
}

/** A file for a zip; `isZip`: it is one itself. */
export interface ZippedContent {
  path: string;
  content: Blob;
  isZip: boolean;
}

/** Bytes as they come as one blob, in pieces that the browser need not hold in memory. */
async function blobOf(chunks: AsyncIterable<Uint8Array>): Promise<Blob> {
  const pieces: Blob[] = [];
  let [held, size]: [Uint8Array<ArrayBuffer>[], number] = [[], 0];
  for await (const bytes of chunks) {
    held.push(bytes as Uint8Array<ArrayBuffer>);
    size += bytes.length;
    // What is handed to the browser early need not be held in memory here.
    if (size < 4_000_000) continue;
    pieces.push(new Blob(held));
    [held, size] = [[], 0];
  }
  return new Blob([...pieces, ...held], { type: 'application/zip' });
}

/** One of the threads that clean many files. It reads from storage and writes there: no bytes go through the page. */
const cleaner = {
  /** Cleans a file. What goes wrong with it is in what is told of it; throws only where nothing can be stored. */
  async clean(index: number, cleaning: Cleaning): Promise<ManyFile> {
    const record = await readFile(index);
    if (!record) throw new OrdleError('no-file', 'This file was put away meanwhile.');
    try {
      const { bytes, ...made } = cleanMusic(await midiBytes(await bytesOf('given', index)), cleaning);
      const done: ManyFile = {
        ...record,
        state: 'done',
        made: { ...made, size: bytes.length },
        sentence: null,
      };
      await keepResult(done, bytes);
      return done;
    } catch (error) {
      if (error instanceof OrdleError && error.code.startsWith('storage')) throw error;
      const sentence = error instanceof RangeError ? 'It needs more room than there is.' : sentenceOf(error);
      const failed: ManyFile = { ...record, state: 'failed', made: null, sentence };
      await keepResult(failed, null);
      return failed;
    }
  },

  /** How late and early it is along its length as it came, and as it was made; null without notes. */
  async pictures(index: number) {
    const before = pictureOf(await midiBytes(await bytesOf('given', index)));
    return { before, after: pictureOf(await bytesOf('made', index)) };
  },

  /** What is heard of it. */
  async sounding(which: 'given' | 'made', index: number): Promise<Sounding> {
    const { session, takeOf, evaluator } = opened(await midiBytes(await bytesOf(which, index)));
    const parts = session.parts.order;
    return soundingOf(chosenParts(session, { version: 'cleaned', parts }, evaluator), takeOf);
  },

  /** Files as one zip; what is in those that are zips comes in a folder of that name. */
  zipFiles(files: readonly ZippedContent[]): Promise<Blob> {
    const taken = new Set<string>();
    const entries = async function* () {
      for (const { path, content, isZip } of files) {
        const bytes = new Uint8Array(await content.arrayBuffer());
        if (!isZip) yield { name: freeName(path, taken), chunks: [bytes] };
        else {
          const folder = freeName(path, taken);
          for (const [name, held] of Object.entries(unzipSync(bytes)))
            yield { name: `${folder}/${name}`, chunks: [held] };
        }
      }
    };
    return blobOf(zipOf(entries()));
  },

  /** Everything that was made as one zip, in the folders it came in. */
  async zip(tell: (done: number) => void): Promise<Blob> {
    const { files } = await readMany();
    const done = files.filter(({ state }) => state === 'done');
    const taken = new Set<string>();
    const entries = async function* () {
      for (const [at, { index, path }] of done.entries()) {
        tell(at);
        const bytes = await bytesOf('made', index);
        yield { name: resultPath(path, taken), chunks: [bytes] };
      }
    };
    return blobOf(zipOf(entries()));
  },
};

export type Cleaner = typeof cleaner;

/** Errors cross the thread border as plain values. */
expose(
  Object.fromEntries(
    Object.entries(cleaner).map(([name, act]) => [
      name,
      async (...given: unknown[]) => {
        try {
          return { value: await (act as (...given: unknown[]) => Promise<unknown>)(...given) };
        } catch (error) {
          return { error: packError(error) };
        }
      },
    ]),
  ),
);
