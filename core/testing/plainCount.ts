/**
 * How many events of a Standard MIDI File can be read without any doubt. Written by itself from the standard
 * (RP-001), sharing no code with the reader, so that it can bear witness against it: whatever is counted here, a
 * reader must have found too.
 */
export function plainlyReadable(bytes: Uint8Array): number {
  const word = (at: number) =>
    bytes[at] * 0x1000000 + bytes[at + 1] * 0x10000 + bytes[at + 2] * 0x100 + bytes[at + 3];
  const isName = (at: number, name: string) =>
    [...name].every((letter, index) => bytes[at + index] === letter.charCodeAt(0));
  if (bytes.length < 14 || !isName(0, 'MThd') || word(4) !== 6) return 0;
  let count = 0;
  let at = 14;
  while (at + 8 <= bytes.length && isName(at, 'MTrk')) {
    const end = at + 8 + word(at + 4);
    if (end > bytes.length) break;
    // A chunk that another may follow, or the end of the file.
    if (end !== bytes.length && !isName(end, 'MTrk')) break;
    count += plainEvents(bytes, at + 8, end);
    at = end;
  }
  return count;
}

/** Events from `at` on up to the first that is open to doubt, or the end of track. */
function plainEvents(bytes: Uint8Array, at: number, end: number): number {
  let count = 0;
  let running = -1;
  const quantity = (from: number): [value: number, next: number] | null => {
    let value = 0;
    for (let next = from; next < Math.min(end, from + 4); next++) {
      value = value * 128 + (bytes[next] % 128);
      if (bytes[next] < 128) return [value, next + 1];
    }
    return null;
  };
  for (;;) {
    // Where the name of a track stands between events, it may begin one.
    if (bytes[at] === 0x4d && bytes[at + 1] === 0x54 && bytes[at + 2] === 0x72 && bytes[at + 3] === 0x6b) return count;
    const delta = quantity(at);
    if (!delta) return count;
    let next = delta[1];
    if (next >= end) return count;
    if (bytes[next] === 0xff) {
      if (next + 1 >= end || bytes[next + 1] === 0x2f) return count;
      const size = quantity(next + 2);
      if (!size || size[1] + size[0] > end) return count;
      next = size[1] + size[0];
      running = -1;
    } else if (bytes[next] === 0xf0 || bytes[next] === 0xf7) {
      const size = quantity(next + 1);
      if (!size || size[1] + size[0] > end) return count;
      next = size[1] + size[0];
      running = -1;
    } else if (bytes[next] > 0xf0) return count;
    else {
      if (bytes[next] >= 0x80) running = bytes[next++];
      if (running < 0) return count;
      const size = running >= 0xc0 && running < 0xe0 ? 1 : 2;
      if (next + size > end) return count;
      for (let data = 0; data < size; data++) if (bytes[next + data] >= 0x80) return count;
      next += size;
    }
    count++;
    at = next;
  }
} // prettier-ignore
