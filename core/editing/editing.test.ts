import fc from 'fast-check';
import { createEventBuilder } from '../midi';
import { noteAt, noteTableOf, type Note, type NoteTable } from '../model';
import { applyStep, createStep, editsWithoutNote, type NoteEdits } from '../steps';
import { createTimeline } from '../time';
import {
  copyNotes,
  deleteNotes,
  drawNote,
  joinNotes,
  mergeEdits,
  moveNotes,
  noEdits,
  notesFromText,
  notesToText,
  pasteNotes,
  setValues,
  setVelocities,
  splitNotes,
  trimNotes,
} from '.';

const timeline = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);
const context = { timeline, isDrums: false };
const events = createEventBuilder().build();
const notesOf = (table: NoteTable) => Array.from({ length: table.length }, (_, row) => noteAt(table, row));
const apply = (table: NoteTable, edits: NoteEdits) =>
  applyStep({ notes: table, events }, createStep('edits', edits), context).notes;
const byId = (table: NoteTable) => notesOf(table).sort((a, b) => a.id - b.id);
function ids(from = 1000) {
  let next = from;
  return () => next++;
}

const anyTable = fc
  .array(
    fc.record({
      start: fc.nat(5000),
      length: fc.integer({ min: 1, max: 900 }),
      pitch: fc.nat(127),
      velocity: fc.integer({ min: 1, max: 127 }),
      channel: fc.nat(15),
    }),
    { minLength: 1, maxLength: 25 },
  )
  .map((list) =>
    noteTableOf(list.map(({ start, length, ...rest }, id) => ({ id, start, end: start + length, ...rest }))),
  );
/** An edit of some of a table's notes, by an operation and a seed. */
const anyOperation = fc.record({
  kind: fc.constantFrom(
    'move',
    'copy',
    'trimStart',
    'trimEnd',
    'split',
    'join',
    'delete',
    'velocity',
    'draw',
  ),
  ticks: fc.integer({ min: -800, max: 800 }),
  semitones: fc.integer({ min: -30, max: 30 }),
  mask: fc.bigInt({ min: 0n, max: 2n ** 30n }),
});

function operate(
  table: NoteTable,
  { kind, ticks, semitones, mask }: { kind: string; ticks: number; semitones: number; mask: bigint },
  newId: () => number,
): NoteEdits {
  const selected = notesOf(table).filter((_, row) => (mask >> BigInt(row)) & 1n);
  if (kind === 'move') return moveNotes(selected, ticks, semitones);
  if (kind === 'copy') return copyNotes(selected, ticks, semitones, newId);
  if (kind === 'trimStart') return trimNotes(selected, 'start', ticks);
  if (kind === 'trimEnd') return trimNotes(selected, 'end', ticks);
  if (kind === 'split') return splitNotes(selected, 2500 + ticks, newId, timeline);
  if (kind === 'join') return joinNotes(selected);
  if (kind === 'delete') return deleteNotes(selected);
  if (kind === 'velocity') return setValues(selected, 'velocity', { relative: true, value: semitones });
  return drawNote(
    { start: Math.abs(ticks), end: Math.abs(ticks) + 100, pitch: 60, velocity: 90, channel: 1 },
    newId,
  );
}

describe('hand edits', () => {
  it('written one after the other into one step do what they do one after the other', () => {
    fc.assert(
      fc.property(anyTable, fc.array(anyOperation, { minLength: 1, maxLength: 6 }), (table, operations) => {
        const newId = ids();
        let stepByStep = table;
        let merged = noEdits();
        for (const operation of operations) {
          const edits = operate(stepByStep, operation, newId);
          stepByStep = apply(stepByStep, edits);
          merged = mergeEdits(merged, edits);
        }
        expect(byId(apply(table, merged))).toEqual(byId(stepByStep));
      }),
    );
  });

  it('leave every note inside its bounds, and ids where they were', () => {
    fc.assert(
      fc.property(anyTable, anyOperation, (table, operation) => {
        const after = apply(table, operate(table, operation, ids()));
        for (const note of notesOf(after)) {
          expect(note.start).toBeGreaterThanOrEqual(0);
          expect(note.end - note.start).toBeGreaterThanOrEqual(1);
          expect(note.pitch).toBeLessThanOrEqual(127);
        }
        if (['move', 'trimStart', 'trimEnd', 'velocity'].includes(operation.kind)) {
          expect(byId(after).map(({ id }) => id)).toEqual(byId(table).map(({ id }) => id));
        }
      }),
    );
  });

  it('move there and back where there is room is no move', () => {
    fc.assert(
      fc.property(anyTable, fc.nat(700), (table, ticks) => {
        const there = apply(table, moveNotes(notesOf(table), ticks, 0));
        expect(byId(apply(there, moveNotes(notesOf(there), -ticks, 0)))).toEqual(byId(table));
      }),
    );
  });

  it('do nothing when off, with no edits, or outside their where', () => {
    const table = noteTableOf([{ id: 1, start: 0, end: 10 }]);
    const material = { notes: table, events };
    expect(applyStep(material, createStep('edits', deleteNotes(notesOf(table))), context).notes.length).toBe(
      0,
    );
    expect(
      applyStep(material, createStep('edits', { ...deleteNotes(notesOf(table)), on: false }), context),
    ).toBe(material);
    expect(applyStep(material, createStep('edits'), context)).toBe(material);
    expect(
      applyStep(
        material,
        createStep('edits', { ...deleteNotes(notesOf(table)), where: { pitch: [90, 91] } }),
        context,
      ),
    ).toBe(material);
  });

  it('name the notes they no longer find', () => {
    const edits = { ...noEdits(), change: { '5': { pitch: 60 }, '1': { pitch: 61 } }, delete: [9] };
    expect(editsWithoutNote(createStep('edits', edits), noteTableOf([{ id: 1 }])).sort()).toEqual([5, 9]);
    expect(byId(apply(noteTableOf([{ id: 1 }]), edits))[0].pitch).toBe(61);
  });

  it('split and join are inverse on one note', () => {
    const table = noteTableOf([{ id: 1, start: 0, end: 480, velocity: 77 }]);
    const split = apply(table, splitNotes(notesOf(table), 200, ids(), timeline));
    expect(notesOf(split).map(({ start, end }) => [start, end])).toEqual([
      [0, 200],
      [200, 480],
    ]);
    expect(byId(apply(split, joinNotes(notesOf(split))))).toEqual(byId(table));
    // Played ahead of the place, or hanging over it by a little, a note stays whole.
    const ahead = noteTableOf([
      { id: 1, start: 1910, end: 2400 },
      { id: 2, start: 1000, end: 1930 },
    ]);
    expect(splitNotes(notesOf(ahead), 1920, ids(), timeline)).toMatchObject({ change: {}, add: [] });
  });

  it('set typed values, whole or relative, to their limits', () => {
    const selected: Note[] = notesOf(
      noteTableOf([
        { id: 1, start: 100, end: 200, pitch: 60, velocity: 120 },
        { id: 2, start: 300, end: 400, pitch: 64, velocity: 50 },
      ]),
    );
    const run = (...rest: [Parameters<typeof setValues>[1], boolean, number]) =>
      setValues(selected, rest[0], { relative: rest[1], value: rest[2] }).change;
    expect(run('velocity', true, 10)).toEqual({ 1: { velocity: 127 }, 2: { velocity: 60 } });
    expect(run('length', false, 50)).toEqual({ 1: { end: 150 }, 2: { end: 350 } });
    expect(run('start', true, -150)).toEqual({ 1: { start: 0, end: 100 }, 2: { start: 150, end: 250 } });
    expect(run('pitch', false, 72)).toEqual({ 1: { pitch: 72 }, 2: { pitch: 72 } });
    expect(run('channel', false, 10)).toEqual({ 1: { channel: 10 }, 2: { channel: 10 } });
    expect(setVelocities(new Map([[1, 200]])).change).toEqual({ 1: { velocity: 127 } });
  });

  it('travel by clipboard between sessions of other divisions', () => {
    const selected = notesOf(
      noteTableOf([
        { id: 1, start: 480, end: 720, pitch: 60, velocity: 64 },
        { id: 2, start: 960, end: 961, pitch: 62, velocity: 65 },
      ]),
    );
    const content = notesFromText(notesToText(selected, timeline));
    expect(content.origin).toBe(1);
    expect(pasteNotes(content, 1920, 3, 960, ids(7))).toEqual([
      { id: 7, start: 1920, end: 2400, pitch: 60, velocity: 64, channel: 3 },
      { id: 8, start: 2880, end: 2882, pitch: 62, velocity: 65, channel: 3 },
    ]);
    expect(() => notesFromText('a letter')).toThrow('no notes on the clipboard');
  });
});

describe('very many notes', () => {
  const many = Array.from({ length: 130_000 }, (_, id): Note => ({
    id,
    start: id,
    end: id + 1,
    pitch: 60,
    velocity: 80,
    release: 64,
    channel: 0,
  }));

  it('are moved, copied as text and joined without a limit on their number', () => {
    expect(moveNotes(many, 5, 1).columns?.id).toHaveLength(130_000);
    expect(notesFromText(notesToText(many, timeline)).notes).toHaveLength(130_000);
  });

  it('of one pitch become one note in a moment', () => {
    const joined = joinNotes(many.slice(0, 20_000));
    expect(joined.change).toEqual({ 0: { end: 20_000 } });
    expect(joined.delete).toHaveLength(19_999);
  });
});
