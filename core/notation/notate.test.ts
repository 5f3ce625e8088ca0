import fc from 'fast-check';
import { noteTableOf, type Note } from '../model';
import { createTimeline, type MeterChange } from '../time';
import { notate, type NotationInput } from './notate';
import type { NotationOptions } from './options';
import { QUARTER, VALUE_TYPES } from './units';
import type { WrittenItem, WrittenPart } from './written';

const QUARTER_TICKS = 480;

function inputOf(
  notes: readonly Partial<Note>[],
  {
    meters = [],
    bpm = 120,
    isDrums = false,
  }: { meters?: MeterChange[]; bpm?: number; isDrums?: boolean } = {},
): NotationInput {
  const tempo = [{ tick: 0, microsecondsPerQuarter: 60e6 / bpm }];
  const timeline = createTimeline({ kind: 'metrical', ticksPerQuarter: QUARTER_TICKS }, tempo, meters);
  return { name: 'Pier', notes: noteTableOf(notes.map((note, id) => ({ id, ...note }))), isDrums, timeline };
}

/** Notes at places in quarters, each lasting to the next of the list or for a length of its own. */
const line = (places: readonly number[], pitch: (index: number) => number = () => 72, length?: number) =>
  places.slice(0, -1).map((at, index) => ({
    start: Math.round(at * QUARTER_TICKS),
    end: Math.round((length === undefined ? places[index + 1] : at + length) * QUARTER_TICKS) - 4,
    pitch: pitch(index),
  }));

const SHORT: Record<string, string> = {
  whole: '1',
  half: '2',
  quarter: '4',
  eighth: '8',
  '16th': '16',
  '32nd': '32',
  '64th': '64',
  '128th': '128',
};

/** A bar of the first staff as text: values (with dots, ties and tuplets), rests with r. */
function barInWords({ bars }: WrittenPart, bar: number, voice = 0): string {
  return bars[bar].staves[0][voice].items
    .map((item) => {
      const { value, tuplet, notes } = item;
      const length = `${SHORT[value.type]}${'.'.repeat(value.dots)}`;
      const tied = notes.some(({ tiedTo }) => tiedTo) ? '~' : '';
      const ratio = tuplet ? `(${tuplet.actual}:${tuplet.normal})` : '';
      return `${notes.length === 0 ? 'r' : ''}${item.isWholeBar ? 'bar' : length}${ratio}${item.isStaccato ? "'" : ''}${tied}`;
    })
    .join(' ');
}

const unitsOfValue = ({ value, tuplet, units, isWholeBar }: WrittenItem): number => {
  if (isWholeBar) return units;
  const plain = VALUE_TYPES.find(({ type }) => type === value.type)?.units ?? NaN;
  return (plain * (value.dots === 1 ? 1.5 : 1) * (tuplet?.normal ?? 1)) / (tuplet?.actual ?? 1);
};

describe('notation of a part', () => {
  it('writes plain rhythms as a reader would', () => {
    const plain = notate(inputOf(line([0, 1, 1.5, 2, 3, 4])));
    expect(barInWords(plain, 0)).toBe('4 8 8 4 4');
    // Nothing hides the middle of four beats; a quarter between halves of beats does not need a tie.
    expect(barInWords(notate(inputOf(line([0, 0.5, 1.5, 2.5, 3, 4]))), 0)).toBe('8 4 8~ 8 8 4');
    expect(barInWords(notate(inputOf(line([0, 3, 4]))), 0)).toBe('2. 4');
    expect(barInWords(notate(inputOf(line([0, 0.75, 1, 4]))), 0)).toBe('8. 16 4~ 2');
    // Over the bar line.
    const over = notate(inputOf(line([0, 3, 5, 6, 8])));
    expect([barInWords(over, 0), barInWords(over, 1)]).toEqual(['2. 4~', '4 4 2']);
  });

  it('keeps what was meant under human faults, and takes off lateness of the whole', () => {
    const eighths = Array.from({ length: 65 }, (_, index) => index / 2);
    const wobble = (index: number) => ((index * 37) % 25) - 12;
    const notes = line(eighths, (index) => 60 + (index % 7));
    const late = notes.map((note, index) => ({
      ...note,
      // 45 ms late at 120 beats a minute are 43 ticks.
      start: note.start + 43 + wobble(index),
      end: note.end + 43 + wobble(index),
    }));
    const written = notate(inputOf(late));
    const right = [...written.placeOf].filter(
      ([id, { bar, at }]) => (bar - 1) * 4 * QUARTER + at === eighths[id] * QUARTER,
    );
    expect(right).toHaveLength(64);
    expect(barInWords(written, 2)).toBe('8 8 8 8 8 8 8 8');
  });

  it('reads triplets beat by beat, over two beats too, and other tuplets', () => {
    const third = 1 / 3;
    const triplets = notate(inputOf(line([0, third, 2 * third, 1, 1.5, 2, 2.25, 2.5, 2.75, 3, 4])));
    expect(barInWords(triplets, 0)).toBe('8(3:2) 8(3:2) 8(3:2) 8 8 16 16 16 16 4');
    const wide = notate(inputOf(line([0, 2 * third, 4 * third, 2, 3, 4])));
    expect(barInWords(wide, 0)).toBe('4(3:2) 4(3:2) 4(3:2) 4 4');
    const five = notate(inputOf(line([0, 0.2, 0.4, 0.6, 0.8, 1, 2, 3, 4]), { bpm: 60 }));
    expect(barInWords(five, 0)).toBe('16(5:4) 16(5:4) 16(5:4) 16(5:4) 16(5:4) 4 4 4');
    // A finest value of an eighth knows no sixteenths.
    const coarse = notate(inputOf(line([0, 0.25, 0.5, 0.75, 1, 4])), { finest: 8 });
    expect(barInWords(coarse, 0)).not.toContain('16');
    // Or only in a bar where that is said.
    const two = [0, 0.25, 0.5, 0.75, 1, 4, 4.25, 4.5, 4.75, 5];
    const mixed = notate(inputOf(line(two)), { finest: 8, finestIn: [{ bar: 2, finest: 16 }] });
    expect(barInWords(mixed, 0)).not.toContain('16');
    expect(barInWords(mixed, 1)).toContain('16 16 16 16');
  });

  it('writes a note with the hand that is said of it', () => {
    const notes = inputOf(line([0, 1, 2, 3, 4]));
    const staves = { staves: 2 as const, handLine: 1 };
    expect([0, 1, 2, 3].map((id) => notate(notes, staves).placeOf.get(id)?.staff)).toEqual([0, 0, 0, 0]);
    const said = notate(notes, { ...staves, staffOf: { 2: 1 } });
    expect([0, 1, 2, 3].map((id) => said.placeOf.get(id)?.staff)).toEqual([0, 0, 1, 0]);
  });

  it('reads compound and irregular meters by their beats, and a bar cut short as a pick-up', () => {
    const six = [{ tick: 0, numerator: 6, denominator: 8 }];
    const eighths = line([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4, 4.5, 5, 5.5, 6]);
    expect(barInWords(notate(inputOf(eighths, { meters: six })), 0)).toBe('8 8 8 8 8 8');
    expect(barInWords(notate(inputOf(line([0, 1, 1.5, 3]), { meters: six })), 0)).toBe('4 8 4.');
    const five = [{ tick: 0, numerator: 5, denominator: 8 }];
    expect(barInWords(notate(inputOf(line([0, 0.5, 1, 1.5, 2, 2.5]), { meters: five })), 0)).toBe(
      '8 8 8 8 8',
    );
    const upbeat = [
      { tick: 0, numerator: 4, denominator: 4 },
      { tick: 480, numerator: 4, denominator: 4 },
    ];
    const picked = notate(inputOf(line([0, 1, 2, 3, 4, 5]), { meters: upbeat }));
    expect(picked.bars.map(({ isImplicit }) => isImplicit)).toEqual([true, false]);
    expect([barInWords(picked, 0), barInWords(picked, 1)]).toEqual(['4', '4 4 4 4']);
  });

  it('writes a held voice under a moving one, chords and rolls as one, repeated pitches once', () => {
    const moving = line([0, 1, 2, 3, 4], (index) => 72 + index);
    const held = { start: 0, end: 1900, pitch: 60 };
    const two = notate(inputOf([...moving, held]));
    expect([barInWords(two, 0), barInWords(two, 0, 1)]).toEqual(['4 4 4 4', '1']);
    const roll = [60, 64, 67, 72].map((pitch, index) => ({ start: index * 34, end: 1900, pitch }));
    const rolled = notate(inputOf([...roll, ...line([4, 5, 6, 7, 8])]));
    const [first] = rolled.bars[0].staves[0][0].items;
    expect([first.notes.map(({ pitch }) => pitch), first.isRolled]).toEqual([[60, 64, 67, 72], true]);
    const doubled = notate(inputOf([{ start: 0, end: 900, pitch: 60 }, { start: 2, end: 1900, pitch: 60 }, ...line([4, 5, 6])])); // prettier-ignore
    expect(doubled.concerns).toContainEqual({ kind: 'dropped', id: 0, bar: 1, ms: 0 });
    expect(doubled.placeOf.has(0)).toBe(false);
  });

  it('swing is written straight with a word for it, or as triplets', () => {
    const swung = Array.from({ length: 65 }, (_, index) => Math.floor(index / 2) + (index % 2) * 0.66);
    const notes = line(swung, (index) => 60 + (index % 5));
    const straight = notate(inputOf(notes));
    expect(barInWords(straight, 1)).toBe('8 8 8 8 8 8 8 8');
    expect(straight.bars[0].directions).toContainEqual(
      expect.objectContaining({ what: 'words', words: expect.stringMatching(/^swing 6\d %$/) as string }),
    );
    expect(barInWords(notate(inputOf(notes), { straightSwing: false }), 1)).toContain('4(3:2) 8(3:2)');
  });

  it('grace notes stand before their note; hands and feet of a kit are two voices', () => {
    const beats = line([0, 1, 2, 3, 4], () => 72, 0.9).map((note) => ({ ...note, velocity: 90 }));
    const grace = { start: 440, end: 470, pitch: 71, velocity: 60 };
    const written = notate(inputOf([...beats, grace]));
    const [, second] = written.bars[0].staves[0][0].items;
    expect(second.graces.map(([{ pitch }]) => pitch)).toEqual([71]);
    expect(written.placeOf.get(4)).toMatchObject({ bar: 1, at: QUARTER, isGrace: true });
    const kit = notate(inputOf([...line([0, 1, 2, 3, 4], () => 42), ...line([0, 2, 4], () => 36)], { isDrums: true })); // prettier-ignore
    expect([barInWords(kit, 0), barInWords(kit, 0, 1)]).toEqual(['4 4 4 4', '4 r4 4 r4']);
  });

  it('names chords over the part, and calls notes by the key of their stretch where one is told', () => {
    const triads = [[60, 64, 67], [65, 69, 72], [67, 71, 74], [60, 64, 67]]; // prettier-ignore
    const notes = triads.flatMap((chord, bar) =>
      chord.map((pitch) => ({ start: bar * 1920, end: (bar + 1) * 1920 - 10, pitch })),
    );
    const written = notate(inputOf(notes), { chordNames: true });
    const named = written.bars.flatMap(({ directions }) =>
      directions.flatMap((each) => (each.what === 'chord' ? [each.name] : [])),
    );
    expect(named).toEqual(['C', 'F', 'G', 'C']);
    const black = { start: 0, end: 1900, pitch: 68 };
    const nameIn = (key: string) => {
      const harmony = { chords: [], keys: [{ bar: 1, key, fit: 1 }] };
      const { step, alter } = notate({ ...inputOf([black]), key: 'C major', harmony }).bars[0].staves[0][0].items[0].notes[0]; // prettier-ignore
      return [step, alter];
    };
    expect(nameIn('A minor')).toEqual(['G', 1]);
    expect(nameIn('F minor')).toEqual(['A', -1]);
  });

  it('the last stroke of a kit ends with its beat: no bar of its tail is written', () => {
    const kit = notate(
      inputOf(
        line([0, 1, 2, 3.5, 3.6], () => 42),
        { isDrums: true },
      ),
    );
    expect(kit.bars).toHaveLength(1);
    expect(barInWords(kit, 0)).toBe('4 4 4 r8 8');
  });

  it('a transposing instrument has its notes and its key a tone higher', () => {
    const scale = [60, 62, 64, 65, 67, 69, 71, 72];
    const notes = line(Array.from({ length: 9 }, (_, index) => index), (index) => scale[index]); // prettier-ignore
    const written = notate({ ...inputOf(notes), key: 'C major' }, { transposition: -2 });
    expect(written.bars[0].fifths).toBe(2);
    const { step, octave, pitch } = written.bars[0].staves[0][0].items[0].notes[0];
    expect([step, octave, pitch]).toEqual(['D', 4, 60]);
  });

  it('a part without notes is a bar of rest', () => {
    const empty = notate(inputOf([]));
    expect(empty.bars).toHaveLength(1);
    expect(barInWords(empty, 0)).toBe('rbar');
  });
});

const METERS: MeterChange[][] = [
  [],
  [{ tick: 0, numerator: 3, denominator: 4 }],
  [{ tick: 0, numerator: 6, denominator: 8 }],
  [{ tick: 0, numerator: 7, denominator: 8 }],
  [{ tick: 0, numerator: 2, denominator: 2 }],
  [{ tick: 0, numerator: 4, denominator: 4 }, { tick: 1000, numerator: 5, denominator: 16 }], // prettier-ignore
];
const anyNotes = fc.array(
  fc.record({
    start: fc.integer({ min: 0, max: 12000 }),
    length: fc.integer({ min: 1, max: 4000 }),
    pitch: fc.integer({ min: 21, max: 108 }),
    velocity: fc.integer({ min: 1, max: 127 }),
  }),
  { maxLength: 80 },
);
const anyOptions: fc.Arbitrary<Partial<NotationOptions>> = fc.record({
  staves: fc.constantFrom(1, 2, null),
  finest: fc.constantFrom(4, 8, 16, 32),
  straightSwing: fc.boolean(),
});

it('whatever is played: every voice fills every bar, values say how long they are, ties meet, no note is lost', () => {
  fc.assert(
    fc.property(
      anyNotes,
      anyOptions,
      fc.constantFrom(...METERS),
      fc.integer({ min: 30, max: 220 }),
      fc.boolean(),
      (list, options, meters, bpm, isDrums) => {
        const notes = list.map(({ start, length, ...rest }) => ({ start, end: start + length, ...rest }));
        const written = notate(inputOf(notes, { meters, bpm, isDrums }), options);
        for (const { units, staves } of written.bars)
          for (const { items } of staves.flat()) {
            let at = 0;
            for (const item of items) {
              expect(item.at).toBe(at);
              expect(unitsOfValue(item)).toBeCloseTo(item.units, 6);
              at += item.units;
            }
            expect(at).toBe(units);
          }
        const dropped = new Set(
          written.concerns.filter(({ kind }) => kind === 'dropped').map(({ id }) => id),
        );
        for (const { id } of notes.map((_, index) => ({ id: index })))
          expect(written.placeOf.has(id) !== dropped.has(id)).toBe(true);
        expectTiesToMeet(written);
      },
    ),
    { numRuns: 150 },
  );
});

/** What is tied on is met by the same note at the very next place, on the same staff. */
function expectTiesToMeet({ bars, staves }: WrittenPart) {
  for (let staff = 0; staff < staves; staff++) {
    const opened = new Map<number, number>();
    let from = 0;
    for (const bar of bars) {
      const items = bar.staves[staff].flatMap((voice) => voice.items).sort((a, b) => a.at - b.at);
      for (const { at, units, notes } of items)
        for (const { id, tiedFrom, tiedTo } of notes) {
          expect(opened.get(id)).toBe(tiedFrom ? from + at : undefined);
          opened.delete(id);
          if (tiedTo) opened.set(id, from + at + units);
        }
      from += bar.units;
    }
    expect(opened.size).toBe(0);
  }
}
