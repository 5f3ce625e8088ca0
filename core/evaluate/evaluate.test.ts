import { readFileSync } from 'node:fs';
import path from 'node:path';
import { readMidi, writeMidi, type MidiFile } from '../midi';
import { firstIdOfPiece, type Take } from '../model';
import {
  orderedOf,
  mapItems,
  listOf,
  joinFile,
  sessionOfFile,
  sessionSchema,
  type Part,
  type Session,
} from '../session';
import { createStep, type Step } from '../steps';
import { createTimeline } from '../time';
import { eventLines, fileOfNotes, filesOfOthers, trackOf, type RawEvent } from '../testing/files';
import { blendedPlayback, cleanFile, createEvaluator, exportSession } from '.';

function counter() {
  let next = 0;
  return () => `id${next++}`;
}

/** A file opened as a session with steps on every part, and what is needed to export it. */
function open(file: MidiFile, steps: Step[] = []) {
  const { session, takes } = sessionOfFile(file, 'Quay', counter(), 0);
  const parts = mapItems(session.parts, (part): Part => ({
    ...part,
    steps: orderedOf(steps.map((step, index) => ({ id: `s${index}`, step }))),
  }));
  const source = (key: string): Take => {
    const found = takes.find((take) => take.key === key);
    if (!found) throw new Error(`no take ${key}`);
    return found;
  };
  return { session: { ...session, parts }, takes, source, evaluator: createEvaluator(source) };
}

function exported(
  file: MidiFile,
  format: 0 | 1,
  version: 'cleaned' | 'played',
  steps: Step[] = [],
): MidiFile {
  const { session, source, evaluator } = open(file, steps);
  return exportSession(
    session,
    { format, version, parts: listOf(session.parts).map((part) => part.id) },
    evaluator,
    source,
  );
}

const PIECE: MidiFile = {
  format: 1,
  division: { kind: 'metrical', ticksPerQuarter: 480 },
  tracks: [
    trackOf(
      [
        [0, 0xff, 0x51, 0, [0x07, 0xa1, 0x20]],
        [0, 0xff, 0x58, 0, [3, 2, 24, 8]],
        [960, 0xff, 0x06, 0, [...Buffer.from('Gate')]],
      ],
      4000,
    ),
    trackOf([
      [0, 0xff, 0x03, 0, [...Buffer.from('Bell')]],
      [0, 0xc0, 14],
      [13, 0x90, 60, 80],
      [20, 0xb0, 64, 127],
      [250, 0x90, 60, 0],
      [260, 0x90, 67, 1],
      [500, 0x80, 67, 9],
      [501, 0xf0, 0, 0, [1, 2, 0xf7]],
    ]),
    trackOf([
      [0, 0xff, 0x03, 0, [...Buffer.from('Kit')]],
      [5, 0x99, 38, 30],
      [25, 0x99, 38, 110],
      [50, 0x89, 38, 0],
      [60, 0x89, 38, 0],
      [100, 0xff, 0x05, 0, [65]],
    ]),
  ],
};

describe('sessions from files', () => {
  it('make a part of each channel of each track, named and voiced as the file says', () => {
    const { session } = open(PIECE);
    expect(sessionSchema.safeParse(session).success).toBe(true);
    expect(
      listOf(session.parts).map(({ name, channel, sound }) => [name, channel, sound.program, sound.drums]),
    ).toEqual([
      ['Bell', 1, 14, false],
      ['Kit', 10, 0, true],
    ]);
    expect(listOf(session.takes).map(({ noteCount }) => noteCount)).toEqual([0, 2, 2]);
  });

  it('split a format 0 file by channel', () => {
    const { session } = open(
      fileOfNotes([
        [0, 10, 60, 80],
        [5, 20, 40, 80, 9],
        [0, 10, 50, 80, 3],
      ]),
    );
    expect(listOf(session.parts).map((part) => part.channel)).toEqual([1, 4, 10]);
  });

  it('take in another file without touching its own time, scaling its ticks', () => {
    const { session, takes } = open(PIECE);
    const joined = joinFile(session, fileOfNotes([[96, 192, 60, 80]], 96), counter());
    const whole: Session = {
      ...session,
      takes: orderedOf([...listOf(session.takes), ...joined.references]),
      parts: orderedOf([...listOf(session.parts), ...joined.parts]),
    };
    const all = [...takes, ...joined.takes];
    const evaluator = createEvaluator((key) => all.find((take) => take.key === key) ?? all[0]);
    const timeline = createTimeline(whole.division, whole.tempos, whole.meters);
    const { stages } = evaluator.evaluate(joined.parts[0], whole, timeline);
    const [{ notes }] = stages;
    expect([notes.start[0], notes.end[0], notes.id[0]]).toEqual([480, 960, firstIdOfPiece(2)]);
  });
});

describe('evaluation', () => {
  it('is remembered: a changed last step leaves the stages before it as they are', () => {
    const { session, evaluator } = open(PIECE, [
      createStep('quantize'),
      createStep('quantize', { strength: 50 }),
    ]);
    const timeline = createTimeline(session.division, session.tempos, session.meters);
    const first = evaluator.evaluate(listOf(session.parts)[0], session, timeline).stages;
    const changed = {
      ...listOf(session.parts)[0],
      steps: orderedOf([
        listOf(listOf(session.parts)[0].steps)[0],
        { id: 'x', step: createStep('quantize', { strength: 20 }) },
      ]),
    };
    const second = evaluator.evaluate(changed, session, timeline).stages;
    expect(second[1]).toBe(first[1]);
    expect(second[2]).not.toBe(first[2]);
    expect(evaluator.evaluate(listOf(session.parts)[0], session, timeline).stages[2]).toBe(first[2]);
  });

  it('blends between as played and cleaned, note by note', () => {
    const { session, evaluator } = open(PIECE, [createStep('quantize', { grid: '1/4' })]);
    const timeline = createTimeline(session.division, session.tempos, session.meters);
    const { stages } = evaluator.evaluate(listOf(session.parts)[0], session, timeline);
    const starts = [0, 0.5, 1].map(
      (blend) => blendedPlayback(stages[0], stages[1], blend, timeline.tempo).noteStart[0] * 960,
    );
    expect(starts).toEqual([13, 6.5, 0].map((tick) => expect.closeTo(tick, 9)));
  });
});

describe('export', () => {
  it('writes an unchanged format 1 file event for event', () => {
    for (const version of ['cleaned', 'played'] as const) {
      const again = exported(PIECE, 1, version);
      expect(again.tracks.map((track) => eventLines(track.events))).toEqual(
        PIECE.tracks.map((track) => eventLines(track.events)),
      );
      expect(again.tracks.map((track) => track.endTick)).toEqual(PIECE.tracks.map((track) => track.endTick));
    }
  });

  it('writes an unchanged format 0 file event for event', () => {
    const file = fileOfNotes(
      [
        [0, 10, 60, 80],
        [5, 20, 40, 80, 9],
        [10, 11, 50, 80, 3],
        [10, 30, 60, 70],
      ],
      96,
      [
        [0, 0xff, 0x51, 0, [7, 0, 0]],
        [4, 0xff, 1, 0, [66]],
        [8, 0xf0, 0, 0, [1, 0xf7]],
      ],
    );
    expect(eventLines(exported(file, 0, 'cleaned').tracks[0].events)).toEqual(
      eventLines(file.tracks[0].events),
    );
  });

  it('keeps tempo and meter of the sequence that plays when the file is format 2', () => {
    const file: MidiFile = {
      ...PIECE,
      format: 2,
      tracks: [
        trackOf([
          [0, 0xff, 0x51, 0, [6, 0, 0]],
          [0, 0x90, 60, 1],
          [9, 0x80, 60, 1],
        ]),
        PIECE.tracks[1],
      ],
    };
    const again = exported(file, 1, 'cleaned');
    expect(eventLines(again.tracks[0].events)).toEqual(['0 ff 81 0 060000']);
    expect(again.tracks).toHaveLength(3);
  });

  it('adds no names where a file had none or blank ones, and writes those a person gave', () => {
    const notes: RawEvent[] = [
      [0, 0x90, 60, 80],
      [100, 0x80, 60, 64],
    ];
    const blank: RawEvent = [0, 0xff, 0x03, 0, [0x20]];
    const file: MidiFile = {
      ...PIECE,
      tracks: [PIECE.tracks[0], trackOf(notes), trackOf([blank, ...notes]), PIECE.tracks[1]],
    };
    const names = ({ tracks }: MidiFile) =>
      tracks.map(({ events }) => eventLines(events).filter((line) => line.startsWith('0 ff 3 ')));
    expect(names(exported(file, 1, 'cleaned'))).toEqual(names(file));
    const { session, source, evaluator } = open(file);
    const [first] = listOf(session.parts);
    const renamed = {
      ...session,
      parts: mapItems(session.parts, (part) => (part === first ? { ...part, name: 'Quay bell' } : part)),
    };
    const all = { format: 1 as const, version: 'cleaned' as const, parts: session.parts.order };
    const written = names(exportSession(renamed, all, evaluator, source));
    expect(written[1]).toEqual([`0 ff 3 0 ${Buffer.from('Quay bell').toString('hex')}`]);
    expect(written.slice(2)).toEqual(names(file).slice(2));
  });

  it('writes the chosen parts only, and refuses none', () => {
    const { session, source, evaluator } = open(PIECE);
    const some = exportSession(
      session,
      { format: 1, version: 'cleaned', parts: [listOf(session.parts)[1].id] },
      evaluator,
      source,
    );
    expect(some.tracks).toHaveLength(2);
    expect(() =>
      exportSession(session, { format: 1, version: 'cleaned', parts: [] }, evaluator, source),
    ).toThrow('No part is chosen');
  });

  it('gives the command line and the application the same ticks', () => {
    const steps = [
      createStep('quantize', { grid: '1/16', strength: 73, swing: 61 }),
      createStep('quantize', { grid: '1/8T', strength: 31, chords: 'spread' }),
    ];
    expect(exported(PIECE, 1, 'cleaned', steps).tracks.map((track) => eventLines(track.events))).toEqual(
      cleanFile(PIECE, steps).file.tracks.map((track) => eventLines(track.events)),
    );
  });

  it('keeps flams on the drum part when a file is cleaned whole', () => {
    const cleaned = cleanFile(PIECE, [createStep('quantize')]);
    expect(eventLines(cleaned.file.tracks[2].events).filter((line) => line.includes(' 99 '))).toEqual([
      '0 99 38 30 ',
      '0 99 38 110 ',
    ]);
    expect(cleaned).toMatchObject({ notes: 4, changed: 4 });
  });

  it('never lets a moved note end the next one of its pitch', () => {
    const file = fileOfNotes([
      [0, 230, 60, 80],
      [235, 470, 60, 81],
      [490, 700, 60, 82],
    ]);
    const cleaned = cleanFile(file, [createStep('quantize', { edge: 'both' })]).file;
    const again = sessionOfFile(readMidi(writeMidi(cleaned)).file, '', counter(), 0).takes[0].notes;
    expect(Array.from(again.start, (start, row) => [start, again.end[row]])).toEqual([
      [0, 240],
      [240, 480],
      [480, 720],
    ]);
  });

  it('leaves files by others as they are when no step is applied', () => {
    const names = filesOfOthers().filter((name) => !/MIDIBad/.test(path.basename(name)));
    expect(names.length).toBeGreaterThan(0);
    for (const name of names) {
      const { file } = readMidi(new Uint8Array(readFileSync(name)));
      const same = cleanFile(file, [createStep('quantize', { strength: 0 })]);
      expect(same.changed).toBe(0);
      const lines = ({ tracks }: typeof file) => tracks.map(({ events }) => eventLines(events).join('\n'));
      expect(lines(same.file)).toEqual(lines(file));
    }
  });
});
