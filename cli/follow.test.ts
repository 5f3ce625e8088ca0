import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseMidi } from 'midi-file';
import { readMidi, takesOfFile, writeMidi } from '@ordle/core';
import { fileOfNotes, type PlainNote } from '../core/testing/files';
import { temporaryFolder } from '../core/testing/folder';
import { main } from './main';

const DEMO = path.resolve(__dirname, '../app/public/demo');
const PLAYED = path.join(DEMO, 'ferry-fog-signal.mid');
const SCORE = path.join(DEMO, 'ferry-fog-signal.musicxml');

interface Report {
  pairs: { played: number; written: number; right: boolean }[];
  missing: number[];
  extra: number[];
  jumps: { from: number; to: number; seconds: number }[];
  beats: number[];
}

function setUp() {
  const folder = temporaryFolder();
  const file = (name: string) => path.join(folder, name);
  const lines = { out: [] as string[], err: [] as string[] };
  const run = async (...args: string[]) => {
    const code = await main(args, folder, {
      print: (line) => lines.out.push(line),
      complain: (line) => lines.err.push(line),
    });
    return { code, said: lines.out.splice(0).join('\n'), complaint: lines.err.splice(0).join(' ') };
  };
  const follow = async (played: string, score: string, ...rest: string[]) => {
    const { said } = await run('follow', played, '--score', score, '--json', ...rest);
    return JSON.parse(said) as Report;
  };
  return { file, run, follow };
}

/** Eighths of eight bars, no two bars alike. */
const TUNE = Array.from({ length: 64 }, (_, at): PlainNote => [
  at * 240,
  at * 240 + 200,
  55 + ((at * 7) % 23),
  80,
]);
const bar = (number: number) => TUNE.slice((number - 1) * 8, number * 8);
const barsInRow = (numbers: readonly number[]) =>
  numbers.flatMap((number, place) =>
    bar(number).map(([start, end, pitch, velocity]): PlainNote => {
      const by = (place - number + 1) * 1920;
      return [start + by, end + by, pitch, velocity];
    }),
  );

describe('ordle follow', () => {
  it('finds every note of a free performance in its score, and when each beat was played', async () => {
    const { follow } = setUp();
    const { pairs, missing, extra, jumps, beats } = await follow(PLAYED, SCORE);
    expect([pairs.length, missing, extra, jumps]).toEqual([56, [], [], []]);
    expect(pairs.every(({ right }) => right)).toBe(true);
    // Three notes and a bell of four strokes a bar: the strokes at beats 1, 2, 2 1/2, 3 and 4.
    expect(beats).toHaveLength(32);
    expect(beats.every((at, index) => index === 0 || at > beats[index - 1])).toBe(true);
    const { file } = readMidi(readFileSync(PLAYED));
    const first = takesOfFile(file, () => '').find(({ notes }) => notes.length > 0)?.notes.start[0] ?? -1;
    expect(beats[0]).toBeCloseTo(((first / 480) * 60) / 71, 1);
  });

  it('writes each note where it is written, under the tempo of the file', async () => {
    const { file, run } = setUp();
    const { code, said } = await run('follow', PLAYED, '--score', SCORE, '--apply', 'out.mid');
    expect([code, said]).toEqual([
      0,
      `${PLAYED}: 56 of 56 written notes played, 0 wrong, 0 missing, 0 extra, written to out.mid`,
    ]);
    const { tracks, header } = parseMidi(readFileSync(file('out.mid')));
    let tick = 0;
    const starts = tracks.at(-1)?.flatMap((event) => {
      tick += event.deltaTime;
      return event.type === 'noteOn' && event.velocity > 0 ? [tick / (header.ticksPerBeat ?? 1)] : [];
    });
    const bell = [0, 0, 0, 1, 1.5, 2, 3];
    expect(starts).toEqual(
      Array.from({ length: 8 }, (_, each) => bell.map((beat) => each * 4 + beat)).flat(),
    );
  });

  it('tells wrong, missing and extra notes, and keeps or mends pitches', async () => {
    const { file, run, follow } = setUp();
    const played = TUNE.map(([start, end, pitch, velocity], at): PlainNote => [
      start + ((at * 11) % 17),
      end,
      at === 10 ? pitch + 2 : pitch,
      velocity,
    ]).filter((_, at) => at !== 30);
    played.push([40 * 240 + 130, 40 * 240 + 200, 100, 60]);
    played.sort((a, b) => a[0] - b[0]);
    writeFileSync(file('played.mid'), writeMidi(fileOfNotes(played)));
    writeFileSync(file('score.mid'), writeMidi(fileOfNotes(TUNE)));
    const { pairs, missing, extra } = await follow('played.mid', 'score.mid');
    expect(pairs.filter(({ right }) => !right)).toEqual([{ played: 10, written: 10, right: false }]);
    expect([missing, extra, pairs.length]).toEqual([[30], [40], 63]);
    const pitchesOf = async (name: string, ...rest: string[]) => {
      await run('follow', 'played.mid', '--score', 'score.mid', '--apply', name, ...rest);
      const notes = takesOfFile(readMidi(readFileSync(file(name))).file, () => '').find(
        (take) => take.notes.length > 0,
      )?.notes;
      return [notes?.pitch[10], notes?.start[10]];
    };
    expect(await pitchesOf('kept.mid')).toEqual([TUNE[10][2] + 2, 2400]);
    expect(await pitchesOf('mended.mid', '--pitches')).toEqual([TUNE[10][2], 2400]);
    expect(await pitchesOf('half.mid', '--strength', '50')).toEqual([TUNE[10][2] + 2, 2400 + 4]);
  });

  it('finds a stretch that was played again and a bar that was left out', async () => {
    const { file, run, follow } = setUp();
    writeFileSync(file('played.mid'), writeMidi(fileOfNotes(barsInRow([1, 2, 3, 4, 3, 4, 6, 7, 8]))));
    writeFileSync(file('score.mid'), writeMidi(fileOfNotes(TUNE)));
    const { pairs, missing, jumps } = await follow('played.mid', 'score.mid');
    expect(jumps).toEqual([
      { from: 4, to: 3, seconds: 8 },
      { from: 4, to: 6, seconds: 12 },
    ]);
    expect([pairs.length, missing]).toEqual([72, []]);
    const { said } = await run('follow', 'played.mid', '--score', 'score.mid');
    expect(said).toContain('at 8.0 s from bar 4 to bar 3');
  });

  it('and a recipe that goes by a score says that files have none', async () => {
    const { file, run } = setUp();
    const steps = [{ kind: 'score' }];
    writeFileSync(file('r.json'), JSON.stringify({ ordle: 'recipe', version: 1, name: 'r', steps }));
    writeFileSync(file('take.mid'), writeMidi(fileOfNotes(TUNE)));
    const { code, complaint } = await run('clean', 'take.mid', '--recipe', 'r.json', '--out', 'done');
    expect([code, complaint]).toEqual([
      0,
      expect.stringContaining('goes by a score that lies beside a part'),
    ]);
    expect(readFileSync(file('done/take.mid'))).toEqual(readFileSync(file('take.mid')));
  });

  it('says what is wrong with what it is given', async () => {
    const { file, run } = setUp();
    writeFileSync(file('empty.mid'), writeMidi(fileOfNotes([])));
    writeFileSync(file('score.musicxml'), '<score-partwise version="4.0"><part-list/></score-partwise>');
    const told = async (...args: string[]) => {
      const { code, complaint } = await run('follow', ...args);
      expect(code).toBe(2);
      return complaint;
    };
    expect(await told()).toContain('Name one performance and its score');
    expect(await told(PLAYED, '--score', 'none.mid')).toContain('none.mid');
    expect(await told(PLAYED, '--score', 'score.musicxml')).toContain('there are no parts in it');
    expect(await told(PLAYED, '--score', 'empty.mid')).toContain('There are no notes in it');
    expect(await told('empty.mid', '--score', SCORE)).toContain('It holds no notes');
    expect(await told(PLAYED, '--score', SCORE, '--strength', '120')).toContain('from 0 to 100');
  });
});
