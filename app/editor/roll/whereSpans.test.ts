import { createTimeline } from '@ordle/core';
import fc from 'fast-check';
import { LAYOUT, WINDOW } from '../testing/notes';
import {
  beginPitchSpanGesture,
  beginSpanGesture,
  type WhereChange,
  type WhereGestureTarget,
} from './whereGestures';
import { barsBetween, placeSpans, rowsOfSpans, spanAt, stripHeight, type WhereSpan } from './whereSpans';

const BAR = 1920;
const { meter } = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);
const span = (stepId: string, from: number, to: number, isCurrent = false): WhereSpan => ({
  stepId,
  name: stepId,
  from: (from - 1) * BAR,
  to: (to - 1) * BAR,
  isCurrent,
});

/** A target that writes down what the gestures do. */
function recording(spans: WhereSpan[], more: Partial<WhereGestureTarget> = {}) {
  const log = {
    changes: [] as WhereChange[],
    gestures: new Set<string>(),
    abandoned: [] as string[],
    stood: [] as string[],
    refused: 0,
  };
  const layout = { ...LAYOUT, spans: stripHeight(spans) };
  const target: WhereGestureTarget = {
    layout: () => layout,
    window: () => ({ ...WINDOW, ticksPerPixel: 16 }),
    meter: () => meter,
    spans: () => spans,
    wherePitch: () => null,
    mayWhere: () => true,
    where(change, gesture) {
      log.changes.push(change);
      log.gestures.add(gesture);
    },
    abandonWhere: (gesture) => void log.abandoned.push(gesture),
    standAt: (stepId) => void log.stood.push(stepId),
    whereRefused: () => void log.refused++,
    ...more,
  };
  /** The middle of a bar, in the row of a span. */
  const at = (bar: number, row = 0): [number, number] => [
    46 + ((bar - 0.5) * BAR) / 16,
    60 + 3 + row * 11 + 5,
  ];
  return { target, log, at };
}
const event = {} as PointerEvent;

describe('the strip of spans', () => {
  it('keeps every span readable: no two in one row overlap, and rows are as few as can be', () => {
    const bars = fc.tuple(fc.integer({ min: 1, max: 30 }), fc.integer({ min: 1, max: 12 }));
    fc.assert(
      fc.property(fc.array(bars, { maxLength: 12 }), (list) => {
        const spans = list.map(([from, length], index) => span(String(index), from, from + length));
        const rows = rowsOfSpans(spans);
        spans.forEach((a, i) =>
          spans.forEach((b, j) => {
            if (i < j && rows[i] === rows[j]) expect(a.to <= b.from || b.to <= a.from).toBe(true);
          }),
        );
        expect(new Set(rows).size).toBe(Math.max(0, ...rows.map((row) => row + 1)));
      }),
    );
    expect(stripHeight([])).toBe(0);
    // Twelve steps on the whole part take no more room than one; many on the same bars no more than three.
    const whole = Array.from({ length: 12 }, (_, index) => ({ ...span(String(index), 1, 2), to: Infinity }));
    expect(stripHeight(whole)).toBe(stripHeight(whole.slice(0, 1)));
    const piled = whole.map((each) => ({ ...each, to: BAR }));
    expect(stripHeight(piled)).toBe(stripHeight(piled.slice(0, 3)));
    const placed = placeSpans(piled, WINDOW, { ...LAYOUT, spans: stripHeight(piled) });
    expect(new Set(placed.map(({ top }) => top)).size).toBe(12);
  });

  it('counts bars as a where does, in any direction', () => {
    expect(barsBetween(meter, 0, 10)).toEqual([1, 2]);
    expect(barsBetween(meter, 3 * BAR, 1.5 * BAR)).toEqual([2, 4]);
    expect(barsBetween(meter, BAR, BAR)).toEqual([2, 3]);
    expect(barsBetween(meter, -500, 2 * BAR + 1)).toEqual([1, 4]);
  });
});

describe('dragging a where', () => {
  it('across the strip gives the current step those bars, as one gesture', () => {
    const { target, log, at } = recording([{ ...span('a', 1, 2, true), to: Infinity }]);
    const gesture = beginSpanGesture(target, ...at(3));
    for (const bar of [4, 5, 6, 5]) gesture?.move(...at(bar), event);
    gesture?.end();
    expect(log.changes).toEqual([[3, 5], [3, 6], [3, 7], [3, 6]].map((bars) => ({ bars }))); // prettier-ignore
    expect(log.gestures.size).toBe(1);
  });

  it('takes a span by its ends or its body', () => {
    const spans = [span('a', 3, 6, true)];
    const end = recording(spans);
    const [x, y] = end.at(5);
    expect(spanAt(placeSpans(spans, end.target.window(), end.target.layout()), x + 60, y)?.edge).toBe('to');
    const byEnd = beginSpanGesture(end.target, x + 60, y);
    byEnd?.move(...end.at(8), event);
    byEnd?.end();
    expect(end.log.changes.at(-1)).toEqual({ bars: [3, 9] });
    const body = recording(spans);
    const byBody = beginSpanGesture(body.target, ...body.at(4));
    byBody?.move(...body.at(6), event);
    byBody?.move(...body.at(-4), event);
    byBody?.end();
    expect(body.log.changes).toEqual([{ bars: [5, 8] }, { bars: [1, 4] }]);
  });

  it('a click on another step stands there; without a step it says so; giving up takes it back', () => {
    const { target, log, at } = recording([span('a', 1, 5, true), span('b', 2, 4)]);
    beginSpanGesture(target, ...at(3, 1))?.end();
    expect(log.stood).toEqual(['b']);
    const abandoned = beginSpanGesture(target, ...at(7));
    abandoned?.move(...at(8), event);
    abandoned?.abandon?.();
    expect(log.abandoned).toEqual([...log.gestures]);
    const none = recording([], { mayWhere: () => false });
    beginSpanGesture(none.target, ...none.at(3))?.end();
    expect([none.log.refused, none.log.changes]).toEqual([1, []]);
  });

  it('beside the keys gives a range of pitches, and its ends can be taken again', () => {
    const { target, log } = recording([]);
    const y = (pitch: number) => 60 + (72 - pitch + 0.5) * 10;
    const gesture = beginPitchSpanGesture(target, y(60));
    gesture?.move(40, y(64), event);
    gesture?.move(40, y(57), event);
    expect(log.changes).toEqual([{ pitch: [60, 64] }, { pitch: [57, 60] }]);
    const again = recording([], { wherePitch: () => [57, 64] });
    const end = beginPitchSpanGesture(again.target, y(64));
    end?.move(40, y(69), event);
    expect(again.log.changes).toEqual([{ pitch: [57, 69] }]);
  });
});
