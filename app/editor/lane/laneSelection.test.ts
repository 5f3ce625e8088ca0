import { pointsOf, type LaneView } from '@ordle/core';
import { createLaneSelection } from './laneSelection';

const viewOf = (list: [tick: number, value: number][]): LaneView => ({
  lane: 'cc11',
  channel: 1,
  points: pointsOf(list.map(([tick, value]) => ({ tick, value }))),
  trace: null,
  low: 0,
  high: 127,
  resting: 0,
  others: [],
});

function selectionOf(list: [number, number][]) {
  const log = { keys: [] as string[], selections: 0 };
  let view = viewOf(list);
  const selection = createLaneSelection({
    target: () => ({ view: () => view, selected: () => selection.rows() }),
    onSelection: () => log.selections++,
    onKey: ({ key }) => log.keys.push(key),
  });
  const arrive = (next: [number, number][]) => selection.arrived((view = viewOf(next)));
  return { selection, log, arrive, rows: () => [...selection.rows()] };
}
const key = (name: string) => ({ key: name }) as KeyboardEvent;

describe('the selection of points', () => {
  it('is gone with the points it was of, and has a box as long as it holds two places', () => {
    const { selection, arrive, rows } = selectionOf([[0, 10], [100, 30]]); // prettier-ignore
    selection.select([0, 1]);
    expect(selection.box()).toEqual({ from: 0, to: 100, low: 10, high: 30 });
    // Of other values at the same places, as after an undo, it stays.
    arrive([[0, 20], [50, 5], [100, 40]]); // prettier-ignore
    expect([rows(), selection.box()]).toEqual([[0, 2], { from: 0, to: 100, low: 20, high: 40 }]);
    arrive([[0, 10], [200, 30]]); // prettier-ignore
    expect([rows(), selection.box()]).toEqual([[], null]);
  });

  it('is found again where a gesture put it, held to the ends of the lane, and not before it is there', () => {
    const { selection, arrive, rows } = selectionOf([[0, 10], [100, 120]]); // prettier-ignore
    selection.select([1]);
    selection.expect([{ at: 150, value: 140 }]);
    arrive([[0, 11], [100, 120]]); // prettier-ignore
    expect([rows(), selection.isExpecting()]).toEqual([[], true]);
    arrive([[0, 11], [150, 127]]); // prettier-ignore
    expect([rows(), selection.isExpecting()]).toEqual([[1], false]);
  });

  it('lets keys wait for points that are on their way, one after the other, and not without end', () => {
    const { selection, log, arrive } = selectionOf([[0, 10]]); // prettier-ignore
    expect(selection.keep(key('a'))).toBe(false);
    selection.expect([{ at: 50, value: 10 }]);
    expect([selection.keep(key('a')), selection.keep(key('b'))]).toEqual([true, true]);
    arrive([[50, 10]]); // prettier-ignore
    expect(log.keys).toEqual(['a']);
    selection.expect([{ at: 60, value: 10 }]);
    for (let press = 0; press < 20; press++) selection.keep(key('c'));
    expect(selection.keep(key('d'))).toBe(false);
    // A new gesture forgets what waited.
    selection.expect([]);
    selection.expect([{ at: 70, value: 10 }]);
    arrive([[70, 10]]); // prettier-ignore
    expect(log.keys).toEqual(['a']);
  });
});
