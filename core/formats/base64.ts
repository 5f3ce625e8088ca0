import { OrdleError } from '../errors';

const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

const VALUES = new Int16Array(128).fill(-1);
[...LETTERS].forEach((letter, value) => (VALUES[letter.charCodeAt(0)] = value));

/** Bytes as text (RFC 4648, section 4). */
export function toBase64(bytes: Uint8Array): string {
  const chunks: string[] = [];
  for (let from = 0; from < bytes.length; from += 3 * 8192) {
    const end = Math.min(bytes.length, from + 3 * 8192);
    let text = '';
    for (let at = from; at < end; at += 3) {
      const [a, b, c] = [bytes[at], at + 1 < end ? bytes[at + 1] : 0, at + 2 < end ? bytes[at + 2] : 0];
      text += LETTERS[a >> 2] + LETTERS[((a & 3) << 4) | (b >> 4)];
      text += at + 1 < end ? LETTERS[((b & 15) << 2) | (c >> 6)] : '=';
      text += at + 2 < end ? LETTERS[c & 63] : '=';
    }
    chunks.push(text);
  }
  return chunks.join('');
}

/** The bytes of such a text. Throws OrdleError `base64` where it is none. */
export function fromBase64(text: string): Uint8Array {
  const padding = text.endsWith('==') ? 2 : text.endsWith('=') ? 1 : 0;
  const letters = text.length - padding;
  const bytes = new Uint8Array(Math.floor((letters * 6) / 8));
  let [bits, held, at] = [0, 0, 0];
  for (let index = 0; index < letters; index++) {
    const code = text.charCodeAt(index);
    const value = code < 128 ? VALUES[code] : -1;
    if (value < 0) throw new OrdleError('base64', 'It holds letters that stand for no bytes.');
    held = (held << 6) | value;
    bits += 6;
    if (bits < 8) continue;
    bits -= 8;
    bytes[at++] = (held >> bits) & 255;
  }
  if (text.length % 4 !== 0) throw new OrdleError('base64', 'It was cut short.');
  return bytes;
}
