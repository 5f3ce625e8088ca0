import fc from 'fast-check';
import { readMidi, type MidiFile } from '../midi';
import { eventLines, fileOfNotes, filesOfOthers, trackOf } from '../testing/files';
import { LAYER, anyNotes, controllers, merged, notesIn, pedal } from '../testing/mergedFiles';
import { readFileSync } from 'node:fs';
import { separateFile } from './separateFile';

describe('a file separated', () => {
  const by = ['channel', 'pitch:61', 'drum', 'voice', 'hand'];
  const noteCount = (file: MidiFile) => notesIn(file).length;

  it('has every note in exactly one share, with the controllers of its channel and the conductor in each', () => {
    fc.assert(
      fc.property(anyNotes, fc.constantFrom(...by), (notes, rule) => {
        const file = fileOfNotes(notes, 480, [
          pedal(0, 127),
          [0, 0xff, 0x51, 0, [0x08, 0x7a, 0x23]],
          [0, 0xc0, 5],
        ]);
        const shares = separateFile(file, rule);
        const together = shares.flatMap((share) => notesIn(share.file));
        together.sort((a, b) => a[0] - b[0] || a[2] - b[2] || a[1] - b[1] || a[3] - b[3]);
        expect(together).toEqual(notesIn(file));
        for (const share of shares) {
          expect(share.notes).toBe(noteCount(share.file));
          expect(controllers(share.file, 64)).toEqual([[0, 127]]);
          const lines = share.file.tracks.flatMap(({ events }) => eventLines(events));
          expect(lines.filter((line) => line.startsWith('0 ff 81'))).toHaveLength(1);
          expect(lines.filter((line) => line.startsWith('0 c0 5'))).toHaveLength(1);
        }
        if (shares.length > 0)
          expect(notesIn(merged(LAYER, ...shares.map((share) => share.file)).file)).toEqual(notesIn(file));
      }),
    );
  });

  it('names its shares, a drum channel whole unless it is separated by drum', () => {
    const file: MidiFile = {
      ...fileOfNotes([]),
      format: 1,
      tracks: [
        trackOf([]),
        trackOf([
          [0, 0x90, 48, 90],
          [0, 0x90, 60, 90],
          [0, 0x90, 64, 90],
          [400, 0x80, 48, 0],
          [400, 0x80, 60, 0],
          [400, 0x80, 64, 0],
        ]),
        trackOf([
          [0, 0x99, 42, 90],
          [0, 0x99, 87, 90],
          [400, 0x89, 42, 0],
          [400, 0x89, 87, 0],
        ]),
      ],
    };
    const labels = (rule: string) => separateFile(file, rule).map((share) => `${share.label} ${share.notes}`);
    expect(labels('channel')).toEqual(['ch1 3', 'ch10 2']);
    expect(labels('pitch:60')).toEqual(['low 1', 'high 2', 'drums 2']);
    expect(labels('voice')).toEqual(['highest 1', 'lowest 1', 'inner 1', 'drums 2']);
    expect(labels('drum')).toEqual(expect.arrayContaining(['closed-hi-hat 1', 'note-87 1']));
    expect(separateFile(fileOfNotes([]), 'voice')).toEqual([]);
  });

  it('comes back equal when files by others are separated and layered again', () => {
    const files = filesOfOthers().filter((name) => readFileSync(name).length < 40_000);
    expect(files.length).toBeGreaterThan(5);
    let tried = 0;
    for (const name of files.slice(0, 8)) {
      const read = (() => {
        try {
          return readMidi(readFileSync(name)).file;
        } catch {
          return null;
        }
      })();
      if (!read || read.format === 2 || noteCount(read) === 0) continue;
      tried++;
      const starts = (file: MidiFile) =>
        notesIn(file)
          .map(([start, , pitch, velocity, channel]) => [start, pitch, velocity, channel].join(' '))
          .sort();
      for (const rule of ['channel', 'pitch:60']) {
        const shares = separateFile(read, rule).map((share) => share.file);
        expect(starts(merged(LAYER, ...shares).file).join('\n')).toBe(starts(read).join('\n'));
      }
    }
    expect(tried).toBeGreaterThan(3);
  });
});
