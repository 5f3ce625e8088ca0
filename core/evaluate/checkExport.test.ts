import { parseMidi } from 'midi-file';
import fc from 'fast-check';
import { overlapsBetween, overlapsWithin } from '../analysis';
import { writeMidi, type MidiFile } from '../midi';
import { noteTableOf, type Take } from '../model';
import { listOf, orderedOf, sessionOfFile, type Part, type Session } from '../session';
import { createStep, type Step } from '../steps';
import { fileOfNotes } from '../testing/files';
import { checkExport, chosenParts, createEvaluator, exportSession, type ExportOptions } from '.';

function opened(file: MidiFile, steps: Step[] = [], change: (part: Part) => Partial<Part> = () => ({})) {
  let next = 0;
  const { session, takes } = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  const parts = listOf(session.parts).map((part) => ({
    ...part,
    steps: orderedOf(steps.map((step, index) => ({ id: `s${index}`, step }))),
    ...change(part),
  }));
  const changed: Session = { ...session, parts: orderedOf(parts) };
  const takeOf = (key: string): Take => {
    const take = takes.find((each) => each.key === key);
    if (!take) throw new Error(`no take ${key}`);
    return take;
  };
  const evaluator = createEvaluator(takeOf);
  const options = (more: Partial<ExportOptions> = {}): ExportOptions => ({
    format: 1,
    version: 'cleaned',
    parts: parts.map(({ id }) => id),
    ...more,
  });
  return {
    check: (more?: Partial<ExportOptions>) =>
      checkExport(chosenParts(changed, options(more), evaluator), options(more), evaluator, takeOf),
    written: (more?: Partial<ExportOptions>) => exportSession(changed, options(more), evaluator, takeOf),
  };
}

/** Two tracks of notes [start, end, pitch], joined to one file. */
function twoTracks(
  a: Parameters<typeof fileOfNotes>[0],
  b: Parameters<typeof fileOfNotes>[0],
  events: [Parameters<typeof fileOfNotes>[2], Parameters<typeof fileOfNotes>[2]] = [[], []],
): MidiFile {
  const [first, second] = [fileOfNotes(a, 480, events[0]), fileOfNotes(b, 480, events[1])];
  return { ...first, format: 1, tracks: [...first.tracks, ...second.tracks] };
}

describe('the check before export', () => {
  it('finds nothing in a plain part, and says that all is as it was played', () => {
    const { check } = opened(fileOfNotes([[0, 100, 60, 80], [100, 200, 60, 80]], 480)); // prettier-ignore
    const found = check();
    expect(found).toMatchObject({ concerns: [], additions: [] });
    expect([found.sameNotes.length, found.sameControllers.length]).toEqual([1, 1]);
  });

  it('tells overlaps another reader pairs rightly from those it cannot, and cuts both on request', () => {
    const longer = createStep('length', { scale: 500, noOverlap: false, where: { velocity: [1, 60] } });
    const { check, written } = opened(
      fileOfNotes([[0, 120, 60, 80], [100, 200, 60, 80], [400, 500, 64, 50], [450, 600, 64, 80]], 480), // prettier-ignore
      [longer],
    );
    expect(check().concerns.map(({ kind, count, tick }) => [kind, count, tick])).toEqual([
      ['nested', 1, 400],
      ['overlap', 1, 0],
    ]);
    expect(check({ overlaps: 'cut' }).sameNotes).toEqual([]);
    // Read back by an independent reader: no note begins before the one of its pitch before it has ended.
    const { tracks } = parseMidi(writeMidi(written({ overlaps: 'cut' })));
    const down = new Set<number>();
    for (const event of tracks.flat()) {
      if (event.type === 'noteOn') {
        expect(down.has(event.noteNumber)).toBe(false);
        down.add(event.noteNumber);
      } else if (event.type === 'noteOff') down.delete(event.noteNumber);
    }
  });

  it('tells notes of a tick, starts squeezed onto the beginning and velocities that ran into their limit', () => {
    const file = fileOfNotes([[100, 101, 60, 90], [300, 500, 62, 90], [600, 800, 64, 90]], 480); // prettier-ignore
    const steps = [createStep('nudge', { ticks: -400 }), createStep('velocity', { add: 60 })];
    const kinds = opened(file, steps)
      .check()
      .concerns.map(({ kind, count }) => [kind, count]);
    expect(kinds).toEqual([
      ['speck', 1],
      ['squeezed', 2],
      ['loudest', 3],
    ]);
    // As it was played none of that is so, but for the note of a tick.
    expect(
      opened(file, steps)
        .check({ version: 'played' })
        .concerns.map(({ kind }) => kind),
    ).toEqual(['speck']);
  });

  it('tells what two parts on one channel do to each other, once a pair', () => {
    const file = twoTracks([[0, 400, 60, 80]], [[200, 600, 60, 80], [900, 950, 61, 80]], [
      [[0, 0xc0, 5], [10, 0xb0, 64, 127]],
      [[0, 0xc0, 9], [20, 0xb0, 64, 127]],
    ]); // prettier-ignore
    const found = opened(file).check();
    expect(found.concerns.map(({ kind, count, otherId }) => [kind, count, otherId !== null])).toEqual([
      ['programs', 1, true],
      ['pedals', 1, true],
      ['shared-overlap', 1, true],
    ]);
    // On channels of their own they have nothing to do with each other.
    let channel = 1;
    expect(opened(file, [], () => ({ channel: channel++, rechannel: true })).check().concerns).toEqual([]);
  });

  it('tells that a part is left out whose pedal holds for another on its channel', () => {
    const file = twoTracks(
      [[0, 100, 60, 80]],
      [[0, 100, 40, 80]],
      [
        [],
        [
          [10, 0xb0, 64, 127],
          [90, 0xb0, 64, 0],
        ],
      ],
    );
    const { check } = opened(file);
    const ids = check().sameNotes;
    expect(ids.length).toBe(2);
    expect(check({ parts: [ids[0]] }).concerns).toMatchObject([
      { kind: 'left-behind', partId: ids[0], otherId: ids[1], count: 2 },
    ]);
    expect(check({ parts: [ids[1]] }).concerns).toEqual([]);
  });

  it('tells muted parts, and what is added: a name a person gave, a sound a person chose', () => {
    const file = fileOfNotes([[0, 100, 60, 80]], 480);
    const { check } = opened(file, [], ({ sound }) => ({
      name: 'Left hand',
      muted: true,
      sound: { ...sound, program: 4, chosen: true },
    }));
    const { concerns, additions } = check();
    expect(concerns.map(({ kind }) => kind)).toEqual(['muted']);
    expect(additions).toMatchObject([
      { kind: 'name', name: 'Left hand' },
      { kind: 'program', program: 4 },
    ]);
    expect(check({ format: 0 }).additions.map(({ kind }) => kind)).toEqual(['program']);
  });
});

describe('overlaps', () => {
  const notes = fc
    .array(
      fc.record({
        start: fc.nat(60),
        length: fc.integer({ min: 1, max: 20 }),
        pitch: fc.integer({ min: 60, max: 62 }),
      }),
      {
        maxLength: 12,
      },
    )
    .map((list) =>
      noteTableOf(list.map(({ start, length, pitch }, id) => ({ id, start, end: start + length, pitch }))),
    );
  type Table = ReturnType<typeof noteTableOf>;
  const sounds = (a: Table, row: number, b: Table, other: number) =>
    a.pitch[row] === b.pitch[other] && a.start[row] < b.end[other] && b.start[other] < a.end[row];

  it('within a table are found for every note that begins while one of its pitch sounds', () => {
    fc.assert(
      fc.property(notes, (table) => {
        const later = [...table.id.keys()].filter((row) =>
          [...table.id.keys()].some((before) => before < row && sounds(table, before, table, row)),
        );
        expect(overlapsWithin(table).map(({ other }) => other)).toEqual(later);
      }),
    );
  });

  it('between tables are true pairs, and none where there is none', () => {
    fc.assert(
      fc.property(notes, notes, (a, b) => {
        const found = overlapsBetween(a, b);
        for (const { row, other } of found) expect(sounds(a, row, b, other)).toBe(true);
        const any = [...a.id.keys()].some((row) =>
          [...b.id.keys()].some((other) => sounds(a, row, b, other)),
        );
        expect(found.length > 0).toBe(any);
      }),
    );
  });
});
