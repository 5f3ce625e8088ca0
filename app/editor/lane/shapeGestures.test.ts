import { beginStroke } from './curveGestures';
import {
  beginBend,
  beginScale,
  selectionBox,
  cornerAt,
  isOnBend,
  straight,
  type BentLine,
} from './shapeGestures';
import { at, keys, laneOf } from '../testing/lane';

const THREE: [number, number][] = [[0, 20], [480, 60], [960, 100]]; // prettier-ignore

describe('bending a line', () => {
  it('a line drawn with Shift has a handle half-way, which bends it through where it is let go', () => {
    const { target, log } = laneOf(THREE);
    let line: BentLine | null = null;
    const stroke = beginStroke(target, ...at(0, 20), (from, to) => (line = straight(from, to)));
    stroke.move(...at(960, 100), keys({ shift: true }));
    stroke.end();
    expect(line).toEqual({
      from: { at: 0, value: 20 },
      to: { at: 960, value: 100 },
      through: { at: 480, value: 60 },
    });
    const drawn = straight({ at: 0, value: 20 }, { at: 960, value: 100 });
    expect(isOnBend(target, drawn, ...at(484, 62))).toBe(true);
    expect(isOnBend(target, drawn, ...at(484, 80))).toBe(false);
    const bend = beginBend(target, drawn, (next) => (line = next));
    bend.move(...at(480, 30), keys());
    bend.end();
    expect(line).toMatchObject({ through: { at: 480, value: 30 } });
    const { label, edits } = log.done[1];
    expect([label, edits[0].from, edits[0].to]).toEqual(['Bend a line in expression (11)', 0, 960]);
    const middle = edits[0].points.filter(({ at: tick }) => tick <= 480).at(-1);
    expect(Math.abs((middle?.value ?? 0) - 30)).toBeLessThanOrEqual(1);
    expect(log.live).toContain('Bend a line in expression (11)');
    // Let go without a move it is as it was.
    beginBend(target, drawn, () => undefined).end();
    expect(log.done).toHaveLength(2);
  });
});

describe('scaling by the corners', () => {
  function selectedThree() {
    const lane = laneOf(THREE);
    lane.target.select([0, 1, 2]);
    const box = selectionBox(lane.target);
    if (!box) throw new Error('no box');
    return { ...lane, box };
  }

  it('there is a box around two points or more, and none around one place', () => {
    const { target, box } = selectedThree();
    expect(box).toEqual({ from: 0, to: 960, low: 20, high: 100 });
    expect(cornerAt(target, box, 960 / 4 + 6, at(0, 100)[1] - 6)).toEqual({ at: 960, value: 100 });
    expect(cornerAt(target, box, ...at(480, 60))).toBeNull();
    target.select([1]);
    expect(selectionBox(target)).toBeNull();
  });

  it('the corner across stays; Shift keeps the times; sideways keeps the values', () => {
    const { target, log, box } = selectedThree();
    const drag = (from: [number, number], to: [number, number], held = keys()) => {
      const scale = beginScale(target, box, { at: 960, value: 100 }, ...from);
      scale.move(...to, held);
      scale.end();
      return log.done.at(-1)?.edits[0].points.map(({ at: tick, value }) => [tick, value]);
    };
    expect(drag(at(960, 100), at(480, 60))).toEqual([[0, 20], [240, 40], [480, 60]]); // prettier-ignore
    expect(drag(at(960, 100), at(480, 60), keys({ shift: true }))).toEqual([[0, 20], [480, 40], [960, 60]]); // prettier-ignore
    expect(drag(at(960, 100), at(1920, 101))).toEqual([[0, 20], [960, 60], [1920, 100]]); // prettier-ignore
    // Drawn beyond the other side the values are turned over, held to the lane.
    expect(drag(at(960, 100), at(961, 0))).toEqual([
      [0, 20],
      [480, 10],
      [960, 0],
    ]);
    expect(log.done[0]).toMatchObject({
      label: 'Scale 3 points in expression (11)',
      selected: [
        { at: 0, value: 20 },
        { at: 240, value: 40 },
        { at: 480, value: 60 },
      ],
    });
  });
});
