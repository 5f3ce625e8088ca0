import fc from 'fast-check';
import { readMidi, writeMidi, type MidiFile } from '../midi';
import { takesOfFile } from '../model';
import { fileOfNotes, type RawEvent } from '../testing/files';
import { fileFindings, isCertain, mendsOf, rangeOfProgram, type FindingKind } from '.';

// 480 ticks a quarter at 120 bpm: 0.96 ticks a millisecond.
type Plain = [start: number, end: number, pitch: number, velocity: number, channel?: number];

/** A tune of 64 notes in C major, one every eighth. */
const tune = (): Plain[] =>
  Array.from({ length: 64 }, (_, at): Plain => {
    const pitch = [60, 62, 64, 65, 67, 69, 71, 72][(at * 3) % 8];
    return [at * 240, at * 240 + 200, pitch, 80 + (at % 5)];
  });

const opened = (notes: readonly Plain[], extra: RawEvent[] = []): MidiFile =>
  readMidi(writeMidi(fileOfNotes([...notes].sort((a, b) => a[0] - b[0]) as Plain[], 480, extra))).file;
const kinds = (file: MidiFile) => fileFindings(file).findings.map(({ kind }) => kind);
const noteCount = (file: MidiFile) =>
  takesOfFile(file, () => '').reduce((sum, { notes }) => sum + notes.length, 0);

describe('findings', () => {
  it('say nothing of a tune with nothing wrong', () => {
    expect(kinds(opened(tune()))).toEqual([]);
    expect(kinds(opened([]))).toEqual([]);
  });

  it('know a double strike by the time and the louder stroke before it, on drums by less', () => {
    // 30 ms are 28.8 ticks, 40 ms 38.4.
    const again = (ticks: number, velocity: number, channel = 0): Plain[] => [
      [4800, 4810, 60, 90, channel],
      [4800 + ticks, 4990, 60, velocity, channel],
    ];
    expect(kinds(opened(again(28, 40)))).toContain('double-strike');
    expect(kinds(opened(again(40, 40)))).not.toContain('double-strike');
    expect(kinds(opened(again(28, 95)))).not.toContain('double-strike');
    expect(kinds(opened(again(28, 40, 9)))).not.toContain('double-strike');
    expect(kinds(opened(again(11, 40, 9)))).toContain('double-strike');
  });

  it('know stuck notes, specks, slips and far notes, each note once', () => {
    const found = (...extra: Plain[]) => fileFindings(opened([...tune(), ...extra])).findings;
    // Nine seconds are 8,640 ticks.
    expect(found([100, 100 + 8700, 36, 80]).map(({ kind }) => kind)).toEqual(['stuck-note']);
    expect(found([100, 120, 50, 9]).map(({ kind, notes }) => [kind, notes])).toEqual([
      ['specks', [{ tick: 100, pitch: 50 }]],
    ]);
    // Brushed beside the 72 at tick 1200.
    const slip = tune().find(([, , pitch]) => pitch === 72) ?? [0, 0, 0, 0];
    expect(found([slip[0] + 10, slip[0] + 50, 73, 40]).map(({ kind, reason }) => [kind, reason])).toEqual([
      ['wrong-note', 'C#5 is brushed for 42 ms beside C5.'],
    ]);
    expect(found([1900, 2100, 90, 80]).map(({ kind }) => kind)).toEqual(['wrong-note']);
  });

  it('know what is wrong with a part: pedal, system messages, floods, overlaps, range, chords, silence', () => {
    const has = (kind: FindingKind, notes: readonly Plain[], extra: RawEvent[] = []) =>
      expect(kinds(opened(notes, extra))).toContain(kind);
    has('pedal-left-down', tune(), [[100, 0xb0, 64, 127]]);
    expect(
      kinds(
        opened(tune(), [
          [100, 0xb0, 64, 127],
          [900, 0xb0, 64, 0],
        ]),
      ),
    ).toEqual([]);
    has('stray-sysex', tune(), [[0, 0xf0, 0, 0, [0x41, 0x10, 0xf7]]]);
    has(
      'controller-flood',
      tune(),
      Array.from({ length: 200 }, (_, at): RawEvent => [at * 4, 0xb0, 1, at % 100]),
    );
    has('overlap', [...tune(), [4810, 6000, 60, 80], [5000, 5500, 60, 80]]);
    // The lowest note of a flute is C4 or B3; General MIDI program 74.
    has('out-of-range', [...tune(), [4810, 5000, 48, 80]], [[0, 0xc0, 73]]);
    const chords = Array.from({ length: 8 }, (_, at): Plain[] =>
      [48, 52, 55].map((pitch) => [at * 1920, at * 1920 + 400, pitch, 80]),
    ).flat();
    const loosely = tune().map(([start, end, ...rest], at): Plain => [
      start + 40 + ((at * 13) % 29),
      end,
      ...rest,
    ]);
    has('flattened-chord', [...chords, ...loosely]);
    // Block chords of a part that was never played are no fault.
    expect(kinds(opened(chords))).toEqual([]);
    has(
      'late-lead-in',
      tune().map(([start, end, ...rest]): Plain => [start + 5000, end + 5000, ...rest]),
    );
    expect(rangeOfProgram(40)?.[0]).toBe(55);
  });

  it('leave what is meant alone: grace notes, ornaments, organ points, held chords, count-ins, credits', () => {
    const none = (notes: readonly Plain[], extra: RawEvent[] = []) =>
      expect(kinds(opened(notes, extra))).toEqual([]);
    const host = tune()[8];
    // Over as its note begins, 48 ticks (50 ms) ahead of it; and an ornament that is played again and again.
    none([...tune(), [host[0] - 48, host[0] - 2, host[2] + 1, 40]]);
    none([
      ...tune(),
      ...[1, 9, 17, 25, 33].map((at): Plain => [
        tune()[at][0] - 30,
        tune()[at][0] + 20,
        tune()[at][2] + 1,
        50,
      ]),
    ]);
    // A church organ's lowest note under the tune, and a last chord of a piano.
    none([...tune(), [100, 100 + 12_000, 36, 80]], [[0, 0xc0, 19]]);
    none([...tune(), ...[36, 43, 48].map((pitch): Plain => [64 * 240, 64 * 240 + 12_000, pitch, 80])]);
    none(tune().map(([start, end, ...rest]): Plain => [start + 3840, end + 3840, ...rest]));
    // Universal messages, and a name and its maker.
    none(tune(), [[0, 0xf0, 0, 0, [0x7e, 0x7f, 0x09, 0x01, 0xf7]]]);
  });

  it('say how sure they are: a note that is only unlikely is not mended with the others', () => {
    const host = tune()[8];
    const sureOf = (...extra: Plain[]) => fileFindings(opened([...tune(), ...extra])).findings.map(isCertain);
    expect(sureOf([host[0] + 4, host[0] + 50, host[2] + 1, 40])).toEqual([true]);
    expect(sureOf([host[0] - 40, host[0] + 50, host[2] + 2, 40])).toEqual([false]);
    expect(sureOf([1900, 2100, 90, 80])).toEqual([false]);
  });

  it('thin a flood until it is none', () => {
    const flood = Array.from({ length: 400 }, (_, at): RawEvent => [at * 4, 0xb0, 1, 40 + (at % 20)]);
    const file = opened(tune(), flood);
    const found = fileFindings(file);
    expect(found.findings.map(({ kind }) => kind)).toEqual(['controller-flood']);
    expect(kinds(readMidi(writeMidi(found.mended())).file)).toEqual([]);
  });

  it('leave messages for one make of instrument out, those that are told of and no other event', () => {
    const messages: RawEvent[] = [
      [0, 0xf0, 0, 0, [0x41, 0x10, 0xf7]],
      [960, 0xf0, 0, 0, [0x43, 0x01, 0xf7]],
      [960, 0xb0, 7, 90],
    ];
    const found = fileFindings(opened(tune(), messages));
    expect(found.findings.map(({ kind }) => kind)).toEqual(['stray-sysex']);
    const { events } = found.mended().tracks.find(({ events: own }) => own.length > 10) ?? { events: null };
    const statuses = [...(events?.status ?? [])];
    expect(statuses.filter((status) => status === 0xf0)).toEqual([]);
    expect(statuses.filter((status) => status >> 4 === 0xb)).toHaveLength(1);
    expect(noteCount(found.mended())).toBe(64);
  });

  it('know a note long after the music has ended, and delete it; a late entry of many notes is none', () => {
    const late: Plain = [64 * 240 + 20_000, 64 * 240 + 20_200, 60, 80];
    const file = opened([...tune(), late]);
    const found = fileFindings(file);
    expect(found.findings.map(({ kind, notes }) => [kind, notes.length])).toEqual([['beyond-end', 1]]);
    expect(noteCount(found.mended())).toBe(64);
    const entry = tune().map(([start, end, ...rest]): Plain => [start + 40_000, end + 40_000, ...rest]);
    expect(kinds(opened([...tune(), ...entry]))).toEqual([]);
    // Another part that plays on, or comes in with it, says that the music has not ended.
    const beside = tune().map(([start, end, pitch, velocity]): Plain => [
      start + 20_000,
      end + 20_000,
      pitch - 12,
      velocity,
      1,
    ]);
    expect(kinds(opened([...tune(), late, ...beside]))).toEqual([]);
  });

  it('are mended by what they say, and then are no longer there', () => {
    const planted: Plain[] = [
      [4800, 4812, 48, 90],
      [4820, 4990, 48, 40],
      [2000, 2000 + 9000, 36, 80],
      [3000, 3010, 84, 5],
    ];
    const file = opened([...tune(), ...planted], [[100, 0xb0, 64, 127]]);
    const found = fileFindings(file);
    expect(new Set(found.findings.map(({ kind }) => kind))).toEqual(
      new Set(['double-strike', 'stuck-note', 'specks', 'pedal-left-down']),
    );
    const mended = readMidi(writeMidi(found.mended())).file;
    expect(fileFindings(mended).findings).toEqual([]);
    expect(noteCount(mended)).toBe(noteCount(file) - 2);
    expect(mendsOf([])).toEqual([]);
  });

  it('find planted faults and hardly anything else', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 10_000 }), (seed) => {
        let state = seed;
        const next = () => (state = (state * 1103515245 + 12345) & 0x7fffffff) / 0x7fffffff;
        const played = tune().map(([start, end, pitch, velocity]): Plain => {
          const late = Math.round((next() - 0.5) * 30);
          return [Math.max(0, start + late), end + late - Math.round(next() * 40), pitch, velocity];
        });
        const faults = new Map<string, FindingKind>();
        const plant = (kind: FindingKind, note: Plain) => {
          played.push(note);
          faults.set(`${note[0]} ${note[2]}`, kind);
        };
        for (let at = 0; at < 4; at++) {
          const base = played[3 + at * 15];
          plant('double-strike', [
            base[0] + 12 + Math.round(next() * 18),
            base[1] + 20,
            base[2],
            Math.round(base[3] * 0.5),
          ]);
          const host = played[8 + at * 14];
          plant('wrong-note', [
            host[0] + Math.round(next() * 30),
            host[0] + 45,
            host[2] + 1,
            Math.round(host[3] * 0.6),
          ]);
          const speck = 600 + at * 3000 + Math.round(next() * 200);
          plant('specks', [speck, speck + 14, 40 + at, 8]);
        }
        const found = fileFindings(opened(played)).findings.filter(({ kind }) => kind !== 'overlap');
        const hits = found.filter(
          ({ kind, notes: [note] }) => faults.get(`${note.tick} ${note.pitch}`) === kind,
        );
        expect(hits.length / faults.size).toBeGreaterThanOrEqual(0.9);
        expect(hits.length / found.length).toBeGreaterThanOrEqual(0.8);
      }),
      { numRuns: 60 },
    );
  });
});
