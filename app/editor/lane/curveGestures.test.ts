import { beginSelection, beginRub, beginStroke, pointNear } from './curveGestures';
import { marksOf, valueAtY, valueInWords, yOfValue } from './laneGeometry';
import { HEIGHT, at, keys, laneOf } from '../testing/lane';

const THREE: [number, number][] = [[0, 20], [480, 60], [960, 100]]; // prettier-ignore

describe('the scale of a lane', () => {
  it('takes values to places and back, held to the ends', () => {
    for (const value of [0, 1, 64, 127])
      expect(valueAtY({ low: 0, high: 127 }, yOfValue({ low: 0, high: 127 }, value, HEIGHT), HEIGHT)).toBe(
        value,
      );
    expect(valueAtY({ low: 0, high: 127 }, -50, HEIGHT)).toBe(127);
    expect(valueAtY({ low: -200, high: 200 }, HEIGHT, HEIGHT)).toBe(-200);
  });

  it('marks whole semitones of a bend, as many as can be read, and says values in them', () => {
    expect(marksOf({ lane: 'bend', low: -200, high: 200 }, 96)).toEqual([-200, -100, 0, 100, 200]);
    expect(marksOf({ lane: 'bend', low: -1200, high: 1200 }, 96)).toEqual([-1200, -600, 0, 600, 1200]);
    expect(marksOf({ lane: 'cc7', low: 0, high: 127 }, 96)).toEqual([0, 64, 127]);
    expect([
      valueInWords('bend', 150),
      valueInWords('bend', -25),
      valueInWords('bend', 0),
      valueInWords('cc1', 63.6),
    ]).toEqual(['+1.5', '−0.25', '0', '64']);
  });
});

describe('drawing in a lane', () => {
  it('freely, in a line with Shift, in steps with Alt', () => {
    const free = laneOf(THREE);
    const stroke = beginStroke(free.target, ...at(100, 30));
    stroke.move(...at(300, 90), keys());
    stroke.end();
    expect(free.log.done).toEqual([
      {
        label: 'Draw in expression (11)',
        selected: [],
        edits: [
          {
            lane: 'cc11',
            channel: 1,
            from: 100,
            to: 301,
            points: [
              { at: 100, value: 30 },
              { at: 300, value: 90 },
              // What held there holds on behind the stroke.
              { at: 301, value: 20 },
            ],
          },
        ],
      },
    ]);
    const line = laneOf(THREE);
    const straight = beginStroke(line.target, ...at(0, 0));
    straight.move(...at(400, 99), keys());
    straight.move(...at(960, 4), keys({ shift: true }));
    straight.end();
    expect(line.log.done[0].label).toBe('Draw a line in expression (11)');
    // The last is what stood where the line ends.
    expect(line.log.done[0].edits[0].points.map(({ value }) => value)).toEqual([0, 1, 2, 3, 4, 100]);
    const steps = laneOf(THREE);
    const stepped = beginStroke(steps.target, ...at(20, 10));
    stepped.move(...at(200, 50), keys({ alt: true }));
    stepped.move(...at(300, 70), keys({ alt: true }));
    stepped.end();
    expect(steps.log.done[0].edits[0].points).toEqual([
      { at: 0, value: 10 },
      { at: 120, value: 50 },
      { at: 240, value: 70 },
      { at: 360, value: 20 },
    ]);
  });

  it('a click is a point, rubbing clears a stretch', () => {
    const { target, log } = laneOf(THREE);
    beginStroke(target, ...at(200, 40)).end();
    expect(log.done[0]).toMatchObject({
      label: 'Draw a point in expression (11)',
      edits: [{ points: [{ at: 200, value: 40 }] }],
    });
    const rub = beginRub(target, ...at(400, 0));
    rub.move(...at(700, 0), keys());
    rub.end();
    expect(log.done[1]).toMatchObject({
      label: 'Erase in expression (11)',
      edits: [{ from: 376, to: 724, points: [] }],
    });
    expect(log.boxes).toBe(1);
  });
});

describe('choosing points', () => {
  it('by a click near them, by a box, Shift adds; a click beside them selects none', () => {
    const { target, selected } = laneOf(THREE);
    expect(pointNear(target, ...at(484, 62))).toBe(1);
    expect(pointNear(target, ...at(484, 90))).toBe(-1);
    beginSelection(target, ...at(480, 60), false).end();
    expect(selected()).toEqual([1]);
    beginSelection(target, ...at(960, 100), true).end();
    expect(selected()).toEqual([1, 2]);
    const box = beginSelection(target, ...at(-10, 70), false);
    box.move(...at(700, 10), keys());
    box.end();
    expect(selected()).toEqual([0, 1]);
    beginSelection(target, ...at(700, 10), false).end();
    expect(selected()).toEqual([]);
    // With Alt the height of the box does not count.
    const stretch = beginSelection(target, ...at(300, 126), false);
    stretch.move(...at(1000, 120), keys({ alt: true }));
    stretch.end();
    expect(selected()).toEqual([1, 2]);
  });

  it('moves what is selected to the grid, Alt free of it; up and down alone keeps the time', () => {
    const { target, log } = laneOf(THREE);
    const drag = beginSelection(target, ...at(480, 60), false);
    drag.move(...at(590, 70), keys());
    drag.end();
    expect(log.done[0].edits[0].points).toContainEqual({ at: 600, value: 70 });
    const free = beginSelection(target, ...at(480, 60), false);
    free.move(...at(520, 60), keys({ alt: true }));
    free.end();
    expect(log.done[1].edits[0].points).toContainEqual({ at: 520, value: 60 });
    const up = beginSelection(target, ...at(480, 60), false);
    up.move(...at(484, 90), keys());
    up.end();
    expect(log.done[2]).toMatchObject({
      label: 'Move a point in expression (11)',
      edits: [{ points: [{ at: 480, value: 90 }] }],
    });
    expect(log.done.map(({ selected: after }) => after)).toEqual([
      [{ at: 600, value: 70 }],
      [{ at: 520, value: 60 }],
      [{ at: 480, value: 90 }],
    ]);
    expect(log.live).toHaveLength(3);
  });
});
