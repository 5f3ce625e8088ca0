import { SOUND_BLOCK, type Instruments } from '@ordle/core';
import { filesWritten, sourceOf, workshop } from '../core/testing/exporting';
import { fileOfNotes, trackOf, type PlainNote } from '../core/testing/files';
import { instrumentsOf } from './instruments';
import { BLOCK } from './renderer';
import { bank } from './testing/sound';

const shop = { ...workshop, instruments: ((...asked) => instrumentsOf(bank())(...asked)) as Instruments };

/** 24-bit samples of both sides, from -1 to 1, by turns. */
function samplesOf(bytes: Uint8Array): Float64Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset + 44);
  return Float64Array.from({ length: (bytes.length - 44) / 3 }, (_, at) => {
    const value = (view.getInt8(3 * at + 2) << 16) | view.getUint16(3 * at, true);
    return value / 8388607;
  });
}
const written = async (notes: readonly PlainNote[], options: object) => {
  const file = fileOfNotes(notes);
  const source = sourceOf({ ...file, format: 1, tracks: [trackOf([]), ...file.tracks] });
  return Object.values(
    await filesWritten(source, { format: 'wav', options: { bits: 24, ...options } }, {}, shop),
  );
};

describe('the instruments, as sound files have them', () => {
  it('are rendered in blocks of the size that is heard', () => expect(SOUND_BLOCK).toBe(BLOCK));

  it('begin each stroke within a millisecond of where it is written', async () => {
    // Strokes on a side stick that are over before the next, at uneven ticks: 120 bpm, 480 to the quarter.
    const ticks = [7, 1931, 3853, 5784, 7690];
    const notes = ticks.map((tick): PlainNote => [tick, tick + 40, 37, 100, 9]);
    for (const rate of [44100, 48000]) {
      const [bytes] = await written(notes, { rate });
      const samples = samplesOf(bytes);
      let from = 0;
      for (const tick of ticks) {
        while (samples[2 * from] === 0 && samples[2 * from + 1] === 0) from++;
        expect(Math.abs(from / rate - tick / 960)).toBeLessThan(0.001);
        // On to where it has been silent for a hundredth of a second.
        for (let silent = 0; silent < rate / 100 && 2 * from < samples.length; from++)
          silent = samples[2 * from] === 0 && samples[2 * from + 1] === 0 ? silent + 1 : 0;
      }
    }
  });

  it('are together in the mix what they are apart, for some hundred notes of three parts', async () => {
    const notes = Array.from({ length: 240 }, (_, at): PlainNote => {
      const channel = [0, 1, 9][at % 3];
      const pitch = channel === 9 ? 36 + (at % 12) : 40 + ((at * 7) % 36);
      return [at * 60, at * 60 + 150, pitch, 40 + ((at * 11) % 80), channel];
    });
    const [mix, ...parts] = (await written(notes, { files: 'both' })).map(samplesOf);
    expect(parts.length).toBe(3);
    const [alone] = (await written(notes, { files: 'mix' })).map(samplesOf);
    expect(alone.length).toBe(mix.length);
    let [worst, between, peak] = [0, 0, 0];
    for (let at = 0; at < mix.length; at++) {
      worst = Math.max(worst, Math.abs(mix[at] - parts.reduce((sum, samples) => sum + samples[at], 0)));
      between = Math.max(between, Math.abs(mix[at] - alone[at]));
      peak = Math.max(peak, Math.abs(mix[at]));
    }
    expect(worst).toBeLessThan(1e-6);
    // The mix by itself adds the parts in another order.
    expect(between).toBeLessThan(1e-6);
    expect(20 * Math.log10(peak)).toBeCloseTo(-1, 3);
    for (const samples of parts) expect(samples.some((each) => Math.abs(each) > 0.01)).toBe(true);
  });
});
