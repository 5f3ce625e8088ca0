import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { readMidi } from '../midi';
import { noteTableOf, takesOfFile } from '../model';
import { createTimeline } from '../time';
import { chanceOf } from '../steps/random';
import { harmonyOf } from '.';

const timeline = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);
const BAR = 4 * 480;
type Plain = [start: number, end: number, pitch: number];
const tableOf = (list: readonly Plain[]) =>
  noteTableOf(
    [...list]
      .sort((a, b) => a[0] - b[0])
      .map(([start, end, pitch], id) => ({ id, start, end, pitch, velocity: 80, release: 64, channel: 0 })),
  );

const SHAPES: Record<string, number[]> = {
  '': [0, 4, 7],
  m: [0, 3, 7],
  '7': [0, 4, 7, 10],
  m7: [0, 3, 7, 10],
};
/** A chord held over some beats, its bass an octave below, with a passing note in between. */
const held = (root: number, shape: string, from: number, beats: number): Plain[] => [
  [from, from + beats * 480 - 30, 36 + root],
  ...SHAPES[shape].map((each): Plain => [from + 10, from + beats * 480 - 40, 60 + root + each]),
  [from + 240, from + 300, 74],
];

describe('harmony along the bars', () => {
  it('names the chords of a progression where they change, passing notes or not', () => {
    const list = [
      ...held(0, '', 0, 4),
      ...held(9, 'm', BAR, 2),
      ...held(2, 'm7', BAR + 960, 2),
      ...held(7, '7', 2 * BAR, 4),
      ...held(0, '', 3 * BAR, 4),
    ];
    const { chords, keys } = harmonyOf([tableOf(list)], timeline);
    expect(chords.map(({ name, from, to }) => [name, from / 480, to / 480])).toEqual([
      ['C', 0, 4],
      ['Am', 4, 6],
      ['Dm7', 6, 8],
      ['G7', 8, 12],
      ['C', 12, 16],
    ]);
    expect(keys.map(({ bar, key }) => [bar, key])).toEqual([[1, 'C major']]);
  });

  it('finds a key that changes, and spells its chords by it', () => {
    const turn = (tonic: number, bar: number): Plain[] => [
      ...held(tonic, '', bar * BAR, 4),
      ...held((tonic + 5) % 12, '', (bar + 1) * BAR, 4),
      ...held((tonic + 7) % 12, '7', (bar + 2) * BAR, 4),
      ...held(tonic, '', (bar + 3) * BAR, 4),
    ];
    const list = [...turn(2, 0), ...turn(2, 4), ...turn(10, 8), ...turn(10, 12)];
    const { chords, keys } = harmonyOf([tableOf(list)], timeline);
    expect(keys.map(({ key }) => key)).toEqual(['D major', 'Bb major']);
    expect(Math.abs(keys[1].bar - 9)).toBeLessThanOrEqual(1);
    expect(chords.filter(({ from }) => from >= 9 * BAR).map(({ name }) => name)).toEqual(
      expect.arrayContaining(['Bb', 'Eb', 'F7']),
    );
  });

  it('goes along with any chord moved by any interval, in any order of its notes', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 11 }),
        fc.integer({ min: 0, max: 3 }),
        fc.nat(1000),
        (root, at, seed) => {
          const shape = Object.keys(SHAPES)[at];
          const loose = held(root, shape, 0, 4)
            .slice(0, -1)
            .map(([start, end, pitch], row): Plain => [
              Math.max(0, start + Math.round(20 * (chanceOf(seed, row, 0) - 0.5))),
              end,
              pitch,
            ]);
          const { chords } = harmonyOf([tableOf(loose)], timeline);
          expect(chords).toHaveLength(1);
          expect(chords[0].name.replace(/^[A-G][#b]?/, '')).toBe(shape);
        },
      ),
    );
  });

  it('finds the key and the chords that the demo music was written in, as it was performed', () => {
    const played = (...names: string[]) => {
      const files = names.map((name) => readMidi(readFileSync(`app/public/demo/${name}.mid`)).file);
      const takes = files.flatMap((file) => takesOfFile(file, () => ''));
      const [{ tempos, meters, division }] = takes;
      return harmonyOf(
        takes.map(({ notes }) => notes),
        createTimeline(division, tempos, meters),
      );
    };
    // Written out in D minor, a chord a bar: Dm Bb F C Dm Gm A A7, three times.
    const ferry = played('ferry-reed-organ', 'ferry-upright-bass', 'ferry-marimba-take-1');
    expect(ferry.keys.map(({ key }) => key)).toEqual(['D minor']);
    const written = ['Dm', 'Bb', 'F', 'C', 'Dm', 'Gm', 'A', 'A7'];
    const heard = (bar: number) => {
      const middle = (bar + 0.5) * 1920;
      return ferry.chords.find(({ from, to }) => from <= middle && middle < to)?.name;
    };
    const bars = Array.from({ length: 24 }, (_, bar) => bar);
    // The seventh of the last bar of a round may be told as the chord before going on.
    expect(bars.map((bar) => heard(bar)?.replace('7', ''))).toEqual(
      bars.map((bar) => written[bar % 8].replace('7', '')),
    );
    expect(bars.filter((bar) => heard(bar) === written[bar % 8]).length).toBeGreaterThanOrEqual(21);
  });

  it('finds the key of cadences in all keys, major and minor', () => {
    const MAJOR = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'];
    const MINOR = ['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'G#', 'A', 'Bb', 'B'];
    const cadence = (tonic: number, chords: [step: number, shape: string][]) =>
      harmonyOf(
        [
          tableOf(
            chords.flatMap(([step, shape], bar) =>
              held((tonic + step) % 12, shape, bar * BAR, 4).slice(0, -1),
            ),
          ),
        ],
        timeline,
      ).keys.map(({ key }) => key);
    for (let tonic = 0; tonic < 12; tonic++) {
      expect(cadence(tonic, [[0, ''], [5, ''], [7, '7'], [0, '']])).toEqual([`${MAJOR[tonic]} major`]); // prettier-ignore
      expect(cadence(tonic, [[0, 'm'], [5, 'm'], [7, '7'], [0, 'm']])).toEqual([`${MINOR[tonic]} minor`]); // prettier-ignore
    }
  });

  it('says nothing of silence and of drums', () => {
    expect(harmonyOf([], timeline)).toEqual({ chords: [], keys: [] });
    const drums = noteTableOf([
      { id: 0, start: 0, end: 400, pitch: 38, velocity: 80, release: 64, channel: 9 },
    ]);
    expect(harmonyOf([drums], timeline).chords).toEqual([]);
  });
});
