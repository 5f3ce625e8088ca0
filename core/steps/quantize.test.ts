import fc from 'fast-check';
import { noteTableOf, type Material, type Note } from '../model';
import { createTimeline } from '../time';
import { createEventBuilder } from '../midi';
import { applyStep, createStep, type QuantizeStep } from '.';

const events = createEventBuilder().build();
const timeline = createTimeline(
  { kind: 'metrical', ticksPerQuarter: 960 },
  [{ tick: 0, microsecondsPerQuarter: 500000 }],
  [],
);
/** At 120 bpm and 960 ticks a quarter a millisecond is 1.92 ticks. */
const MS = 1.92;

type Settings = Partial<Omit<QuantizeStep, 'kind'>>;

function run(notes: Partial<Note>[], given: Settings, isDrums = false): Material {
  return applyStep({ notes: noteTableOf(notes), events }, createStep('quantize', { ...given }), {
    timeline,
    isDrums,
  });
}
/** New starts by id, in the order the notes were given. */
function starts(notes: Partial<Note>[], given: Settings, isDrums = false): number[] {
  const table = run(
    notes.map((note, id) => ({ id, ...note })),
    given,
    isDrums,
  ).notes;
  return notes.map((_, id) => table.start[table.id.indexOf(id)]);
}
const at = (...ticks: number[]) => ticks.map((start) => ({ start, end: start + 100 }));

describe('every setting of quantize', () => {
  it('leaves of 40 ms of lateness what the strength says: 26 at 35, 8 at 80, 0 at 100, 40 at 0', () => {
    // Source: arithmetic on the definition; 40 ms late at 120 bpm against quarters.
    const late = at(960 + 40 * MS);
    for (const [strength, left] of [
      [35, 26],
      [80, 8],
      [100, 0],
      [0, 40],
    ]) {
      expect(starts(late, { grid: '1/4', strength })[0]).toBeCloseTo(960 + left * MS, 9);
    }
  });

  it('moves with sixteenth swing the second and fourth sixteenth of every quarter and nothing else (common practice)', () => {
    expect(starts(at(0, 240, 480, 720, 960), { swing: 58 })).toEqual(
      [0, 278.4, 480, 758.4, 960].map((tick) => expect.closeTo(tick, 9)),
    );
  });

  it('knows tuplets, several grids, and no swing on several', () => {
    expect(starts(at(190, 390), { grid: { count: 5, in: '1/4' } })).toEqual(
      [192, 384].map((tick) => expect.closeTo(tick, 9)),
    );
    expect(starts(at(310, 250, 230), { grid: ['1/16', '1/8T'], swing: 70 })).toEqual([320, 240, 240]);
  });

  it('sends ties to the earlier line', () => {
    expect(starts(at(120), {})).toEqual([0]);
  });

  it('shifts the lines by milliseconds', () => {
    expect(starts(at(950, 1000), { grid: '1/4', shiftMs: 10 })).toEqual(
      [960 + 10 * MS, 960 + 10 * MS].map((tick) => expect.closeTo(tick, 9)),
    );
    expect(starts(at(5), { shiftMs: -20 })).toEqual([0]);
  });

  it('leaves notes already close and notes far off', () => {
    expect(starts(at(240 + 5 * MS, 240 + 7 * MS), { leaveWithinMs: 6 })).toEqual([240 + 5 * MS, 240]);
    expect(starts(at(240 + 59, 240 + 61), { leaveBeyond: 50 })).toEqual([240, 301]);
  });

  it('moves starts, ends or both, and takes the end along only when asked', () => {
    const note = [{ start: 250, end: 460 }];
    const span = (given: Settings) => {
      const { notes } = run(note, given);
      return [notes.start[0], notes.end[0]];
    };
    expect(span({})).toEqual([240, 450]);
    expect(span({ keepLength: false })).toEqual([240, 460]);
    expect(span({ edge: 'end' })).toEqual([250, 480]);
    expect(span({ edge: 'both' })).toEqual([240, 480]);
    const short = run([{ start: 230, end: 250 }], { edge: 'end' }).notes;
    // No shorter than it was, being less than a sixty-fourth already.
    expect([short.start[0], short.end[0]]).toEqual([230, 250]);
    const none = run([{ start: 245, end: 250 }], { edge: 'both' }).notes;
    expect([none.start[0], none.end[0]]).toEqual([240, 245]);
  });

  it('treats chords note by note, keeps their spread, or sets them together', () => {
    const chord = [
      { start: 250, end: 900, pitch: 60 },
      { start: 262, end: 900, pitch: 64 },
      { start: 270, end: 900, pitch: 67 },
    ];
    expect(starts(chord, {})).toEqual([240, 240, 240]);
    expect(starts(chord, { chords: 'spread' })).toEqual([240, 252, 260]);
    expect(starts(chord, { chords: 'together', strength: 50 })).toEqual([245, 245, 245]);
    // 60 ms after the first: a chord of its own.
    expect(starts([...chord, { start: 250 + 60 * MS, end: 900, pitch: 72 }], { chords: 'spread' })[3]).toBe(
      480,
    );
  });

  it('brings the note of a chord to the line that is named, and grace notes along with theirs', () => {
    const strum = [0, 40, 80].map((ahead, note) => ({ start: 900 + ahead, end: 1500, pitch: 60 + 4 * note }));
    const wide = { chords: 'spread', chordMs: 60 } as const;
    expect(starts(strum, { ...wide, grid: '1/4' })).toEqual([960, 1000, 1040]);
    expect(starts(strum, { ...wide, grid: '1/4', chordOn: 'last' })).toEqual([880, 920, 960]);
    expect(starts(strum, { ...wide, grid: '1/4', chordOn: 'middle' })).toEqual([920, 960, 1000]);
    const graced = [
      { start: 880, end: 985, pitch: 61, velocity: 60 },
      { start: 980, end: 1400, pitch: 62, velocity: 80 },
    ];
    expect(starts(graced, {})).toEqual([960, 960]);
    expect(starts(graced, { keepGraces: true }).map(Math.round)).toEqual([860, 960]);
    // One that is as long as others is no grace note.
    expect(starts([{ ...graced[0], end: 1300 }, graced[1]], { keepGraces: true })).toEqual([960, 960]);
  });

  it('keeps the distance of a flam in milliseconds, on drums across one instrument', () => {
    const flam = [
      { start: 200, end: 240, pitch: 38, velocity: 40 },
      { start: 250, end: 300, pitch: 40, velocity: 100 },
    ];
    expect(starts(flam, {}, true)).toEqual([190, 240].map((tick) => expect.closeTo(tick, 9)));
    expect(starts(flam, {}, false)).toEqual([240, 240]);
    expect(starts(flam, { keepFlams: false }, true)).toEqual([240, 240]);
    expect(starts([{ ...flam[0], velocity: 110 }, flam[1]], {}, true)).toEqual([240, 240]);
    expect(starts(flam, { flamMs: 20 }, true)).toEqual([240, 240]);
    const drag = [
      { start: 180, end: 190, pitch: 38, velocity: 30 },
      { start: 215, end: 220, pitch: 38, velocity: 45 },
      flam[1],
    ];
    expect(starts(drag, {}, true)).toEqual([170, 205, 240].map((tick) => expect.closeTo(tick, 9)));
  });

  it('touches only its where', () => {
    const notes = at(10, 3850, 3700, 7690);
    expect(starts(notes, { where: { bars: [2, 3] } })).toEqual([10, 3840, 3700, 7690]);
    expect(starts(notes, { where: { notes: [0, 3] } })).toEqual([0, 3850, 3700, 7680]);
    expect(
      starts(
        at(10).map((note) => ({ ...note, channel: 4 })),
        { where: { channel: 5 } },
      ),
    ).toEqual([0]);
    const chord = [
      { start: 10, pitch: 60 },
      { start: 11, pitch: 64 },
      { start: 12, pitch: 67 },
    ];
    expect(starts(chord, { where: { voice: 'highest' } })).toEqual([10, 11, 0]);
    expect(starts(chord, { where: { voice: 'inner' } })).toEqual([10, 0, 12]);
    expect(starts(chord, { where: { voice: 'lowest', pitch: [61, 127] } })).toEqual([10, 11, 12]);
    expect(starts(chord, { where: { velocity: [80, 80], length: [1, 1], pitch: [64, 64] } })).toEqual([
      10, 0, 12,
    ]);
  });

  it('passes material on untouched when off, at strength 0 and with no notes', () => {
    const material = { notes: noteTableOf(at(7)), events };
    const context = { timeline, isDrums: false };
    expect(applyStep(material, createStep('quantize', { on: false }), context)).toBe(material);
    expect(
      applyStep(material, createStep('quantize', { strength: 0, chords: 'together', swing: 70 }), context),
    ).toBe(material);
    expect(run([], {}).notes.length).toBe(0);
  });
});

const anyNotes = fc.array(
  fc
    .record({
      start: fc.nat(30000),
      length: fc.nat(2000),
      pitch: fc.integer({ min: 30, max: 50 }),
      velocity: fc.integer({ min: 1, max: 127 }),
      channel: fc.nat(1),
    })
    .map(({ start, length, ...rest }) => ({ start, end: start + length, ...rest })),
  { maxLength: 60 },
);
const anySettings: fc.Arbitrary<Settings> = fc.record({
  grid: fc.constantFrom<QuantizeStep['grid']>(
    '1/4',
    '1/8',
    '1/16',
    '1/16T',
    '1/8D',
    { count: 5, in: '1/2' },
    ['1/8', '1/8T'],
  ),
  edge: fc.constantFrom('start', 'end', 'both'),
  keepLength: fc.boolean(),
  strength: fc.integer({ min: 0, max: 100 }),
  swing: fc.integer({ min: 50, max: 75 }),
  shiftMs: fc.integer({ min: -30, max: 30 }),
  leaveWithinMs: fc.nat(30),
  leaveBeyond: fc.nat(100),
  chords: fc.constantFrom('each', 'spread', 'together'),
  keepFlams: fc.boolean(),
});

describe('every setting of quantize, on any notes', () => {
  it('keeps count, pitches and velocities, starts no note below 0 and leaves none shorter than a tick', () => {
    fc.assert(
      fc.property(anyNotes, anySettings, fc.boolean(), (notes, given, isDrums) => {
        const before = noteTableOf(notes);
        const after = run(notes, { ...given, strength: Math.max(1, given.strength ?? 1) }, isDrums).notes;
        expect(after.length).toBe(before.length);
        const rows = new Map(Array.from(after.id, (id, row) => [id, row]));
        for (let row = 0; row < before.length; row++) {
          const other = rows.get(before.id[row]) ?? -1;
          expect([after.pitch[other], after.velocity[other], after.channel[other]]).toEqual([
            before.pitch[row],
            before.velocity[row],
            before.channel[row],
          ]);
          expect(after.start[other]).toBeGreaterThanOrEqual(0);
          expect(after.end[other] - after.start[other]).toBeGreaterThanOrEqual(1 - 1e-9);
        }
        expect(Array.from(after.start)).toEqual(Array.from(after.start).sort((a, b) => a - b));
      }),
    );
  });

  it('changes nothing at strength 0', () => {
    fc.assert(
      fc.property(anyNotes, anySettings, (notes, given) => {
        const after = run(notes, { ...given, strength: 0 }).notes;
        expect(after).toEqual(noteTableOf(notes));
      }),
    );
  });

  it('does nothing the second time at strength 100', () => {
    fc.assert(
      fc.property(anyNotes, anySettings, (notes, given) => {
        // Chords and grace strokes may be told apart anew once the notes have moved, and a swung grid leaves gaps
        // wider than a step.
        const step = createStep('quantize', { ...given, strength: 100, chords: 'each', keepFlams: false });
        const context = { timeline, isDrums: false };
        const once = applyStep({ notes: noteTableOf(notes), events }, step, context);
        const twice = applyStep(once, step, context);
        const byId = ({ notes: table }: Material) =>
          Array.from(table.id, (id, row) => [
            id,
            Math.round(table.start[row] * 1e6),
            Math.round(table.end[row] * 1e6),
          ]).sort((a, b) => a[0] - b[0]);
        // An end pushed to the shortest length (at most a 64th, 60 ticks) by its start is not on a line yet.
        const cut = byId(once).some(([, start, end]) => end - start <= 60.001e6);
        if (given.edge === 'start' || !cut) expect(byId(twice)).toEqual(byId(once));
      }),
    );
  });

  it('looks at each of 100,000 notes at one tick, not at all pairs of them, which would take minutes', () => {
    const crowd = Array.from({ length: 100000 }, (_, id) => ({
      id,
      start: 50,
      end: 90,
      pitch: id % 128,
      velocity: 1 + (id % 127),
    }));
    const { start } = run(crowd, { chords: 'spread' }).notes;
    expect(start.every((tick) => tick === 0)).toBe(true);
  });
});

it('agrees with the trade: a sixteenth at 120 bpm is 125 ms, so half of it is the farthest any note can move', () => {
  const far = starts(at(119, 121), {});
  expect(far).toEqual([0, 240]);
  expect(119 / MS).toBeLessThan(125 / 2);
});
