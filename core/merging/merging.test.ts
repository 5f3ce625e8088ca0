import fc from 'fast-check';
import { readMidi, writeMidi, type MidiFile } from '../midi';
import { takesOfFile } from '../model';
import { eventLines, fileOfNotes, filesOfOthers, trackOf, type RawEvent } from '../testing/files';
import { readFileSync } from 'node:fs';
import { mergeFiles, type MergeOptions } from './mergeFiles';
import { matchParts } from './matchParts';
import { separateFile } from './separateFile';

// 480 ticks a quarter, 4/4 at 120 bpm: a bar is 1920 ticks, a tick 1.0417 ms, 60 ms 57.6 ticks.
const BAR = 1920;
type PlainNote = [start: number, end: number, pitch: number, velocity: number, channel?: number];
const LAYER: MergeOptions = { mode: 'layer', doubles: { keep: 'both', withinMs: 30 } };
const TIGHTEST: MergeOptions = { mode: 'tightest', grid: '1/16', penaltyMs: 2, missingMs: 0 };
const named = (...files: MidiFile[]) => files.map((file, index) => ({ name: `${index}.mid`, file }));
const merged = (options: MergeOptions, ...files: MidiFile[]) => mergeFiles(named(...files), options);

/** Start, end, pitch, velocity, channel of all notes, sorted, after a way through bytes. */
const notesIn = (file: MidiFile) =>
  takesOfFile(readMidi(writeMidi(file)).file)
    .flatMap(({ notes }) =>
      Array.from(notes.start, (start, row) => [
        start,
        notes.end[row],
        notes.pitch[row],
        notes.velocity[row],
        notes.channel[row],
      ]),
    )
    .sort((a, b) => a[0] - b[0] || a[2] - b[2] || a[1] - b[1] || a[3] - b[3]);
const controllers = (file: MidiFile, controller: number) =>
  file.tracks.flatMap(({ events }) =>
    Array.from(events.tick.keys())
      .filter((row) => (events.status[row] & 0xf0) === 0xb0 && events.data1[row] === controller)
      .map((row) => [events.tick[row], events.data2[row]]),
  );

const pedal = (tick: number, value: number): RawEvent => [tick, 0xb0, 64, value];

describe('layers', () => {
  it('have the pedal down while any has, and of other lanes the first that has them', () => {
    const one = fileOfNotes([[0, 100, 60, 90]], 480, [pedal(0, 127), pedal(960, 0), [0, 0xb0, 7, 100]]);
    const two = fileOfNotes([[0, 300, 64, 80]], 480, [
      [0, 0xb0, 7, 60],
      [0, 0xb0, 11, 50],
      pedal(480, 127),
      pedal(1440, 0),
    ]);
    const { file, told } = merged(LAYER, one, two);
    expect(controllers(file, 64)).toEqual([
      [0, 127],
      [1440, 0],
    ]);
    expect(controllers(file, 7)).toEqual([[0, 100]]);
    expect(controllers(file, 11)).toEqual([[0, 50]]);
    expect(told).toHaveLength(1);
    expect(told[0]).toContain('1.mid');
    expect(notesIn(file).map(([start, end]) => [start, end])).toEqual([
      [0, 100],
      [0, 300],
    ]);
  });

  it('take a pedal over without lifting it between', () => {
    const one = fileOfNotes([[0, 100, 60, 90]], 480, [pedal(0, 127), pedal(960, 0)]);
    const two = fileOfNotes([[0, 100, 64, 90]], 480, [pedal(960, 127), pedal(1440, 0)]);
    for (const order of [
      [one, two],
      [two, one],
    ])
      expect(controllers(merged(LAYER, ...order).file, 64)).toEqual([
        [0, 127],
        [1440, 0],
      ]);
  });

  it('say once what both say', () => {
    const text: RawEvent = [0, 0xff, 1, 0, [...Buffer.from('quay')]];
    const system: RawEvent = [10, 0xf0, 0, 0, [1, 2, 0xf7]];
    const file = fileOfNotes([[0, 100, 60, 90]], 480, [text, system, [0, 0xc0, 12]]);
    const lines = merged(LAYER, file, file).file.tracks.flatMap(({ events }) => eventLines(events));
    for (const sign of ['0 ff 1 0', '10 f0', '0 c0 12'])
      expect(lines.filter((line) => line.startsWith(sign))).toHaveLength(1);
  });

  it('drop doubles by the rule and count them', () => {
    const one = fileOfNotes([[0, 100, 60, 50]]);
    const two = fileOfNotes([[20, 140, 60, 90]]);
    const louder = merged({ mode: 'layer', doubles: { keep: 'louder', withinMs: 30 } }, one, two);
    expect(louder.dropped).toBe(1);
    expect(notesIn(louder.file)).toEqual([[20, 140, 60, 90, 0]]);
    expect(notesIn(merged(LAYER, one, two).file)).toHaveLength(2);
    const far = merged({ mode: 'layer', doubles: { keep: 'louder', withinMs: 20 } }, one, two);
    expect(far.dropped).toBe(0);
  });

  it('write strokes of one tick and pitch in the order of their ends', () => {
    const long = fileOfNotes([[0, 900, 60, 30]]);
    const short = fileOfNotes([[0, 200, 60, 90]]);
    // A reader that pairs first-in first-out finds each with its own velocity.
    expect(notesIn(merged(LAYER, long, short).file)).toEqual([
      [0, 200, 60, 90, 0],
      [0, 900, 60, 30, 0],
    ]);
  });

  it("are laid by their quarters in the finest division, in the first file's tempo, which is told", () => {
    const coarse = fileOfNotes([[96, 192, 60, 90]], 96, [[0, 0xff, 0x51, 0, [0x07, 0xa1, 0x20]]]);
    const fine = fileOfNotes([[961, 1200, 64, 80]], 960, [[0, 0xff, 0x51, 0, [0x09, 0x27, 0xc0]]]);
    const { file, told } = merged(LAYER, coarse, fine);
    expect(file.division).toEqual({ kind: 'metrical', ticksPerQuarter: 960 });
    expect(notesIn(file)).toEqual([
      [960, 1920, 60, 90, 0],
      [961, 1200, 64, 80, 0],
    ]);
    expect(told.join()).toContain('another tempo');
    // A file that names no tempo is at 120, as one that says so.
    expect(merged(LAYER, fileOfNotes([[0, 90, 60, 90]]), coarse).told).toEqual([]);
    const tempos = file.tracks[0].events;
    expect(eventLines(tempos).filter((line) => line.includes('ff 81'))).toEqual(['0 ff 81 0 07a120']);
  });
});

describe('parts of files', () => {
  const part = (name: string, channel: number) => ({ name, channel });
  it('go together by name and channel, then by order; what is left stands alone', () => {
    const [bass, keys, bell] = [part('bass', 2), part('keys', 1), part('bell', 3)];
    expect(
      matchParts([
        [bass, keys],
        [keys, bell],
      ]),
    ).toEqual([
      [0, 1],
      [1, 0],
    ]);
    expect(matchParts([[keys], [keys, bell], [bell]])).toEqual([
      [0, 0, null],
      [null, 1, 0],
    ]);
    expect(matchParts([[keys], [part('text', 0)]])).toEqual([
      [0, null],
      [null, 0],
    ]);
  });
});

const anyNotes = fc
  .array(
    fc.record({
      at: fc.integer({ min: 0, max: 4 * BAR }),
      length: fc.integer({ min: 1, max: 900 }),
      pitch: fc.integer({ min: 58, max: 64 }),
      velocity: fc.integer({ min: 1, max: 127 }),
    }),
    { minLength: 1, maxLength: 20 },
  )
  .map((list): PlainNote[] => {
    // No two of one pitch at once, as in what a person can play: pairing is then beyond doubt.
    const free = new Map<number, number>();
    return list
      .toSorted((a, b) => a.at - b.at)
      .flatMap(({ at, length, pitch, velocity }): PlainNote[] => {
        if ((free.get(pitch) ?? 0) > at) return [];
        free.set(pitch, at + length);
        return [[at, at + length, pitch, velocity]];
      });
  });

test('one file merged in any way is that file', () => {
  fc.assert(
    fc.property(anyNotes, (notes) => {
      const file = fileOfNotes(notes, 480, [pedal(0, 127), pedal(700, 0)]);
      for (const options of [LAYER, { mode: 'join' } as const, TIGHTEST]) {
        expect(notesIn(merged(options, file).file)).toEqual(notesIn(file));
        expect(controllers(merged(options, file).file, 64)).toEqual(controllers(file, 64));
      }
      expect(notesIn(merged(TIGHTEST, file, file).file)).toEqual(notesIn(file));
    }),
  );
});

describe('end to end', () => {
  const begins = (end: number) =>
    merged({ mode: 'join' }, fileOfNotes([[0, end, 60, 90]]), fileOfNotes([[0, 100, 62, 90]])).begins[1].tick;

  it('begins at the first bar line at or after the last end; one at most 60 ms past a line counts as at it', () => {
    expect([begins(100), begins(BAR), begins(BAR + 57), begins(BAR + 58)]).toEqual([BAR, BAR, BAR, 2 * BAR]);
  });

  it('loses, doubles and cuts no note, wherever the last one lies', () => {
    fc.assert(
      fc.property(anyNotes, anyNotes, (one, two) => {
        const { file, begins: at } = merged({ mode: 'join' }, fileOfNotes(one), fileOfNotes(two));
        const starts = notesIn(file).map(([start, , pitch]) => [start, pitch]);
        const expected = [
          ...one.map(([start, , pitch]) => [start, pitch]),
          ...two.map(([start, , pitch]) => [start + at[1].tick, pitch]),
        ].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
        expect(starts).toEqual(expected);
      }),
    );
    // Thirty ms after the line a note of the file before still sounds to its end.
    const late = fileOfNotes([[BAR - 20, BAR + 30, 60, 90]]);
    expect(notesIn(merged({ mode: 'join' }, late, fileOfNotes([[0, 100, 62, 90]])).file)).toEqual([
      [BAR - 20, BAR + 30, 60, 90, 0],
      [BAR, BAR + 100, 62, 90, 0],
    ]);
  });

  it('lifts a pedal that was left down', () => {
    const one = fileOfNotes([[0, 100, 60, 90]], 480, [pedal(0, 127)]);
    const { file } = merged({ mode: 'join' }, one, fileOfNotes([[0, 100, 62, 90]]));
    expect(controllers(file, 64)).toEqual([
      [0, 127],
      [BAR, 0],
    ]);
  });
});

describe('the tightest', () => {
  it('is chosen bar by bar, a steady lateness being no fault', () => {
    // The first is steadily 20 ticks late but for bar 2; the second is loose but for bar 2.
    const first = fileOfNotes(
      [20, 500, 980, 1460, BAR + 60, BAR + 460, BAR + 1020, 2 * BAR + 20, 2 * BAR + 500].map((at) => [
        at,
        at + 90,
        60,
        90,
      ]),
    );
    const second = fileOfNotes(
      [50, 440, 960, 1500, BAR, BAR + 480, BAR + 960, 2 * BAR + 55, 2 * BAR + 430].map((at) => [
        at,
        at + 90,
        60,
        40,
      ]),
    );
    const { file, chosen } = merged(TIGHTEST, first, second);
    expect(chosen?.bars.map(({ file: own }) => own)).toEqual([0, 1, 0]);
    expect(chosen?.switches).toBe(2);
    expect(notesIn(file).map(([start, , , velocity]) => [start, velocity])).toEqual([
      ...[20, 500, 980, 1460].map((at) => [at, 90]),
      ...[BAR, BAR + 480, BAR + 960].map((at) => [at, 40]),
      ...[2 * BAR + 20, 2 * BAR + 500].map((at) => [at, 90]),
    ]);
    const costs = chosen?.bars.map(({ costMs }) => costMs) ?? [];
    expect(chosen?.totalMs).toBeCloseTo(costs.reduce((sum, own) => sum + own, 0) + 2 * 2, 9);
  });

  it('lets no file supply a bar that it has no note in, and counts missing notes on request', () => {
    const full = fileOfNotes([0, 500, 1000, BAR + 40].map((at) => [at, at + 90, 60, 90]));
    const thin = fileOfNotes([[0, 90, 60, 40]]);
    const choice = (missingMs: number) =>
      merged({ ...TIGHTEST, missingMs, penaltyMs: 0 }, full, thin).chosen?.bars.map(({ file }) => file);
    expect(choice(0)).toEqual([1, 0]);
    expect(choice(50)).toEqual([0, 0]);
  });
});

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
    for (const name of files.slice(0, 30)) {
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
        expect(starts(merged(LAYER, ...shares).file)).toEqual(starts(read));
      }
    }
    expect(tried).toBeGreaterThan(3);
  });
});

describe('notes at the ends of time', () => {
  const far = () =>
    readMidi(writeMidi(fileOfNotes([[0, 1, 60, 80], [0x0fffffff, 0x0fffffff + 1, 60, 80]], 1))).file; // prettier-ignore

  it('cost nothing by how far away they are, and only bars somebody plays in are listed then', () => {
    const { chosen, told } = mergeFiles(
      [{ name: 'a', file: far() }, { name: 'b', file: far() }], // prettier-ignore
      { mode: 'tightest', grid: '1/16', penaltyMs: 2, missingMs: 0 },
    );
    expect(chosen?.bars.map(({ bar }) => bar)).toEqual([1, Math.floor(0x0fffffff / 4) + 1]);
    expect(told.at(-1)).toContain('not listed');
  });

  it('are joined though they have no length: none is lost, and what follows begins a bar later', () => {
    const hit = (pitch: number) => readMidi(writeMidi(fileOfNotes([[0, 0, pitch, 80]]))).file;
    const { file, begins } = mergeFiles(
      [{ name: 'a', file: hit(60) }, { name: 'b', file: hit(62) }], // prettier-ignore
      { mode: 'join' },
    );
    expect(begins.map(({ bar }) => bar)).toEqual([1, 2]);
    const strokes = file.tracks
      .flatMap(({ events }) => eventLines(events))
      .filter((line) => / 90 /.test(line));
    expect(strokes.map((line) => line.split(' ')[0])).toEqual(['0', '1920']);
  });
});
