import fc from 'fast-check';
import { footMoves, pointsOf, readLane, writeLanes } from '../curves';
import { noteTableOf } from '../model';
import { PRESS_AFTER_SECONDS, applyStep, createStep, type CurveEdit } from '../steps';
import { MS, context, noEvents, timeline } from '../testing/stepBench';
import {
  deepenPresses,
  deletePresses,
  drawPress,
  layPoints,
  movePresses,
  pointsOfPresses,
  pressesOf,
  splitPress,
  trimPress,
  type LaneHand,
} from '.';

/** Two presses, the second with half-pedal values within. */
const PRESSES: [number, number][] = [[480, 100], [960, 0], [1440, 70], [1560, 127], [1680, 90], [1920, 0]]; // prettier-ignore
const handOf = (list = PRESSES): LaneHand => ({
  lane: 'cc64',
  channel: 1,
  points: pointsOf(list.map(([tick, value]) => ({ tick, value }))),
  low: 0,
  high: 127,
  resting: 0,
});
const pressed = (hand = handOf()) => footMoves(hand.points);

function after(edits: CurveEdit[], list = PRESSES): [number, number][] {
  const events = writeLanes(noEvents, [{ lane: 'cc64', channel: 0, points: handOf(list).points }]);
  const result = applyStep(
    { notes: noteTableOf([]), events },
    createStep('edits', { curves: edits }),
    context,
  );
  const { tick, value } = readLane(result.events, 'cc64', 0);
  return Array.from(tick, (at, row) => [at, value[row]]);
}

describe('presses by hand', () => {
  it('move with their half-pedal values, not before the start of the music', () => {
    const [first, second] = pressed();
    expect(after(movePresses(handOf(), [second], 240).edits)).toEqual([
      [480, 100],
      [960, 0],
      [1680, 70],
      [1800, 127],
      [1920, 90],
      [2160, 0],
    ]);
    expect(after(movePresses(handOf(), [first, second], -10000).edits).slice(0, 3)).toEqual([
      [0, 100],
      [480, 0],
      [960, 70],
    ]);
  });

  it('are trimmed at either end, a tick long at least; values beyond the end are gone', () => {
    const second = pressed()[1];
    expect(after(trimPress(handOf(), second, 'end', 1600).edits).slice(2)).toEqual([
      [1440, 70],
      [1560, 127],
      [1600, 0],
    ]);
    expect(after(trimPress(handOf(), second, 'start', 1600).edits).slice(2)).toEqual([
      [1600, 70],
      [1680, 90],
      [1920, 0],
    ]);
    expect(after(trimPress(handOf(), second, 'end', 0).edits).slice(2)).toEqual([
      [1440, 70],
      [1441, 0],
    ]);
    // A press that never ended gets an end.
    const open: [number, number][] = [[480, 100]];
    expect(after(trimPress(handOf(open), pressed(handOf(open))[0], 'end', 700).edits, open)).toEqual([
      [480, 100],
      [700, 0],
    ]);
  });

  it('are split with the pedal up just long enough to be renewed', () => {
    const second = pressed()[1];
    const edit = splitPress(handOf(), second, 1600, timeline);
    const again = Math.round(1600 + PRESS_AFTER_SECONDS * 1000 * MS);
    expect(after(edit ? [edit] : [])).toEqual([
      [480, 100],
      [960, 0],
      [1440, 70],
      [1560, 127],
      [1600, 0],
      [again, 90],
      [1920, 0],
    ]);
    expect(splitPress(handOf(), second, 1440, timeline)).toBeNull();
    expect(splitPress(handOf(), second, 1919, timeline)).toBeNull();
  });

  it('are drawn, found by their points, copied and taken out', () => {
    expect(after(drawPress(handOf(), 2000, 2100, 30).edits).slice(-2)).toEqual([
      [2000, 30],
      [2100, 0],
    ]);
    const found = pressesOf(handOf(), new Set([4]));
    expect(found).toEqual([pressed()[1]]);
    expect(after(deletePresses(handOf(), found))).toEqual(PRESSES.slice(0, 2));
    const copied = pointsOfPresses(handOf(), found);
    expect(after([layPoints(handOf(), copied, 2400).edit]).slice(-4)).toEqual([
      [2400, 70],
      [2520, 127],
      [2640, 90],
      [2880, 0],
    ]);
  });

  it('drawn over others end those that reach in and replace those that begin within', () => {
    expect(after(drawPress(handOf(), 700, 1500, 110).edits)).toEqual([
      [480, 100],
      [700, 0],
      [700, 110],
      [1500, 0],
      [1500, 70],
      [1560, 127],
      [1680, 90],
      [1920, 0],
    ]);
    expect(after(drawPress(handOf(), 300, 500, 110).edits)).toEqual([
      [300, 110],
      [500, 0],
      [500, 100],
      ...PRESSES.slice(1),
    ]);
    // One that is covered wholly is part of the new one.
    expect(after(drawPress(handOf(), 300, 1000, 110).edits)).toEqual([
      [300, 110],
      [1000, 0],
      ...PRESSES.slice(2),
    ]);
    const open: [number, number][] = [[480, 100]];
    expect(after(drawPress(handOf(open), 600, 700, 127).edits, open)).toEqual([
      [480, 100],
      [600, 0],
      [600, 127],
      [700, 0],
      [700, 100],
    ]);
  });

  it('with slopes and half presses are taken whole, and made deeper', () => {
    const slopes: [number, number][] = [[0, 20], [10, 70], [20, 127], [100, 90], [110, 30], [120, 10], [130, 80], [200, 0], [300, 40], [400, 0]]; // prettier-ignore
    const hand = handOf(slopes);
    const [first, second, half] = pressed(hand);
    expect([first, second, half].map(({ start, end, depth }) => [start, end, depth])).toEqual([
      [0, 120, 127],
      [120, 200, 80],
      [300, 400, 40],
    ]);
    expect(after(movePresses(hand, [half], 200).edits, slopes).slice(-2)).toEqual([
      [500, 40],
      [600, 0],
    ]);
    expect(after(deepenPresses(hand, [half], () => 30).edits, slopes).slice(-2)).toEqual([
      [300, 70],
      [400, 0],
    ]);
    expect(after(deletePresses(hand, [first]), slopes)).toEqual(slopes.slice(5));
  });

  it('never lose what was pressed, and are as given, whatever they come to lie over', () => {
    const anyLane = fc
      .uniqueArray(fc.integer({ min: 0, max: 400 }), { minLength: 2, maxLength: 12 })
      .chain((ticks) =>
        fc.tuple(
          fc.constant(ticks.sort((a, b) => a - b)),
          fc.array(fc.constantFrom(0, 0, 30, 64, 100, 127), {
            minLength: ticks.length,
            maxLength: ticks.length,
          }),
        ),
      )
      .map(([ticks, values]) => ticks.map((tick, row): [number, number] => [tick, values[row]]));
    const held = (list: [number, number][], tick: number) =>
      list.reduce((value, [at, next]) => (at <= tick ? next : value), 0);
    /** The lane tick by tick, as one text: compared as a whole, and shown where it differs. */
    const heights = (until: number, at: (tick: number) => number) =>
      Array.from({ length: until }, (_, tick) => at(tick)).join(' ');
    fc.assert(
      fc.property(
        anyLane,
        fc.nat(420),
        fc.integer({ min: 1, max: 200 }),
        fc.integer({ min: 1, max: 127 }),
        (list, from, length, depth) => {
          const left = after(drawPress(handOf(list), from, from + length, depth).edits, list);
          const isIn = (tick: number) => tick >= from && tick < from + length;
          expect(heights(700, (tick) => held(left, tick))).toEqual(
            heights(700, (tick) => (isIn(tick) ? depth : held(list, tick))),
          );
        },
      ),
    );
    fc.assert(
      fc.property(anyLane, fc.nat(5), fc.integer({ min: -300, max: 300 }), (list, which, ticks) => {
        const hand = handOf(list);
        const all = pressed(hand).filter(({ end }) => end !== Infinity);
        fc.pre(all.length > 0);
        const press = all[which % all.length];
        const by = Math.max(ticks, -press.start);
        const left = after(movePresses(hand, [press], ticks).edits, list);
        const expected = (tick: number) => {
          if (tick >= press.start + by && tick < press.end + by) return held(list, tick - by);
          return tick >= press.start && tick < press.end ? 0 : held(list, tick);
        };
        expect(heights(900, (tick) => held(left, tick))).toEqual(heights(900, expected));
      }),
    );
  });

  it('moved there and back are as they were', () => {
    fc.assert(
      fc.property(fc.integer({ min: -400, max: 400 }), (ticks) => {
        const there = after(movePresses(handOf(), pressed(), ticks).edits);
        const hand = handOf(there);
        expect(after(movePresses(hand, pressed(hand), -ticks).edits, there)).toEqual(PRESSES);
      }),
    );
  });
});
