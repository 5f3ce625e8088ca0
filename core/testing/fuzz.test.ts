import { readFileSync } from 'node:fs';
import path from 'node:path';
import { readMidi } from '../midi';
import { chunk, header, midiFilesBelow } from './files';
import { createRandom, damaged, fuzz } from './fuzz';
import { plainlyReadable } from './plainCount';

const FILES = midiFilesBelow(path.resolve(__dirname, '../../app/public/demo')).map(
  (file) => new Uint8Array(readFileSync(file)),
);
const SEED = 20261126;

describe('the count of what is plainly readable', () => {
  it('is all of a sound file, and stops where a doubt begins', () => {
    for (const bytes of FILES) {
      const { file, repairs } = readMidi(bytes);
      const events = file.tracks.reduce((sum, track) => sum + track.events.length, 0);
      // Some of them have stuck notes, for each of which a release was put in.
      expect(repairs.every(({ code }) => code === 'stuck-note')).toBe(true);
      expect(plainlyReadable(bytes)).toBe(events - repairs.length);
    }
    const body = [0, 0x90, 60, 80, 0x60, 60, 0, 0, 0xff, 0xaf, 0, 0, 0x80, 200, 0, 0, 0xff, 0x2f, 0];
    expect(plainlyReadable(Uint8Array.from([...header(0, 1, 96), ...chunk('MTrk', body)]))).toBe(3);
  });
});

describe('damaged files', () => {
  it('are read without a hang or a loss, written soundly, and go through every kind of step', () => {
    // For a long run: npm run fuzz -- 1000000
    const { done, fault, refused } = fuzz(FILES, 600, SEED);
    expect(fault).toBeNull();
    expect(done).toBe(600);
    expect(refused).toBeLessThan(200);
  }, 120_000);

  it('are read alone, many more of them', () => {
    const random = createRandom(SEED + 1);
    for (let count = 0; count < 6000; count++) {
      const bytes = damaged(FILES[random(FILES.length)], FILES[random(FILES.length)], random);
      try {
        const { file, repairs } = readMidi(bytes);
        const events = file.tracks.reduce((sum, track) => sum + track.events.length, 0);
        if (repairs.length === 0) expect(events).toBe(plainlyReadable(bytes));
      } catch (error) {
        expect(error).toMatchObject({ name: 'OrdleError' });
      }
    }
  }, 120_000);
});
