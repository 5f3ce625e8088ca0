import '@/zodWithoutEval';
import {
  chosenParts,
  cleanMusic,
  createEvaluator,
  isCompressed,
  midiOfSessionFile,
  OrdleError,
  readMusic,
  sentenceOf,
  sessionOfFile,
  soundingOf,
  timingPictureOfSession,
  zipOf,
  type Cleaning,
  type LatenessStrip,
  type Sounding,
  type Take,
} from '@ordle/core';
import { unzipSync } from 'fflate';
import { blobOf } from '@/engine/blobOf';
import { exposeAnswers } from '@/engine/exposeAnswers';
import { unpackSession } from '@/engine/sessionFile';
import { keepResult, readBytes, readFile, readMany, type ManyFile } from '@/storage/manyFiles';
import { freeName, resultPath } from './resultPath';

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
  return timingPictureOfSession(session, evaluator);
}

/** A file for a zip; `isZip`: it is one itself. */
export interface ZippedContent {
  path: string;
  content: Blob;
  isZip: boolean;
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
    return blobOf(zipOf(entries()), { type: 'application/zip' });
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
    return blobOf(zipOf(entries()), { type: 'application/zip' });
  },
};

export type Cleaner = typeof cleaner;

exposeAnswers(cleaner);
