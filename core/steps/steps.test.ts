import fc from 'fast-check';
import { Interval, Key, Note as TonalNote } from 'tonal';
import { createEventBuilder } from '../midi';
import { noteTableOf, type Material, type Note } from '../model';
import { createTimeline } from '../time';
import {
  BUILT_IN_GROOVES,
  STEP_KINDS,
  applyStep,
  createStep,
  intervalInWords,
  keyOf,
  moveByDegrees,
  takeGroove,
  type Step,
} from '.';

const noEvents = createEventBuilder().build();
const timeline = createTimeline(
  { kind: 'metrical', ticksPerQuarter: 960 },
  [{ tick: 0, microsecondsPerQuarter: 500000 }],
  [],
);
const context = { timeline, isDrums: false };
/** At 120 bpm and 960 ticks a quarter. */
const MS = 1.92;

const material = (notes: Partial<Note>[], events = noEvents): Material => ({
  notes: noteTableOf(notes.map((note, id) => ({ id, ...note }))),
  events,
});
const run = (
  notes: Partial<Note>[],
  step: Step,
  more: Partial<typeof context> & { otherPart?: (name: string) => Material['notes'] | null } = {},
) => applyStep(material(notes), step, { ...context, ...more }).notes;
const column = (table: Material['notes'], key: 'start' | 'end' | 'pitch' | 'velocity') =>
  Array.from(table.id, (id, row) => [id, table[key][row]])
    .sort((a, b) => a[0] - b[0])
    .map(([, value]) => value);
const rows = (table: Material['notes']) =>
  Array.from(table.id, (id, row) => [
    id,
    table.start[row],
    table.end[row],
    table.pitch[row],
    table.velocity[row],
  ]).sort((a, b) => a[0] - b[0]);

const anyNotes = fc.array(
  fc
    .record({
      start: fc.nat(20000),
      length: fc.integer({ min: 1, max: 2000 }),
      pitch: fc.integer({ min: 20, max: 110 }),
      velocity: fc.integer({ min: 1, max: 127 }),
    })
    .map(({ start, length, ...rest }) => ({ start, end: start + length, ...rest })),
  { maxLength: 40 },
);

describe('every kind of step', () => {
  const NEUTRAL: Step[] = [
    createStep('nudge'), createStep('stretch'), createStep('transpose'), createStep('velocity'), createStep('humanize'), createStep('groove', { timing: 0 }),
    createStep('length', { noOverlap: false }), createStep('remove'), createStep('edits'), createStep('align', { to: 'x' }), createStep('quantize', { strength: 0 }),
  ]; // prettier-ignore
  it('changes nothing at neutral settings: the very same material comes back', () => {
    expect(new Set(NEUTRAL.map(({ kind }) => kind)).size).toBe(STEP_KINDS.length);
    fc.assert(
      fc.property(anyNotes, fc.constantFrom(...NEUTRAL), (notes, step) => {
        const input = material(notes);
        expect(applyStep(input, step, context)).toBe(input);
      }),
    );
  });

  it('stays in bounds, keeps order by start, and works on no notes, one note and a crowd at tick 0', () => {
    const strong: Step[] = [
      createStep('nudge', { ms: -5000, ticks: -7 }), createStep('stretch', { factor: 0.01 }), createStep('transpose', { semitones: 100, into: [30, 41] }),
      createStep('velocity', { scale: 1000, add: -127, compress: { ratio: 0.1, around: 64 } }), createStep('humanize', { timingMs: 500, velocity: 64, lengthPct: 100, drift: 70 }),
      createStep('groove', { groove: 'pushed', timing: 130, velocity: -100, straighten: 100 }), createStep('length', { scale: 1, legato: { gapTicks: 900 } }), createStep('remove', { doublesWithinMs: 50 }),
    ]; // prettier-ignore
    const crowd = Array.from({ length: 30 }, (_, index) => ({
      start: 0,
      end: 10,
      pitch: 60 + (index % 3),
      velocity: 1 + index,
    }));
    fc.assert(
      fc.property(
        fc.oneof(
          anyNotes,
          fc.constant<Partial<Note>[]>([]),
          fc.constant<Partial<Note>[]>([{ start: 0, end: 1 }]),
          fc.constant(crowd),
        ),
        fc.constantFrom(...strong),
        (notes, step) => {
          const after = run(notes, step);
          for (let row = 0; row < after.length; row++) {
            expect(after.start[row]).toBeGreaterThanOrEqual(0);
            expect(after.end[row] - after.start[row]).toBeGreaterThanOrEqual(1 - 1e-6);
            expect(after.velocity[row]).toBeGreaterThanOrEqual(1);
            expect(after.velocity[row]).toBeLessThanOrEqual(127);
            expect(after.pitch[row]).toBeLessThanOrEqual(127);
            if (row > 0) expect(after.start[row]).toBeGreaterThanOrEqual(after.start[row - 1]);
          }
        },
      ),
    );
  });

  it('touches nothing outside its where', () => {
    const outside = { pitch: [0, 10] as [number, number] };
    const all: Step[] = [
      createStep('nudge', { ms: 9, where: outside }),
      createStep('stretch', { factor: 2, where: outside }),
      createStep('transpose', { semitones: 2, where: outside }),
      createStep('velocity', { set: 9, where: outside }),
      createStep('humanize', { timingMs: 9, where: outside }),
      createStep('groove', { where: outside, groove: 'pushed' }),
      createStep('length', { set: '1/8', where: outside }),
      createStep('remove', { softerThan: 127, where: outside }),
    ];
    fc.assert(
      fc.property(anyNotes, fc.constantFrom(...all), (notes, step) =>
        expect(rows(run(notes, step))).toEqual(rows(material(notes).notes)),
      ),
    );
  });
});

describe('nudge and stretch', () => {
  it('nudge adds ticks, grid steps and milliseconds, and is undone by its opposite', () => {
    expect(
      column(
        run([{ start: 1000, end: 1100 }], createStep('nudge', { ms: 10, ticks: 5, grid: '1/8', steps: -1 })),
        'start',
      )[0],
    ).toBeCloseTo(1000 + 5 - 480 + 10 * MS, 9);
    fc.assert(
      fc.property(anyNotes, fc.nat(500), (notes, ticks) => {
        const there = run(notes, createStep('nudge', { ticks }));
        const back = applyStep(
          { notes: there, events: noEvents },
          createStep('nudge', { ticks: -ticks }),
          context,
        ).notes;
        expect(rows(back)).toEqual(rows(material(notes).notes));
      }),
    );
  });

  it('stretch keeps its anchor; half after double gives back the same ticks', () => {
    expect(
      column(
        run(
          [
            { start: 100, end: 200 },
            { start: 300, end: 340 },
          ],
          createStep('stretch', { factor: 2 }),
        ),
        'start',
      ),
    ).toEqual([100, 500]);
    expect(
      column(run([{ start: 4000, end: 4100 }], createStep('stretch', { factor: 2, anchor: 'bar' })), 'start'),
    ).toEqual([3840 + 2 * 160]);
    expect(
      column(
        run(
          [
            { start: 0, end: 100 },
            { start: 900, end: 1000 },
          ],
          createStep('stretch', { toTicks: 500 }),
        ),
        'end',
      ),
    ).toEqual([50, 500]);
    fc.assert(
      fc.property(anyNotes, fc.constantFrom(2, 4, 3), (notes, factor) => {
        const longer = run(notes, createStep('stretch', { factor }));
        const back = applyStep(
          { notes: longer, events: noEvents },
          createStep('stretch', { factor: 1 / factor }),
          context,
        ).notes;
        const rounded = (table: Material['notes']) => rows(table).map((row) => row.map(Math.round));
        expect(rounded(back)).toEqual(rounded(material(notes).notes));
      }),
    );
  });

  it('take controllers along inside the touched stretch, and leave set-up where it is', () => {
    const builder = createEventBuilder();
    builder.add(0, 0xc0, 5, 0);
    builder.add(500, 0xb0, 64, 127);
    builder.add(5000, 0xb0, 64, 0);
    const events = builder.build();
    const notes = [{ start: 400, end: 900 }];
    const ticks = (step: Step) => Array.from(applyStep(material(notes, events), step, context).events.tick);
    expect(ticks(createStep('nudge', { ticks: 100 }))).toEqual([0, 600, 5000]);
    expect(ticks(createStep('stretch', { factor: 3 }))).toEqual([0, 700, 5000]);
    expect(ticks(createStep('stretch', { factor: 3, controllers: false }))).toEqual([0, 500, 5000]);
  });
});

describe('transpose', () => {
  it('by semitones folds at the ends of the keyboard, into a range, by sections, and leaves drums alone', () => {
    expect(
      column(run([{ pitch: 60 }, { pitch: 120 }], createStep('transpose', { semitones: 12 })), 'pitch'),
    ).toEqual([72, 120]);
    expect(
      column(run([{ pitch: 40 }, { pitch: 90 }], createStep('transpose', { into: [60, 71] })), 'pitch'),
    ).toEqual([64, 66]);
    const sections = [
      { bars: [1, 2] as [number, number], semitones: 5 },
      { bars: [2, 3] as [number, number], semitones: -2 },
    ];
    expect(
      column(
        run([{ start: 0 }, { start: 3840 }, { start: 7680 }], createStep('transpose', { sections })),
        'pitch',
      ),
    ).toEqual([65, 58, 60]);
    expect(
      column(run([{ pitch: 38 }], createStep('transpose', { semitones: 5 }), { isDrums: true }), 'pitch'),
    ).toEqual([38]);
    expect(
      column(
        run([{ pitch: 38 }], createStep('transpose', { semitones: 5, skipDrums: false }), { isDrums: true }),
        'pitch',
      ),
    ).toEqual([43]);
  });

  it('there and back is no move where nothing folds', () => {
    fc.assert(
      fc.property(anyNotes, fc.integer({ min: -17, max: 17 }), (notes, semitones) => {
        const there = run(notes, createStep('transpose', { semitones }));
        expect(
          rows(
            applyStep(
              { notes: there, events: noEvents },
              createStep('transpose', { semitones: -semitones }),
              context,
            ).notes,
          ),
        ).toEqual(rows(material(notes).notes));
      }),
    );
  });

  it('by degrees walks the scale that tonal, an independent library, gives', () => {
    for (const name of ['C major', 'F# major', 'Bb major', 'A minor', 'C minor', 'D minor']) {
      const [tonic, mode] = name.split(' ');
      const scale = mode === 'major' ? Key.majorKey(tonic).scale : Key.minorKey(tonic).natural.scale;
      const key = keyOf(name);
      if (!key) throw new Error(name);
      const base = TonalNote.midi(`${tonic}4`) ?? 0;
      scale.forEach((degree, index) =>
        expect(moveByDegrees(base, index, key) % 12).toBe((TonalNote.chroma(degree) ?? 0) % 12),
      );
      expect(moveByDegrees(base, 7, key)).toBe(base + 12);
      expect(moveByDegrees(base, -7, key)).toBe(base - 12);
    }
    expect(
      column(
        run(
          [{ pitch: 60 }, { pitch: 64 }, { pitch: 61 }],
          createStep('transpose', { degrees: 2, key: 'C major' }),
        ),
        'pitch',
      ),
    ).toEqual([64, 67, 65]);
  });

  it('names intervals as tonal measures them (perfect fourth 5, fifth 7, octave 12)', () => {
    for (const [name, words] of [
      ['3m', 'minor third'],
      ['3M', 'third'],
      ['4P', 'fourth'],
      ['5P', 'fifth'],
      ['6m', 'minor sixth'],
      ['7M', 'seventh'],
      ['8P', 'octave'],
      ['12P', 'octave and fifth'],
    ]) {
      expect(intervalInWords(Interval.semitones(name) ?? NaN)).toBe(`${words} up`);
    }
    expect(intervalInWords(-24)).toBe('2 octaves down');
  });
});

describe('velocity, length and remove', () => {
  it('velocity works in the order of the format', () => {
    const step = createStep('velocity', {
      scale: 50,
      add: 10,
      compress: { ratio: 2, around: 40 },
      limit: [30, 50],
    });
    expect(column(run([{ velocity: 100 }, { velocity: 20 }], step), 'velocity')).toEqual([50, 30]);
    expect(
      column(
        run(
          [{ start: 0 }, { start: 500 }, { start: 1000 }],
          createStep('velocity', { ramp: { from: 40, to: 80 } }),
        ),
        'velocity',
      ),
    ).toEqual([40, 60, 80]);
    expect(
      column(
        run(
          [{ start: 3840 }, { start: 5760 }],
          createStep('velocity', { ramp: { from: 40, to: 80 }, where: { bars: [2, 3] } }),
        ),
        'velocity',
      ),
    ).toEqual([40, 60]);
    expect(column(run([{ velocity: 3 }], createStep('velocity', { set: 77 })), 'velocity')).toEqual([77]);
  });

  it('length sets, scales, joins, limits and cuts overlaps', () => {
    const two = [
      { start: 0, end: 100, pitch: 60 },
      { start: 480, end: 500, pitch: 62 },
    ];
    expect(column(run(two, createStep('length', { set: '1/8' })), 'end')).toEqual([480, 960]);
    expect(column(run(two, createStep('length', { scale: 200 })), 'end')).toEqual([200, 520]);
    expect(column(run(two, createStep('length', { legato: { gapTicks: 10 } })), 'end')).toEqual([470, 500]);
    expect(column(run(two, createStep('length', { limit: [50, 60] })), 'end')).toEqual([60, 530]);
    const overlapping = [
      { start: 0, end: 900, pitch: 60 },
      { start: 480, end: 700, pitch: 60 },
      { start: 480, end: 700, pitch: 61 },
    ];
    expect(column(run(overlapping, createStep('length')), 'end')).toEqual([480, 700, 700]);
    expect(column(run(overlapping, createStep('length', { noOverlap: false })), 'end')).toEqual([
      900, 700, 700,
    ]);
  });

  it('length holds pedalled notes until the pedal comes up: 64 and more is down (MIDI 1.0)', () => {
    const builder = createEventBuilder();
    for (const [tick, value] of [
      [50, 64],
      [600, 100],
      [800, 63],
      [900, 127],
    ])
      builder.add(tick, 0xb0, 64, value);
    const notes = [
      { start: 0, end: 100 },
      { start: 10, end: 40, pitch: 61 },
      { start: 820, end: 850, pitch: 62 },
      { start: 100, end: 950, pitch: 63 },
    ];
    const { notes: held } = applyStep(
      material(notes, builder.build()),
      createStep('length', { hold: 'fromPedal' }),
      context,
    );
    expect(column(held, 'end')).toEqual([800, 40, 850, 950]);
  });

  it('remove takes out specks, soft touches, strays and doubles, of which the later, softer goes', () => {
    const ids = (step: Step) => Array.from(run([
      { start: 0, end: 10, velocity: 90, pitch: 60 }, { start: 40 * MS, end: 400, velocity: 40, pitch: 60 }, { start: 500, end: 900, velocity: 10, pitch: 64 }, { start: 1000, end: 1900, velocity: 90, pitch: 20 },
    ], step).id); // prettier-ignore
    expect(ids(createStep('remove', { shorterThanMs: 10 }))).toEqual([1, 2, 3]);
    expect(ids(createStep('remove', { softerThan: 30 }))).toEqual([0, 1, 3]);
    expect(ids(createStep('remove', { doublesWithinMs: 45 }))).toEqual([0, 2, 3]);
    expect(ids(createStep('remove', { doublesWithinMs: 35 }))).toEqual([0, 1, 2, 3]);
    expect(ids(createStep('remove', { outside: [30, 100] }))).toEqual([0, 1, 2]);
  });
});

describe('humanize', () => {
  const many = Array.from({ length: 8000 }, (_, index) => ({
    start: 4000 + index * 240,
    end: 4100 + index * 240,
    velocity: 64,
  }));
  const moves = (step: Step) =>
    column(run(many, step), 'start').map((start, index) => (start - many[index].start) / MS);
  const meanOf = (list: number[]) => list.reduce((sum, value) => sum + value, 0) / list.length;
  const deviationOf = (list: number[]) =>
    Math.sqrt(list.reduce((sum, value) => sum + (value - meanOf(list)) ** 2, 0) / list.length);
  const correlation = (list: number[], lag: number) => {
    const mean = meanOf(list);
    let [top, bottom] = [0, 0];
    list.forEach((value, index) => {
      bottom += (value - mean) ** 2;
      if (index + lag < list.length) top += (value - mean) * (list[index + lag] - mean);
    });
    return top / bottom;
  };

  it('has the mean and deviation asked for, within sampling error and the cut-off', () => {
    const list = moves(createStep('humanize', { timingMs: 10, seed: 7 }));
    // Standard error of the mean 10/sqrt(8000) = 0.11; the cut at 2.5 deviations takes some 2 % off the deviation.
    expect(Math.abs(meanOf(list))).toBeLessThan(0.45);
    expect(deviationOf(list)).toBeGreaterThan(9.5);
    expect(deviationOf(list)).toBeLessThan(10.2);
    expect(Math.max(...list.map(Math.abs))).toBeLessThanOrEqual(25.0001);
    const velocities = column(run(many, createStep('humanize', { velocity: 6, seed: 7 })), 'velocity');
    expect(deviationOf(velocities)).toBeGreaterThan(5.6);
    expect(deviationOf(velocities)).toBeLessThan(6.2);
  });

  it('wanders with drift and is independent without', () => {
    const own = moves(createStep('humanize', { timingMs: 10, seed: 3 }));
    const wandering = moves(createStep('humanize', { timingMs: 10, drift: 100, seed: 3 }));
    expect(Math.abs(correlation(own, 1))).toBeLessThan(0.05);
    expect(correlation(wandering, 1)).toBeGreaterThan(0.8);
    expect(correlation(wandering, 8)).toBeGreaterThan(correlation(wandering, 80));
    expect(deviationOf(wandering)).toBeGreaterThan(8);
    expect(deviationOf(wandering)).toBeLessThan(11);
  });

  it('is the same for the same seed and notes, and other for another seed', () => {
    const step = createStep('humanize', { timingMs: 10, velocity: 5, lengthPct: 10, drift: 50, seed: 9 });
    expect(rows(run(many.slice(0, 50), step))).toEqual(rows(run(many.slice(0, 50), step)));
    expect(rows(run(many.slice(0, 50), step))).not.toEqual(
      rows(run(many.slice(0, 50), { ...step, seed: 10 })),
    );
  });
});

describe('groove and align', () => {
  it('straightened at 100, applying twice is applying once', () => {
    fc.assert(
      fc.property(
        anyNotes,
        fc.constantFrom(...BUILT_IN_GROOVES),
        fc.integer({ min: 0, max: 130 }),
        (notes, groove, timing) => {
          const step = createStep('groove', { groove, timing, straighten: 100 });
          const once = run(notes, step);
          const twice = applyStep({ notes: once, events: noEvents }, step, context).notes;
          // A note pushed before the start of the music is held at 0 and may belong to another line there.
          if (column(once, 'start').every((start) => start > 0 || groove.name !== 'pushed')) {
            expect(rows(twice).map((row) => row.map((value) => Number(value.toFixed(6))))).toEqual(
              rows(once).map((row) => row.map((value) => Number(value.toFixed(6)))),
            );
          }
        },
      ),
    );
  });

  it('not straightened, a groove goes on shifting its own result (common practice)', () => {
    const step = createStep('groove', { groove: 'laid back' });
    const once = run([{ start: 960, end: 1000 }], step);
    expect(applyStep({ notes: once, events: noEvents }, step, context).notes.start[0]).toBeGreaterThan(
      once.start[0],
    );
  });

  it('sixteenth swing 58 as a groove is swing 58 as a quantize', () => {
    const straight = [0, 240, 480, 720].map((start) => ({ start, end: start + 100 }));
    expect(column(run(straight, createStep('groove', { groove: 'sixteenth swing' })), 'start')).toEqual(
      [0, 278.4, 480, 758.4].map((tick) => expect.closeTo(tick, 9)),
    );
  });

  it('accents go by their distance from the mean, and a negative amount turns them round', () => {
    const groove = {
      name: 'x',
      grid: '1/4',
      beats: 2,
      points: [
        { at: 0, shift: 0, accent: 0.8 },
        { at: 1, shift: 0, accent: 0.4 },
      ],
    };
    const notes = [
      { start: 0, velocity: 64 },
      { start: 960, velocity: 64 },
    ];
    expect(column(run(notes, createStep('groove', { groove, velocity: 50 })), 'velocity')).toEqual(
      [64 + 12.7, 64 - 12.7].map((value) => expect.closeTo(value, 9)),
    );
    expect(column(run(notes, createStep('groove', { groove, velocity: -50 })), 'velocity')[0]).toBeCloseTo(
      64 - 12.7,
      9,
    );
  });

  it('a groove taken from a part made with a known groove comes back within a tick', () => {
    for (const groove of BUILT_IN_GROOVES) {
      const step = typeof groove.grid === 'string' ? ({ '1/8': 480, '1/16': 240 }[groove.grid] ?? 480) : 480;
      const straight = Array.from({ length: (groove.beats * 960 * 6) / step }, (_, index) => ({
        start: 3840 + index * step,
        end: 3840 + index * step + 60,
        velocity: 64,
      }));
      const played = run(straight, createStep('groove', { groove, straighten: 100 }));
      const taken = takeGroove(played, 'taken', groove.grid, groove.beats, timeline);
      taken.groove.points.forEach((point, index) =>
        expect(Math.abs(point.shift - groove.points[index].shift) * 960).toBeLessThan(1),
      );
      expect(Math.min(...taken.strokes)).toBeGreaterThan(0);
    }
  });

  it('align draws to the nearest stroke within reach, the earlier on a tie', () => {
    const other = noteTableOf([{ start: 1000 }, { start: 1200 }, { start: 5000 }]);
    const step = createStep('align', { to: 'drums', reachMs: 80 });
    const notes = [{ start: 1050 }, { start: 1100 }, { start: 1150 }, { start: 3000 }];
    expect(
      column(run(notes, step, { otherPart: (name) => (name === 'drums' ? other : null) }), 'start'),
    ).toEqual([1000, 1000, 1200, 3000]);
    expect(column(run(notes, { ...step, strength: 50 }, { otherPart: () => other }), 'start')).toEqual([
      1025, 1050, 1175, 3000,
    ]);
    expect(column(run(notes, step, { otherPart: () => null }), 'start')).toEqual([1050, 1100, 1150, 3000]);
  });
});
