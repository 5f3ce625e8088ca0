import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/**
 * A running SHA-256 (FIPS 180-4) over chunks of bytes, for content keys; the platform's own works on one chunk, and
 * in a promise.
 */
export function createSha256() {
  const hash = sha256.create();
  return {
    update(bytes: Uint8Array): void {
      hash.update(bytes);
    },
    /** The digest in hexadecimal digits; nothing can be added after it. */
    digest: (): string => bytesToHex(hash.digest()),
  };
}
