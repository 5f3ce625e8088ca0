import fc from 'fast-check';
import { pointsOf, readLane, writeLanes } from '../curves';
import { noteTableOf } from '../model';
import { barAt } from '../time';
import { applyStep, createStep, mergeCurveEdits, type CurveEdit } from '../steps';
import { SIX, after, handOf } from '../testing/laneBench';
import { MS, context, noEvents, timeline } from '../testing/stepBench';
import {
  clearStretch,
  bentPlace,
  copyPoints,
  deletePoints,
  drawBent,
  drawFreely,
  drawLine,
  drawSteps,
  layPoints,
  mergeEdits,
  movePoints,
  noEdits,
  pointsFromText,
  pointsToText,
  repeatDistance,
  scalePoints,
} from '.';

describe('drawing into a lane', () => {
  it('replaces what was between the ends of the stroke; going back over it takes back', () => {
    const path = [
      [150, 90],
      [250, 100],
      [350, 110],
      [240, 70],
      [260, 71],
    ].map(([at, value]) => ({ at, value }));
    expect(after([drawFreely(handOf(), path)])).toEqual([
      [0, 10],
      [100, 20],
      [150, 90],
      [240, 70],
      [260, 71],
      // What held behind the stroke holds again.
      [351, 40],
      [400, 50],
      [500, 60],
    ]);
    // Values beyond the lane are held to its ends.
    expect(drawFreely(handOf(), [{ at: -5, value: 300 }]).points).toEqual([{ at: 0, value: 127 }]);
  });

  it('a line goes through whole values and is the same drawn backwards', () => {
    const line = drawLine(handOf([]), { at: 0, value: 0 }, { at: 960, value: 10 }, timeline);
    // Behind it the lane, which had held nothing, is at rest again.
    expect(line.points.map(({ value }) => value)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 127]);
    expect(line.points.at(-1)?.at).toBe(961);
    expect(drawLine(handOf([]), { at: 960, value: 10 }, { at: 0, value: 0 }, timeline)).toEqual(line);
    line.points
      .slice(1)
      .forEach(({ at }, row) => expect(at - line.points[row].at).toBeGreaterThanOrEqual(5 * MS - 1e-6));
  });

  it('steps hold one value between grid lines', () => {
    const path = [20, 200, 300, 470, 500].map((at, row) => ({ at, value: 10 * (row + 1) }));
    const drawn = drawSteps(handOf(), path, ['1/16'], timeline);
    expect(drawn).toMatchObject({
      from: 0,
      to: 720,
      points: [
        { at: 0, value: 20 },
        { at: 240, value: 40 },
        { at: 480, value: 50 },
        // The last step lasts to the next line, where what held there holds again.
        { at: 720, value: 60 },
      ],
    });
  });
});

describe('behind what was drawn or moved', () => {
  const held = (list: [number, number][], tick: number) =>
    list.reduce((value, [at, own]) => (at <= tick ? own : value), NaN);
  const places = fc.array(fc.record({ at: fc.nat(600), value: fc.nat(127) }), { minLength: 2, maxLength: 8 });
  const ticks = Array.from({ length: 70 }, (_, step) => 10 * step + 5);

  it('everything is as it was, outside a stroke of any kind', () => {
    fc.assert(
      fc.property(places, fc.constantFrom('free', 'line', 'steps', 'bent'), (path, kind) => {
        const [a, b] = [path[0], path[path.length - 1]];
        fc.pre(a.at !== b.at);
        const edit = {
          free: () => drawFreely(handOf(), path),
          line: () => drawLine(handOf(), a, b, timeline),
          steps: () => drawSteps(handOf(), path, ['1/16'], timeline),
          bent: () => drawBent(handOf(), a, b, path[1], timeline),
        }[kind]();
        const drawn = after([edit]);
        for (const tick of ticks)
          if (tick < edit.from || tick > edit.to) expect(held(drawn, tick)).toBe(held(SIX, tick));
      }),
    );
  });

  it('what several moved points came to lie over holds on behind them', () => {
    const moved = after([movePoints(handOf(), new Set([0, 1]), 250, 0)]);
    expect([340, 349, 360, 399, 450].map((tick) => held(moved, tick))).toEqual([10, 10, 40, 40, 50]);
  });
});

describe('a bent line', () => {
  const [a, b] = [
    { at: 0, value: 20 },
    { at: 1920, value: 20 },
  ];

  it('goes through the place it is bent to half-way, in whole values that rise and fall once', () => {
    const through = { at: 960, value: 100 };
    expect(bentPlace(a, b, through, 0.5)).toEqual(through);
    expect([bentPlace(a, b, through, 0), bentPlace(a, b, through, 1)]).toEqual([a, b]);
    const { points, from, to } = drawBent(handOf([[0, 20]]), a, b, through, timeline);
    expect([from, to, points[0].value, points.at(-1)?.value]).toEqual([0, 1920, 20, 20]);
    expect(Math.max(...points.map(({ value }) => value))).toBe(100);
    const top = points.findIndex(({ value }) => value === 100);
    points.slice(1).forEach(({ at, value }, row) => {
      expect(at).toBeGreaterThan(points[row].at);
      expect(Math.sign(value - points[row].value)).toBe(row + 1 <= top ? 1 : -1);
    });
  });

  it('never runs back in time, stays in the lane, and bent by nothing is the line', () => {
    const place = fc.record({
      at: fc.integer({ min: 0, max: 4000 }),
      value: fc.integer({ min: 0, max: 127 }),
    });
    fc.assert(
      fc.property(place, place, place, (one, two, through) => {
        fc.pre(one.at !== two.at);
        const last = one.at < two.at ? two : one;
        // In a lane that holds where the line ends, so that nothing is written behind it.
        const { points } = drawBent(handOf([[0, last.value]]), one, two, through, timeline);
        points.slice(1).forEach(({ at }, row) => expect(at).toBeGreaterThanOrEqual(points[row].at));
        points.forEach(({ value }) => expect(value >= 0 && value <= 127).toBe(true));
        expect(points.at(-1)?.value).toBe(last.value);
      }),
    );
    const end = { at: 960, value: 10 };
    const straight = drawBent(handOf([[0, 10]]), { at: 0, value: 0 }, end, { at: 480, value: 5 }, timeline);
    expect(straight.points.map(({ value }) => value)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
  });
});

describe('copying points', () => {
  it('lays them down elsewhere in place of what is there; through text into any lane', () => {
    const hand = handOf();
    const copied = copyPoints(hand, new Set([2, 1]));
    expect(after([layPoints(hand, copied, 250).edit])).toEqual([
      [0, 10],
      [100, 20],
      [200, 30],
      [250, 20],
      [350, 30],
      [351, 40],
      [400, 50],
      [500, 60],
    ]);
    const text = pointsToText(hand, copied, 480);
    const again = pointsFromText(text, hand, 960).points;
    expect([[...again.tick], [...again.value]]).toEqual([
      [0, 200],
      [20, 30],
    ]);
    const { points: bend } = pointsFromText(text, { ...handOf([], 'bend'), low: -200, high: 200 }, 480);
    expect(bend.value[0]).toBeCloseTo(-200 + (400 * 20) / 127, 5);
    // Between bends of other ranges the cents stay, as far as there is room for them.
    const bent = { ...handOf([[0, 150], [10, -700]], 'bend'), low: -1200, high: 1200 }; // prettier-ignore
    const narrow = { ...handOf([], 'bend'), low: -200, high: 200 };
    const { points: fitted, held } = pointsFromText(pointsToText(bent, bent.points, 480), narrow, 480);
    expect([[...fitted.value], held]).toEqual([[150, -200], 1]);
    expect(() => pointsFromText('hello', hand, 480)).toThrow('no points on the clipboard');
  });

  it('repeats along whole bars', () => {
    const { end: bar } = barAt(timeline.meter, 0);
    expect(repeatDistance([0, bar - 1], timeline)).toBe(bar);
    expect(repeatDistance([100, 200], timeline)).toBe(bar);
    expect(repeatDistance([0, bar], timeline)).toBe(bar);
    expect(repeatDistance([bar - 20, bar + 80], timeline)).toBe(2 * bar);
  });
});

describe('points under the hand', () => {
  it('move in time and value, replacing what they come to lie over', () => {
    expect(after([movePoints(handOf(), new Set([1, 2]), 150, 5)])).toEqual([
      [0, 10],
      [250, 25],
      [350, 35],
      [351, 40],
      [400, 50],
      [500, 60],
    ]);
    expect(after([movePoints(handOf(), new Set([0]), -100, -50)])[0]).toEqual([0, 0]);
  });

  it('scale by their corners and are deleted, others between them stay', () => {
    expect(after([scalePoints(handOf(), new Set([1, 2, 3]), { at: 100, value: 20 }, 0.5, 2)])).toEqual([
      [0, 10],
      [100, 20],
      [150, 40],
      [200, 60],
      [400, 50],
      [500, 60],
    ]);
    expect(after([deletePoints(handOf(), new Set([1, 3]))])).toEqual([
      [0, 10],
      [200, 30],
      [400, 50],
      [500, 60],
    ]);
    expect(after([clearStretch(handOf(), 100, 399)])).toEqual([
      [0, 10],
      [400, 50],
      [500, 60],
    ]);
    // From the other corner: mirrored, and there and back is nothing.
    const turned = scalePoints(handOf(), new Set([1, 2]), { at: 200, value: 30 }, -1, -1);
    expect(turned.points.slice(-3)).toEqual([
      { at: 200, value: 30 },
      { at: 300, value: 40 },
      // What stood at 300 holds again behind them.
      { at: 301, value: 40 },
    ]);
  });

  it('moving by nothing changes nothing, there and back is nothing', () => {
    const rows = fc.uniqueArray(fc.integer({ min: 0, max: 5 }), { minLength: 1 });
    fc.assert(
      fc.property(rows, (list) => {
        expect(after([movePoints(handOf(), new Set(list), 0, 0)])).toEqual(SIX);
      }),
    );
    const there = movePoints(handOf(), new Set([5]), 50, 7);
    const moved = after([there]);
    expect(after([movePoints(handOf(moved), new Set([5]), -50, -7)], moved)).toEqual(SIX);
  });
});

describe('edits of lanes in a step', () => {
  const edit = (from: number, to: number, value: number, lane = 'cc11'): CurveEdit => ({
    lane,
    channel: 1,
    from,
    to,
    points: [{ at: from, value }],
  });

  it('apply in order, and merged they do the same', () => {
    const anyEdit = fc
      .tuple(
        fc.integer({ min: 0, max: 500 }),
        fc.integer({ min: 0, max: 200 }),
        fc.integer({ min: 0, max: 127 }),
      )
      .map(([from, length, value]) => edit(from, from + length, value));
    fc.assert(
      fc.property(
        fc.array(anyEdit, { maxLength: 6 }),
        fc.array(anyEdit, { maxLength: 6 }),
        (first, second) => {
          const merged = second.reduce((list, each) => mergeCurveEdits(list, [each]), first);
          expect(after(merged)).toEqual(after([...first, ...second]));
        },
      ),
    );
    expect(
      mergeCurveEdits([edit(10, 20, 1), edit(15, 30, 2), edit(12, 13, 3, 'cc1')], [edit(5, 25, 4)]),
    ).toHaveLength(3);
  });

  it('stand beside edits of notes, and are left out where there are none', () => {
    const both = mergeEdits({ ...noEdits(), delete: [3] }, { ...noEdits(), curves: [edit(0, 10, 5)] });
    expect(both).toMatchObject({ delete: [3], curves: [{ from: 0 }] });
    expect(mergeEdits(noEdits(), noEdits())).not.toHaveProperty('curves');
    expect(createStep('edits')).not.toHaveProperty('curves');
  });

  it('bends are in cents at the range in force and come back to the value', () => {
    const events = writeLanes(noEvents, [
      { lane: 'bend', channel: 0, points: pointsOf([{ tick: 5, value: 9000 }]) },
    ]);
    const step = createStep('edits', {
      curves: [
        {
          lane: 'bend',
          channel: 1,
          from: 10,
          to: 20,
          points: [
            { at: 10, value: 100 },
            { at: 20, value: -200 },
          ],
        },
      ],
    });
    const result = applyStep({ notes: noteTableOf([]), events }, step, context).events;
    expect([...readLane(result, 'bend', 0).value]).toEqual([9000, 12288, 0]);
  });
});
