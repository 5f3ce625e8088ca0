import { Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import { OrdleError } from '../errors';
import { NO_TIME } from '../formats';

/** A zip tells its places in 32 bits. */
const MOST_BYTES = 0xffffffff;

/** What is compressed already, or gains next to nothing by it. */
const IS_DENSE = /\.(wav|ordle|mxl)$/;

/** A file to be put into a zip: its bytes come as they are asked for. */
export interface ZippedFile {
  name: string;
  chunks: Iterable<Uint8Array> | AsyncIterable<Uint8Array>;
}

/**
 * Files as a zip (APPNOTE 6.3, with data descriptors), handed on while they are read: never more than a piece of one is
 * in memory. Throws `too-long` where it gets larger than a zip can tell.
 */
export async function* zipOf(
  files: Iterable<ZippedFile> | AsyncIterable<ZippedFile>,
): AsyncGenerator<Uint8Array> {
  const ready: Uint8Array[] = [];
  let fault: Error | null = null;
  let size = 0;
  const zip = new Zip((error, bytes) => {
    if (error) fault = error;
    else ready.push(bytes);
  });
  const taken = function* () {
    if (fault) throw fault;
    for (const bytes of ready.splice(0)) {
      size += bytes.length;
      if (size > MOST_BYTES)
        throw new OrdleError(
          'too-long',
          'All of it together is more than a zip can hold (4 GB). Export fewer files at once.',
        );
      yield bytes;
    }
  };
  for await (const { name, chunks } of files) {
    const entry = IS_DENSE.test(name) ? new ZipPassThrough(name) : new ZipDeflate(name, { level: 6 });
    entry.mtime = NO_TIME;
    zip.add(entry);
    for await (const bytes of chunks) {
      // The stream keeps what it is given: a copy where the piece is a view of something larger.
      entry.push(bytes, false);
      yield* taken();
    }
    entry.push(new Uint8Array(0), true);
    yield* taken();
  }
  zip.end();
  yield* taken();
}
