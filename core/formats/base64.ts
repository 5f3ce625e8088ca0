import { fromByteArray, toByteArray } from 'base64-js';
import { OrdleError } from '../errors';

/** Bytes as text (RFC 4648, section 4). */
export const toBase64 = (bytes: Uint8Array): string => fromByteArray(bytes);

/** The bytes of such a text. Throws OrdleError `base64` where it is none; the package takes any letters for bytes. */
export function fromBase64(text: string): Uint8Array {
  if (!/^[A-Za-z0-9+/]*={0,2}$/.test(text))
    throw new OrdleError('base64', 'It holds letters that stand for no bytes.');
  if (text.length % 4 !== 0) throw new OrdleError('base64', 'It was cut short.');
  return toByteArray(text);
}
