import fc from 'fast-check';
import { createEventBuilder } from '../midi';
import { noteTableOf, type Material, type Note } from '../model';
import { applyStep, type Step } from '../steps';
import { createTimeline } from '../time';

export const noEvents = createEventBuilder().build();
export const timeline = createTimeline(
  { kind: 'metrical', ticksPerQuarter: 960 },
  [{ tick: 0, microsecondsPerQuarter: 500000 }],
  [],
);
export const context = { timeline, isDrums: false };
/** At 120 bpm and 960 ticks a quarter. */
export const MS = 1.92;

export const material = (notes: Partial<Note>[], events = noEvents): Material => ({
  notes: noteTableOf(notes.map((note, id) => ({ id, ...note }))),
  events,
});
export const run = (
  notes: Partial<Note>[],
  step: Step,
  more: Partial<typeof context> & { otherPart?: (name: string) => Material['notes'] | null } = {},
) => applyStep(material(notes), step, { ...context, ...more }).notes;
export const column = (table: Material['notes'], key: 'start' | 'end' | 'pitch' | 'velocity') =>
  Array.from(table.id, (id, row) => [id, table[key][row]])
    .sort((a, b) => a[0] - b[0])
    .map(([, value]) => value);
export const rows = (table: Material['notes']) =>
  Array.from(table.id, (id, row) => [
    id,
    table.start[row],
    table.end[row],
    table.pitch[row],
    table.velocity[row],
  ]).sort((a, b) => a[0] - b[0]);

export const anyNotes = fc.array(
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
