import { OrdleError, readSessionFile, type SessionFile } from '@ordle/core';

async function through(bytes: Uint8Array, transform: DecompressionStream) {
  const stream = new Blob([bytes.slice()]).stream().pipeThrough(transform);
  return new Uint8Array(await new Response(stream).arrayBuffer());
}

/** What such a file holds. Throws OrdleError `session-file` where it is damaged. */
export async function unpackSession(bytes: Uint8Array): Promise<SessionFile> {
  const text = await through(bytes, new DecompressionStream('gzip')).catch(() => {
    throw new OrdleError('session-file', 'This session file is damaged, or it was cut short.');
  });
  return readSessionFile(new TextDecoder().decode(text));
}
