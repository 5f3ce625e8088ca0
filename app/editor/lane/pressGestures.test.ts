import { pedalSpans, pointsOf, type CurveEdit } from '@ordle/core';
import { beginPress, beginPressRub } from './pressGestures';
import { at, keys, laneOf } from '../testing/lane';

describe('presses of the pedal', () => {
  const PRESSED: [number, number][] = [
    [480, 100],
    [960, 0],
    [1440, 127],
    [1920, 0],
  ];
  const spansOf = (edits: CurveEdit[]) =>
    pedalSpans(
      pointsOf(edits.flatMap(({ points }) => points.map(({ at: tick, value }) => ({ tick, value })))),
    ).map(({ start, end, depth }) => [start, end, depth]);

  it('are moved by their middle and trimmed at their ends, on the grid', () => {
    const { target, log } = laneOf(PRESSED, 'cc64');
    const drag = (from: number, to: number) => {
      const press = beginPress(target, ...at(from, 50), false);
      press.move(...at(to, 50), keys());
      press.end();
      return spansOf(log.done.at(-1)?.edits ?? []);
    };
    expect(drag(700, 830)).toEqual([[600, 1080, 100]]);
    expect(drag(960, 1190)).toEqual([[480, 1200, 100]]);
    expect(drag(482, 250)).toEqual([[240, 960, 100]]);
    expect(log.done.map(({ label }) => label)).toEqual([
      'Move a press of the pedal',
      'Trim a press of the pedal',
      'Trim a press of the pedal',
    ]);
    // From where it was to where it is, nothing else is left.
    expect(log.done[0].edits).toHaveLength(1);
    expect(log.done[0].edits[0]).toMatchObject({ from: 480, to: 1080 });
  });

  it('are drawn on empty ground as deep as they begin, and erased by going over them', () => {
    const { target, log } = laneOf(PRESSED, 'cc64');
    const press = beginPress(target, ...at(2160, 90), true);
    press.move(...at(2400, 10), keys());
    press.end();
    expect([log.done[0].label, spansOf(log.done[0].edits)]).toEqual([
      'Draw a press of the pedal',
      [[2160, 2400, 90]],
    ]);
    const rub = beginPressRub(target, 700 / 4);
    rub.move(...at(1500, 50), keys());
    rub.end();
    expect(log.done[1].label).toBe('Erase 2 presses of the pedal');
    expect(log.done[1].edits).toMatchObject([{ from: 480, to: 1920, points: [] }]);
    beginPressRub(target, 1200 / 4).end();
    expect(log.done).toHaveLength(2);
  });

  it('are selected whole: by a click, Shift adds, by a box; what is selected moves together', () => {
    const { target, log, selected } = laneOf(PRESSED, 'cc64');
    beginPress(target, ...at(700, 50), false).end();
    expect(selected()).toEqual([0, 1]);
    beginPress(target, ...at(1600, 50), false, true).end();
    expect(selected()).toEqual([0, 1, 2, 3]);
    const drag = beginPress(target, ...at(700, 50), false);
    drag.move(...at(940, 50), keys());
    drag.end();
    expect(log.done[0].label).toBe('Move 2 presses of the pedal');
    expect(spansOf(log.done[0].edits)).toEqual([[720, 1200, 100], [1680, 2160, 127]]); // prettier-ignore
    beginPress(target, ...at(100, 50), false).end();
    expect(selected()).toEqual([]);
    const box = beginPress(target, ...at(1000, 127), false, true);
    box.move(...at(1500, 0), keys());
    box.end();
    expect(selected()).toEqual([2, 3]);
  });
});
