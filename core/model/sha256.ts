/** SHA-256 (FIPS 180-4), for content keys where no platform digest is at hand; checked against its test vectors. */
const K = new Uint32Array(64);
const INITIAL = new Uint32Array(8);

// The constants are the first 32 bits of the fractions of cube and square roots of the first primes (FIPS 180-4, 4.2.2, 5.3.3).
(function fillConstants() {
  const fraction = (value: number) => Math.floor((value - Math.floor(value)) * 0x100000000);
  let count = 0;
  for (let candidate = 2; count < 64; candidate++) {
    let prime = true;
    for (let divisor = 2; divisor * divisor <= candidate; divisor++)
      if (candidate % divisor === 0) prime = false;
    if (!prime) continue;
    if (count < 8) INITIAL[count] = fraction(Math.sqrt(candidate));
    K[count++] = fraction(Math.cbrt(candidate));
  }
})();

/** A running digest over chunks of bytes. */
export function createSha256() {
  const state = INITIAL.slice();
  const block = new Uint8Array(64);
  const words = new Uint32Array(64);
  let filled = 0;
  let total = 0;

  function compress(bytes: Uint8Array, offset: number) {
    for (let index = 0; index < 16; index++) {
      const at = offset + index * 4;
      words[index] = (bytes[at] << 24) | (bytes[at + 1] << 16) | (bytes[at + 2] << 8) | bytes[at + 3];
    }
    for (let index = 16; index < 64; index++) {
      const x = words[index - 15];
      const y = words[index - 2];
      const s0 = ((x >>> 7) | (x << 25)) ^ ((x >>> 18) | (x << 14)) ^ (x >>> 3);
      const s1 = ((y >>> 17) | (y << 15)) ^ ((y >>> 19) | (y << 13)) ^ (y >>> 10);
      words[index] = words[index - 16] + s0 + words[index - 7] + s1;
    }
    let [a, b, c, d, e, f, g, h] = state;
    for (let index = 0; index < 64; index++) {
      const s1 = ((e >>> 6) | (e << 26)) ^ ((e >>> 11) | (e << 21)) ^ ((e >>> 25) | (e << 7));
      const t1 = (h + s1 + ((e & f) ^ (~e & g)) + K[index] + words[index]) | 0;
      const s0 = ((a >>> 2) | (a << 30)) ^ ((a >>> 13) | (a << 19)) ^ ((a >>> 22) | (a << 10));
      const t2 = (s0 + ((a & b) ^ (a & c) ^ (b & c))) | 0;
      h = g;
      g = f;
      f = e;
      e = (d + t1) | 0;
      d = c;
      c = b;
      b = a;
      a = (t1 + t2) | 0;
    }
    [a, b, c, d, e, f, g, h].forEach((value, index) => (state[index] += value));
  }

  function update(bytes: Uint8Array) {
    total += bytes.length;
    let at = 0;
    if (filled > 0) {
      at = Math.min(64 - filled, bytes.length);
      block.set(bytes.subarray(0, at), filled);
      filled += at;
      if (filled < 64) return;
      compress(block, 0);
      filled = 0;
    }
    for (; at + 64 <= bytes.length; at += 64) compress(bytes, at);
    block.set(bytes.subarray(at), 0);
    filled = bytes.length - at;
  }

  function digest(): string {
    const bits = total * 8;
    const tail = new Uint8Array((filled < 56 ? 64 : 128) - filled);
    tail[0] = 0x80;
    const view = new DataView(tail.buffer);
    view.setUint32(tail.length - 8, Math.floor(bits / 0x100000000));
    view.setUint32(tail.length - 4, bits >>> 0);
    update(tail);
    return Array.from(state, (word) => word.toString(16).padStart(8, '0')).join('');
  }

  return { update, digest };
}
