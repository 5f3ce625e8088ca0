/**
 * Text of a meta event. The standard leaves the encoding open: UTF-8 where the bytes are valid UTF-8, else Latin-1,
 * which every byte string is.
 */
export function decodeText(bytes: Uint8Array): string {
  let text = '';
  for (let at = 0; at < bytes.length;) {
    const lead = bytes[at];
    const extra =
      lead < 0x80
        ? 0
        : lead >= 0xc2 && lead < 0xe0
          ? 1
          : lead >= 0xe0 && lead < 0xf0
            ? 2
            : lead >= 0xf0 && lead < 0xf5
              ? 3
              : -1;
    if (extra < 0 || at + extra >= bytes.length + (extra === 0 ? 1 : 0)) return latin1(bytes);
    let code = extra === 0 ? lead : lead & (0x3f >> extra);
    for (let index = 1; index <= extra; index++) {
      if (bytes[at + index] >> 6 !== 2) return latin1(bytes);
      code = (code << 6) | (bytes[at + index] & 0x3f);
    }
    if (code > 0x10ffff || (code >= 0xd800 && code < 0xe000)) return latin1(bytes);
    text += String.fromCodePoint(code);
    at += extra + 1;
  }
  return text;
}

function latin1(bytes: Uint8Array): string {
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  return text;
}

/** UTF-8 bytes of a text. */
export function encodeText(text: string): Uint8Array {
  const bytes: number[] = [];
  for (const character of text) {
    const code = character.codePointAt(0) ?? 0;
    if (code < 0x80) bytes.push(code);
    else if (code < 0x800) bytes.push(0xc0 | (code >> 6), 0x80 | (code & 0x3f));
    else if (code < 0x10000)
      bytes.push(0xe0 | (code >> 12), 0x80 | ((code >> 6) & 0x3f), 0x80 | (code & 0x3f));
    else
      bytes.push(
        0xf0 | (code >> 18),
        0x80 | ((code >> 12) & 0x3f),
        0x80 | ((code >> 6) & 0x3f),
        0x80 | (code & 0x3f),
      );
  }
  return Uint8Array.from(bytes);
}
