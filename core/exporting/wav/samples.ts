/** Linear pulse code with 16 or 24 bits, two channels. */
export type Bits = 16 | 24;

export const bytesOfFrame = (bits: Bits): number => (bits / 8) * 2;

/** Bytes of samples a RIFF file can hold: its length is told in 32 bits. */
export const MOST_BYTES = 0xffffffff - 36;

/**
 * The header of a RIFF WAVE file of linear pulse code ("Multimedia Programming Interface and Data Specifications 1.0",
 * from memory; little-endian), two channels, for so many frames.
 */
export function wavHeader(frames: number, rate: number, bits: Bits): Uint8Array {
  const frame = bytesOfFrame(bits);
  const view = new DataView(new ArrayBuffer(44));
  const word = (at: number, text: string) =>
    [...text].forEach((letter, place) => view.setUint8(at + place, letter.charCodeAt(0)));
  word(0, 'RIFF');
  view.setUint32(4, 36 + frames * frame, true);
  word(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 2, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * frame, true);
  view.setUint16(32, frame, true);
  view.setUint16(34, bits, true);
  word(36, 'data');
  view.setUint32(40, frames * frame, true);
  return new Uint8Array(view.buffer);
}

/**
 * Turns samples (-1 to 1, left and right by turns) into bytes, `gain` times as large, with triangular dither of two
 * steps (common practice) so that what is softer than a step is noise and not distortion. Silence stays silence. The
 * dither is the same in every file. What is beyond the range is held at its end, and counted.
 */
export function createQuantizer(bits: Bits, gain: number) {
  const most = 2 ** (bits - 1) - 1;
  const least = -most - 1;
  const wide = bits / 8;
  const scale = gain * most;
  let state = 0x2545f491;
  let clipped = 0;
  return {
    clipped: () => clipped,
    bytesOf(samples: Float32Array): Uint8Array {
      const { length } = samples;
      const bytes = new Uint8Array(length * wide);
      // Here, not in what is shared: this runs for every sample of every file.
      let random = state;
      let beyond = 0;
      for (let at = 0, place = 0; at < length; at++, place += wide) {
        const sample = samples[at];
        if (sample === 0) continue;
        // 32 random bits after Marsaglia, "Xorshift RNGs" (2003), from memory; each half of them is one of two dice.
        random ^= random << 13;
        random ^= random >>> 17;
        random ^= random << 5;
        const dither = ((random & 0xffff) - (random >>> 16)) / 65536;
        let value = Math.floor(sample * scale + dither + 0.5);
        if (value > most) {
          value = most;
          beyond++;
        } else if (value < least) {
          value = least;
          beyond++;
        }
        bytes[place] = value;
        bytes[place + 1] = value >> 8;
        if (wide === 3) bytes[place + 2] = value >> 16;
      }
      state = random;
      clipped += beyond;
      return bytes;
    },
  };
}
