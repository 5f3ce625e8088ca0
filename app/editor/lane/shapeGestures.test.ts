import type { DrawnLine } from '@ordle/core';
import { beginStroke } from './curveGestures';
import { beginReshape, beginScale, cornerAt, lineHandleAt, placeOf, selectionBox } from './shapeGestures';
import { at, keys, laneOf } from '../testing/lane';

const THREE: [number, number][] = [[0, 20], [480, 60], [960, 100]]; // prettier-ignore

describe('shaping a line', () => {
  const drawn: DrawnLine = {
    from: { at: 0, value: 20 },
    to: { at: 960, value: 100 },
    through: { at: 480, value: 60 },
  };

  it('a line drawn with Shift says what it is, and has a handle half-way and one at each end', () => {
    const { target, log } = laneOf(THREE);
    const stroke = beginStroke(target, ...at(0, 20));
    stroke.move(...at(960, 100), keys({ shift: true }));
    stroke.end();
    expect(log.done[0].edits[0].line).toEqual(drawn);
    const handleAt = (tick: number, value: number) =>
      lineHandleAt(target, [drawn], ...at(tick, value), true)?.handle ?? null;
    expect([handleAt(484, 62), handleAt(484, 80), handleAt(0, 20), handleAt(960, 100)]).toEqual([
      'through',
      null,
      'from',
      'to',
    ]);
    // Where one draws, the next line may begin at the end of the last.
    expect(lineHandleAt(target, [drawn], ...at(960, 100), false)).toBeNull();
    // With several points selected an end is one of them, to be moved with the rest.
    target.select([0, 1]);
    expect([handleAt(0, 20), handleAt(480, 60)]).toEqual([null, 'through']);
    // One that is too short for three handles has none.
    const short = { from: { at: 0, value: 20 }, to: { at: 40, value: 30 }, through: { at: 20, value: 25 } };
    expect(lineHandleAt(target, [short], ...at(20, 25), true)).toBeNull();
  });

  it('is bent by the middle, through where it is let go', () => {
    const { target, log } = laneOf(THREE);
    const bend = beginReshape(target, drawn, 'through');
    bend.move(...at(480, 30), keys());
    bend.end();
    const { label, edits } = log.done[0];
    expect([label, edits[0].from, edits[0].to]).toEqual(['Bend a line in expression (11)', 0, 960]);
    expect(edits[0].line).toMatchObject({ through: { at: 480, value: 30 } });
    const middle = edits[0].points.filter(({ at: tick }) => tick <= 480).at(-1);
    expect(Math.abs((middle?.value ?? 0) - 30)).toBeLessThanOrEqual(1);
    expect(log.live).toContain('Bend a line in expression (11)');
    const line = edits[0].line;
    expect(line && placeOf(line, 'through')).toEqual({ at: 480, value: 30 });
    // Let go without a move it is as it was.
    beginReshape(target, drawn, 'through').end();
    expect(log.done).toHaveLength(1);
  });

  it('an end goes where it is taken, and never past the other', () => {
    const { target, log } = laneOf(THREE);
    const move = beginReshape(target, drawn, 'to');
    move.move(...at(720, 40), keys({ alt: true }));
    move.end();
    const [{ line, points }] = log.done[0].edits;
    expect(line?.to).toEqual({ at: 720, value: 40 });
    expect(points.filter(({ at: tick }) => tick <= 720).at(-1)?.value).toBe(40);
    const past = beginReshape(target, drawn, 'from');
    past.move(...at(1200, 40), keys({ alt: true }));
    past.end();
    expect(log.done[1].edits[0].line?.from.at).toBe(959);
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
