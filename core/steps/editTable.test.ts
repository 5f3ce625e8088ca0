import fc from 'fast-check';
import { mergeEdits, noEdits } from '../editing';
import { noteAt, noteTableOf } from '../model';
import { context, noEvents } from '../testing/stepBench';
import {
  applyStep,
  changedIds,
  columnsOf,
  countOfColumns,
  createStep,
  inlineEdits,
  mergeColumns,
  withoutIds,
  type EditColumns,
  type NoteChange,
  type NoteEdits,
} from '.';

const NOTES = noteTableOf(
  Array.from({ length: 12 }, (_, id) => ({ id, start: id * 100, end: id * 100 + 50, pitch: 60 })),
);
const INPUT = { notes: NOTES, events: noEvents };

const anyChange: fc.Arbitrary<NoteChange> = fc
  .record(
    {
      start: fc.nat(2000),
      end: fc.nat(3000),
      pitch: fc.nat(127),
      velocity: fc.integer({ min: 1, max: 127 }),
      channel: fc.integer({ min: 1, max: 16 }),
    },
    { requiredKeys: [] },
  )
  .filter((change) => Object.keys(change).length > 0);

/** Edits of the notes above, and of two that are drawn: each id in one place, as a hand would make them. */
const anyEdits = fc
  .uniqueArray(fc.tuple(fc.nat(13), fc.option(anyChange, { nil: null })), {
    selector: ([id]) => id,
    maxLength: 14,
  })
  .map((list): Pick<NoteEdits, 'change' | 'delete'> => ({
    change: Object.fromEntries(list.flatMap(([id, change]) => (change ? [[String(id), change]] : []))),
    delete: list.flatMap(([id, change]) => (change ? [] : [id])),
  }));

const inColumns = ({ change, delete: gone }: Pick<NoteEdits, 'change' | 'delete'>): EditColumns =>
  columnsOf(change, gone);

const DRAWN = [12, 13].map((id) => ({ id, start: 5000, end: 5100, pitch: 50, velocity: 70, channel: 1 }));

const rowsOf = (notes: typeof NOTES) =>
  Array.from({ length: notes.length }, (_, row) => noteAt(notes, row)).sort((a, b) => a.id - b.id);

/** The notes after edits that stand in a step itself, and after those that stand in its table. */
function applied(edits: Partial<NoteEdits>, columns?: EditColumns) {
  const table = columns && { key: 'k', ...countOfColumns(columns) };
  const step = createStep('edits', { ...noEdits(), ...edits, ...(table && { table }) });
  const tables = columns && { ...columns, key: 'k' };
  return rowsOf(applyStep(INPUT, step, { ...context, editTable: () => tables }).notes);
}

describe('hand edits of many notes as columns', () => {
  it('do what the same edits do in the step itself, and come back from it', () => {
    fc.assert(
      fc.property(anyEdits, (edits) => {
        expect(applied({}, inColumns(edits))).toEqual(applied(edits));
        const { change, delete: gone } = inlineEdits(inColumns(edits));
        expect({ change, delete: gone }).toEqual(edits);
      }),
    );
  });

  it('of the same notes as before are merged as any others are', () => {
    const changes = fc.array(anyChange, { minLength: 12, maxLength: 12 });
    const asEdits = (list: NoteChange[]) => ({ change: Object.fromEntries(list.entries()), delete: [] });
    fc.assert(
      fc.property(changes, changes, (first, second) => {
        const { columns } = mergeColumns(inColumns(asEdits(first)), inColumns(asEdits(second)), []);
        const both = mergeEdits({ ...noEdits(), ...asEdits(first) }, { ...noEdits(), ...asEdits(second) });
        expect(inlineEdits(columns).change).toEqual(both.change);
      }),
    );
  });

  it('come before what stands in the step itself', () => {
    fc.assert(
      fc.property(anyEdits, anyEdits, (first, second) => {
        const both = mergeEdits({ ...noEdits(), ...first }, { ...noEdits(), ...second });
        expect(applied(second, inColumns(first))).toEqual(applied(both));
      }),
    );
  });

  it('merge as edits in a step do, drawn notes too', () => {
    fc.assert(
      fc.property(anyEdits, anyEdits, (first, second) => {
        // Drawn notes stand in the step; what was said of them before is in them already.
        const before = { change: { ...first.change }, delete: first.delete.filter((id) => id < 12) };
        for (const { id } of DRAWN) delete before.change[String(id)];
        const { columns, added } = mergeColumns(inColumns(before), inColumns(second), DRAWN);
        const both = mergeEdits({ ...noEdits(), ...before, add: DRAWN }, { ...noEdits(), ...second });
        expect(applied({ add: added }, columns)).toEqual(applied(both));
      }),
    );
  });

  it('name the notes they change, and can be rid of some', () => {
    const columns = columnsOf({ 1: { pitch: 61 }, 2: { start: 7 } }, [3]);
    expect([...changedIds(columns)]).toEqual([1, 2]);
    expect(countOfColumns(columns)).toEqual({ changed: 2, deleted: 1 });
    expect(inlineEdits(withoutIds(columns, new Set([2, 3])))).toEqual({
      change: { 1: { pitch: 61 } },
      delete: [],
    });
  });

  it('that are not loaded are told', () => {
    const step = createStep('edits', { table: { key: 'gone', changed: 1, deleted: 0 } });
    expect(() => applyStep(INPUT, step, context)).toThrow('not loaded');
  });
});
