import { pointsOf } from '@ordle/core';
import type { LaneView } from '@/engine/protocol';
import { createLaneChoice } from './laneChoice';

const viewOf = (list: [tick: number, value: number][]): LaneView => ({
  lane: 'cc11',
  channel: 1,
  points: pointsOf(list.map(([tick, value]) => ({ tick, value }))),
  trace: null,
  low: 0,
  high: 127,
  resting: 0,
});

function choiceOf(list: [number, number][]) {
  const log = { keys: [] as string[], choices: 0 };
  let view = viewOf(list);
  const choice = createLaneChoice({
    target: () => ({ view: () => view, chosen: () => choice.rows() }),
    onChoice: () => log.choices++,
    onKey: ({ key }) => log.keys.push(key),
  });
  const arrive = (next: [number, number][]) => choice.arrived((view = viewOf(next)));
  return { choice, log, arrive, rows: () => [...choice.rows()] };
}
const key = (name: string) => ({ key: name }) as KeyboardEvent;

describe('the choice of points', () => {
  it('is gone with the points it was of, and has a box as long as it holds two places', () => {
    const { choice, arrive, rows } = choiceOf([[0, 10], [100, 30]]); // prettier-ignore
    choice.choose([0, 1]);
    expect(choice.box()).toEqual({ from: 0, to: 100, low: 10, high: 30 });
    arrive([[0, 10], [200, 30]]); // prettier-ignore
    expect([rows(), choice.box()]).toEqual([[], null]);
  });

  it('is found again where a gesture put it, held to the ends of the lane, and not before it is there', () => {
    const { choice, arrive, rows } = choiceOf([[0, 10], [100, 120]]); // prettier-ignore
    choice.choose([1]);
    choice.expect([{ at: 150, value: 140 }]);
    arrive([[0, 11], [100, 120]]); // prettier-ignore
    expect([rows(), choice.isExpecting()]).toEqual([[], true]);
    arrive([[0, 11], [150, 127]]); // prettier-ignore
    expect([rows(), choice.isExpecting()]).toEqual([[1], false]);
  });

  it('lets keys wait for points that are on their way, one after the other, and not without end', () => {
    const { choice, log, arrive } = choiceOf([[0, 10]]); // prettier-ignore
    expect(choice.keep(key('a'))).toBe(false);
    choice.expect([{ at: 50, value: 10 }]);
    expect([choice.keep(key('a')), choice.keep(key('b'))]).toEqual([true, true]);
    arrive([[50, 10]]); // prettier-ignore
    expect(log.keys).toEqual(['a']);
    choice.expect([{ at: 60, value: 10 }]);
    for (let press = 0; press < 20; press++) choice.keep(key('c'));
    expect(choice.keep(key('d'))).toBe(false);
    // A new gesture forgets what waited.
    choice.expect([]);
    choice.expect([{ at: 70, value: 10 }]);
    arrive([[70, 10]]); // prettier-ignore
    expect(log.keys).toEqual(['a']);
  });
});
