import fc from 'fast-check';
import { noteAt, noteTableOf, type Note } from '../model';
import { anyNotes, context, material, rows } from '../testing/stepBench';
import { applyStep, createStep, type ScoreStep, type WrittenBeside, type WrittenTarget } from '.';

const QUARTER = context.timeline.ticksPerQuarter;

/** Ids from here on are of notes that were drawn. */
const DRAWN = 1000;

/** What is written of notes by their ids. */
const beside = (targets: Record<number, WrittenTarget>): WrittenBeside => ({
  targetOf: (id) => targets[id],
  isPlayed: (id) => id < DRAWN,
  missing: [],
});
const cleaned = (
  notes: Partial<Note>[],
  targets: Record<number, WrittenTarget>,
  settings: Partial<ScoreStep> = {},
) => {
  const known = { ...context, written: () => beside(targets) };
  const { notes: made } = applyStep(material(notes), createStep('score', settings), known);
  return Array.from(made.id, (_, row) => noteAt(made, row));
};
const at = (start: number, pitch = 60): WrittenTarget => ({ start, end: start + QUARTER, pitch });

/** Three strokes, the middle one written nowhere, played at half the tempo. */
const PLAYED = [
  { id: 1, start: 100, end: 100 + QUARTER, pitch: 60 },
  { id: 2, start: 100 + QUARTER, end: 100 + 2 * QUARTER, pitch: 66 },
  { id: 3, start: 100 + 2 * QUARTER, end: 100 + 4 * QUARTER, pitch: 61 },
];
const WRITTEN = { 1: at(0), 3: at(QUARTER, 62) };

describe('a step to the score', () => {
  it('puts notes where they are written; what is not written and lengths go along with their neighbours', () => {
    expect(cleaned(PLAYED, WRITTEN).map(({ start, end, pitch }) => [start, end, pitch])).toEqual([
      [0, QUARTER / 2, 60],
      [QUARTER / 2, QUARTER, 66],
      [QUARTER, 2 * QUARTER, 61],
    ]);
  });

  it('goes a share of the way at less strength', () => {
    const [first, , last] = cleaned(PLAYED, WRITTEN, { strength: 50 });
    expect([first.start, last.start]).toEqual([50, (100 + 2 * QUARTER + QUARTER) / 2]);
  });

  it('writes pitches and ends on request, and takes extra notes out', () => {
    const made = cleaned(PLAYED, WRITTEN, { pitches: true, ends: true, extra: 'remove' });
    expect(made.map(({ start, end, pitch }) => [start, end, pitch])).toEqual([
      [0, QUARTER, 60],
      [QUARTER, 2 * QUARTER, 62],
    ]);
  });

  it('keeps a chord as it was rolled, or strikes it at once', () => {
    const chord = [0, 20, 45].map((late, id) => ({ id, start: 300 + late, end: 700, pitch: 60 + 4 * id }));
    const targets = Object.fromEntries(chord.map(({ id, pitch }) => [id, at(240, pitch)]));
    expect(cleaned(chord, targets).map(({ start }) => start)).toEqual([240, 260, 285]);
    expect(cleaned(chord, targets, { chords: 'together' }).map(({ start }) => start)).toEqual([
      240, 240, 240,
    ]);
  });

  it('puts a note that was drawn for a missing one where that is written, and one for nothing along', () => {
    const drawn = [
      { id: DRAWN, start: 100 + QUARTER + 60, end: 100 + 2 * QUARTER, pitch: 64 },
      { id: DRAWN + 1, start: 100 + QUARTER, end: 100 + 2 * QUARTER, pitch: 70 },
    ];
    const notes = [...PLAYED, ...drawn].sort((a, b) => a.start - b.start);
    const known = {
      ...context,
      written: () => ({ ...beside(WRITTEN), missing: [at(QUARTER / 2, 64), at(3 * QUARTER, 70)] }),
    };
    const { notes: made } = applyStep(material(notes), createStep('score', { extra: 'remove' }), known);
    const places = Array.from(made.id, (id, row) => [id, made.start[row]]);
    expect(places).toEqual([
      [1, 0],
      [DRAWN, QUARTER / 2],
      [3, QUARTER],
    ]);
  });

  it('takes the pedal along', () => {
    const { events } = material(PLAYED);
    expect(events.length).toBe(0);
    const pedalled = {
      notes: noteTableOf(PLAYED),
      events: {
        ...events,
        length: 1,
        tick: Float64Array.of(100 + QUARTER),
        status: Uint8Array.of(0xb0),
        data1: Uint8Array.of(64),
        data2: Uint8Array.of(127),
        payload: Uint32Array.of(0),
      },
    };
    const made = applyStep(pedalled, createStep('score'), { ...context, written: () => beside(WRITTEN) });
    expect([...made.events.tick]).toEqual([QUARTER / 2]);
  });

  it('changes nothing at strength 0 or without a score, and once is enough', () => {
    const written = (notes: Partial<Note>[]) =>
      beside(Object.fromEntries(notes.map((_, id) => [id, at(id * 120, 60)])));
    fc.assert(
      fc.property(anyNotes, (notes) => {
        const input = material(notes.map((note, id) => ({ ...note, id })));
        const known = { ...context, written: () => written(notes) };
        expect(applyStep(input, createStep('score'), { ...context, written: () => null })).toBe(input);
        expect(applyStep(input, createStep('score', { strength: 0 }), known)).toBe(input);
        const once = applyStep(input, createStep('score', { chords: 'together', ends: true }), known);
        const twice = applyStep(once, createStep('score', { chords: 'together', ends: true }), known);
        expect(rows(twice.notes)).toEqual(rows(once.notes));
      }),
    );
  });
});
