import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileOfNotes, hasSox, trackOf, type PlainNote } from '../../testing/files';
import { filesWritten, scratchInMemory, sourceOf, workshop } from '../../testing/exporting';
import { temporaryFolder } from '../../testing/folder';
import { planExport, writeExport } from '../plan';
import { choiceOf, together } from '../../testing/exporting';

const wav = (options: object = {}) => ({ format: 'wav', options });

/** What the header says, and the samples from -1 to 1: written after the format's description, not after our writer. */
function readWav(bytes: Uint8Array) {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const text = (at: number) => Buffer.from(bytes.subarray(at, at + 4)).toString('latin1');
  expect([text(0), text(8), text(12), text(36)]).toEqual(['RIFF', 'WAVE', 'fmt ', 'data']);
  const bits = view.getUint16(34, true);
  const length = view.getUint32(40, true);
  expect(view.getUint32(4, true)).toBe(36 + length);
  expect(bytes.length).toBe(44 + length);
  expect([view.getUint16(20, true), view.getUint16(22, true)]).toEqual([1, 2]);
  const wide = bits / 8;
  const samples = Float64Array.from({ length: length / wide }, (_, at) => {
    const place = 44 + at * wide;
    if (bits === 16) return view.getInt16(place, true) / 32767;
    return ((view.getInt8(place + 2) << 16) | view.getUint16(place, true)) / 8388607;
  });
  return { bits, rate: view.getUint32(24, true), frames: samples.length / 2, samples };
}
const peakOf = (samples: Float64Array) => samples.reduce((most, each) => Math.max(most, Math.abs(each)), 0);

/** Two parts on two channels, 120 bpm: one note of a second at the start, one of half a second from 1 s. */
const TWO = (() => {
  const notes: PlainNote[] = [
    [0, 960, 60, 40],
    [960, 1440, 64, 80, 1],
  ];
  const file = fileOfNotes(notes);
  return { ...file, format: 1 as const, tracks: [trackOf([]), ...file.tracks] };
})();

describe('sound files', () => {
  it('peak at -1 dB by one gain for the mix and its parts, which together are the mix', async () => {
    const files = await filesWritten(sourceOf(TWO), wav({ bits: 24, files: 'both' }));
    const [mix, ...parts] = Object.values(files).map(readWav);
    expect(Object.keys(files).length).toBe(3);
    expect([mix.rate, mix.bits]).toEqual([44100, 24]);
    expect(20 * Math.log10(peakOf(mix.samples))).toBeCloseTo(-1, 3);
    const worst = mix.samples.reduce(
      (most, each, at) =>
        Math.max(most, Math.abs(each - parts.reduce((sum, { samples }) => sum + samples[at], 0))),
      0,
    );
    expect(worst).toBeLessThan(1e-6);
    // Half as loud a part is half as loud in its file.
    expect(peakOf(parts[0].samples) / peakOf(parts[1].samples)).toBeCloseTo(0.5, 3);
  });

  it('as heard have the samples as they are; what is beyond the range is held', async () => {
    const { samples } = readWav(
      Object.values(await filesWritten(sourceOf(TWO), wav({ level: 'heard', bits: 24 })))[0],
    );
    expect(samples[2 * 1000]).toBeCloseTo(0.4, 5);
    expect(samples[2 * 1000 + 1]).toBeCloseTo(0.2, 5);
    const loud = sourceOf(fileOfNotes([[0, 960, 60, 127]]));
    const told: string[] = [];
    const shop = { ...workshop, tell: (sentence: string) => void told.push(sentence) };
    const held = readWav(Object.values(await filesWritten(loud, wav({ level: 'heard' }), {}, shop))[0]);
    expect(peakOf(held.samples)).toBe(1);
    expect(told).toEqual([expect.stringMatching(/louder than a file can hold: 44,\d{3} samples/)]);
  });

  it('ring until they are quiet, or end where the bar does', async () => {
    const ring = readWav(Object.values(await filesWritten(sourceOf(TWO), wav()))[0]);
    // Halved a hundred times a second, 0.8 is below -80 dB after 0.13 s; a tenth of a second of that is waited for.
    expect(ring.frames / 44100).toBeGreaterThan(1.5 + 0.1);
    expect(ring.frames / 44100).toBeLessThan(1.5 + 0.27);
    const bar = readWav(
      Object.values(await filesWritten(sourceOf(TWO), wav({ tail: 'bar', rate: 48000 })))[0],
    );
    expect(bar.frames).toBe(2 * 48000);
    const second = readWav(
      Object.values(
        await filesWritten(sourceOf(TWO), wav({ tail: 'bar' }), { extent: { of: 'bars', bars: [1, 2] } }),
      )[0],
    );
    expect(second.frames).toBe(2 * 44100);
    expect(Math.abs(second.samples[second.samples.length - 2])).toBeLessThan(1e-3);
  });

  it('are dithered where something sounds, the same each time, and silent where nothing does', async () => {
    const late = sourceOf(fileOfNotes([[960, 1920, 60, 50]]));
    const [one, other] = [await filesWritten(late, wav()), await filesWritten(late, wav())];
    expect(one).toEqual(other);
    const { samples } = readWav(one['Quay.wav']);
    expect(peakOf(samples.subarray(0, 2 * 44000))).toBe(0);
    // A level between two steps is told by how often each of several steps is met.
    const held = samples.subarray(2 * 50000, 2 * 60000).filter((_, at) => at % 2 === 0);
    const steps = new Set([...held].map((each) => Math.round(each * 32767)));
    expect(steps.size).toBeGreaterThanOrEqual(3);
    expect(steps.size).toBeLessThanOrEqual(4);
    const mean = held.reduce((sum, each) => sum + each, 0) / held.length;
    expect(mean).toBeCloseTo(10 ** (-1 / 20), 6);
  });

  const withSox = hasSox ? it : it.skip;
  if (!hasSox) console.warn('sox is not installed: its check did NOT run.');
  withSox('are read by sox as they were meant: frames, rate, peak and silence', async () => {
    const folder = temporaryFolder();
    const file = path.join(folder, 'quay.wav');
    const late = sourceOf(fileOfNotes([[960, 1920, 60, 50]]));
    for (const [bits, rate] of [
      [16, 44100],
      [24, 96000],
    ]) {
      const bytes = (await filesWritten(late, wav({ bits, rate, tail: 'bar' })))['Quay.wav'];
      writeFileSync(file, bytes);
      const sox = (...args: string[]) => execFileSync('sox', args, { encoding: 'utf8', stdio: 'pipe' });
      const info = (flag: string) => sox('--i', flag, file).trim();
      expect([info('-s'), info('-r'), info('-b'), info('-c')].map(Number)).toEqual([2 * rate, rate, bits, 2]);
      const shown = (...effects: string[]) =>
        execFileSync('sh', ['-c', `sox "${file}" -n ${effects.join(' ')} stats 2>&1`], { encoding: 'utf8' });
      expect(Number(/Pk lev dB\s+(\S+)/.exec(shown())?.[1])).toBe(-1);
      expect(/Pk lev dB\s+(\S+)/.exec(shown('trim', '0', '0.99'))?.[1]).toBe('-inf');
    }
  });

  it('too long for their format are refused before anything is rendered, and what is stopped leaves nothing', async () => {
    const days = sourceOf(fileOfNotes([[0, 480 * 2 * 60 * 60 * 24, 60, 90]]));
    await expect(filesWritten(days, wav())).rejects.toMatchObject({ code: 'too-long' });
    let scratches = 0;
    const counted = {
      ...workshop,
      scratch() {
        const scratch = scratchInMemory();
        scratches++;
        return { ...scratch, drop: () => void scratches-- };
      },
      pause: () => (scratches > 0 ? Promise.reject(new Error('stopped')) : Promise.resolve()),
    };
    const source = sourceOf(TWO);
    const plan = planExport(source, choiceOf(source, [wav({ files: 'both' })]));
    await expect(together(writeExport(plan, counted))).rejects.toThrow('stopped');
    expect(scratches).toBe(0);
  });
});
