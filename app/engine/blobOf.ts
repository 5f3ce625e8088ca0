/** So many bytes are handed to the browser at once: what it has need not be held in memory here. */
const BYTES_AT_ONCE = 4_000_000;

/** Bytes as they come as one blob. `pause` is waited for after each piece, and what it throws ends it. */
export async function blobOf(
  chunks: AsyncIterable<Uint8Array>,
  { type = '', pause }: { type?: string; pause?: () => Promise<void> } = {},
): Promise<Blob> {
  const pieces: Blob[] = [];
  let [held, size]: [Uint8Array<ArrayBuffer>[], number] = [[], 0];
  for await (const bytes of chunks) {
    held.push(bytes as Uint8Array<ArrayBuffer>);
    size += bytes.length;
    await pause?.();
    if (size < BYTES_AT_ONCE) continue;
    pieces.push(new Blob(held));
    [held, size] = [[], 0];
  }
  return new Blob([...pieces, ...held], { type });
}
