import fc from 'fast-check';
import { heldValue, pointsOf, readLane, writeLanes } from '../curves';
import { noteTableOf, type Note } from '../model';
import { applyStep, createStep } from '../steps';
import { context, noEvents } from '../testing/stepBench';
import { alongEdits, stretchesOf, type AlongDeed } from '.';

/** Notes a beat apart by id, as short as given. */
const NOTES = [0, 1000, 2000, 3000].map((start, id): Partial<Note> => ({ id, start, end: start + 800 }));

/** The lane after some notes were moved, copied or deleted with their controllers. */
function after(list: [number, number][], chosen: number[], deed: AlongDeed, notes = NOTES) {
  const table = noteTableOf(notes);
  const points = pointsOf(list.map(([tick, value]) => ({ tick, value })));
  const events = writeLanes(noEvents, [{ lane: 'cc11', channel: 0, points }]);
  const curves = alongEdits(events, table, new Set(chosen), deed, 0);
  const result = applyStep({ notes: table, events }, createStep('edits', { curves }), context).events;
  return readLane(result, 'cc11', 0);
}
const listed = ({ tick, value }: ReturnType<typeof after>) => Array.from(tick, (at, row) => [at, value[row]]);
const SWELL: [number, number][] = [[0, 10], [1000, 40], [1400, 60], [2000, 30], [2500, 35], [3000, 90]]; // prettier-ignore

describe('the controllers of some notes', () => {
  it('are those between their ends where no other note sounds', () => {
    const table = noteTableOf([...NOTES, { id: 9, start: 1500, end: 2100 }]);
    expect(stretchesOf(table, new Set([1]))).toEqual([[1000, 1500]]);
    expect(stretchesOf(table, new Set([1, 2]))).toEqual([[1000, 1500], [2100, 2800]]); // prettier-ignore
    expect(stretchesOf(table, new Set([9]))).toEqual([[1800, 2000]]);
    expect(stretchesOf(table, new Set())).toEqual([]);
    // One note of a chord leaves the pedal of the others alone.
    const chord = noteTableOf([
      { id: 1, start: 0, end: 500 },
      { id: 2, start: 0, end: 500, pitch: 64 },
    ]);
    expect(stretchesOf(chord, new Set([1]))).toEqual([]);
  });

  it('go along, and what follows the old place and the new one is as it was', () => {
    expect(listed(after(SWELL, [1], { kind: 'move', ticks: 4000 }))).toEqual([
      [0, 10], [1800, 60], [2000, 30], [2500, 35], [3000, 90], [5000, 40], [5400, 60], [5800, 90],
    ]); // prettier-ignore
    expect(listed(after(SWELL, [1], { kind: 'copy', ticks: 4000 }))).toEqual([
      ...SWELL,
      [5000, 40],
      [5400, 60],
      [5800, 90],
    ]);
    expect(listed(after(SWELL, [1], { kind: 'delete' }))).toEqual([[0, 10], [1800, 60], [2000, 30], [2500, 35], [3000, 90]]); // prettier-ignore
    expect(listed(after(SWELL, [1], { kind: 'move', ticks: 0 }))).toEqual(SWELL);
  });

  it('set-up controllers stay, and a lane of nothing stays empty', () => {
    expect(listed(after([], [1], { kind: 'move', ticks: 500 }))).toEqual([]);
    const events = writeLanes(noEvents, [
      { lane: 'cc6', channel: 0, points: pointsOf([{ tick: 1100, value: 12 }]) },
    ]);
    expect(alongEdits(events, noteTableOf(NOTES), new Set([1]), { kind: 'delete' }, 0)).toEqual([]);
  });

  it('never change what is in force outside the two places; inside the new one it is what it was in the old', () => {
    const anyLane = fc
      .uniqueArray(fc.integer({ min: 0, max: 4000 }), { maxLength: 14 })
      .chain((ticks) =>
        fc.tuple(
          fc.constant(ticks.sort((a, b) => a - b)),
          fc.array(fc.nat(127), { minLength: ticks.length, maxLength: ticks.length }),
        ),
      )
      .map(([ticks, values]) => ticks.map((tick, row): [number, number] => [tick, values[row]]));
    const deed = fc.oneof(
      fc.integer({ min: -900, max: 6000 }).map((ticks): AlongDeed => ({ kind: 'move', ticks })),
      fc.integer({ min: 900, max: 6000 }).map((ticks): AlongDeed => ({ kind: 'copy', ticks })),
      fc.constant<AlongDeed>({ kind: 'delete' }),
    );
    fc.assert(
      fc.property(anyLane, deed, (list, done) => {
        const before = pointsOf(list.map(([tick, value]) => ({ tick, value })));
        const lane = after(list, [1], done);
        const [from, to] = [1000, 1800];
        const by = done.kind === 'delete' ? null : done.ticks;
        for (let tick = 0; tick < 9000; tick += 50) {
          const inOld = done.kind !== 'copy' && tick >= from && tick < to;
          const inNew = by !== null && by !== 0 && tick >= from + by && tick < to + by;
          const value = heldValue(lane, tick, 127);
          if (inNew) expect(value).toBe(heldValue(before, tick - (by ?? 0), 127));
          else if (!inOld) expect(value).toBe(heldValue(before, tick, 127));
        }
      }),
      { numRuns: 300 },
    );
  });
});
