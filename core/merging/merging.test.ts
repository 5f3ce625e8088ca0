import fc from 'fast-check';
import { readMidi, writeMidi } from '../midi';
import { eventLines, fileOfNotes, type RawEvent } from '../testing/files';
import { BAR, LAYER, TIGHTEST, anyNotes, controllers, merged, notesIn, pedal } from '../testing/mergedFiles';
import { mergeFiles } from './mergeFiles';
import { matchParts } from './matchParts';

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
