import { OrdleError, readSessionFile, writeSessionFile, type SessionFile } from '@ordle/core';

async function through(bytes: Uint8Array, transform: CompressionStream | DecompressionStream) {
  const stream = new Blob([bytes.slice()]).stream().pipeThrough(transform);
  return new Uint8Array(await new Response(stream).arrayBuffer());
}

/** A session with all it refers to as the bytes of a file. */
export const packSession = (file: SessionFile): Promise<Uint8Array> =>
  through(new TextEncoder().encode(writeSessionFile(file)), new CompressionStream('gzip'));

/** What such a file holds. Throws OrdleError `session-file` where it is damaged. */
export async function unpackSession(bytes: Uint8Array): Promise<SessionFile> {
  const text = await through(bytes, new DecompressionStream('gzip')).catch(() => {
    throw new OrdleError('session-file', 'This session file is damaged, or it was cut short.');
  });
  return readSessionFile(new TextDecoder().decode(text));
}
