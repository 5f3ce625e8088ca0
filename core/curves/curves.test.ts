import fc from 'fast-check';
import { createEventBuilder } from '../midi';
import { noteTableOf } from '../model';
import {
  bendRangeAt,
  bendRanges,
  bytesOfPoint,
  centsOfRaw,
  heldValue,
  joinPoints,
  LANE_PATTERN,
  lanesIn,
  largestError,
  pedalSpans,
  pedalledEnds,
  pointsOf,
  rampAt,
  rawOfCents,
  readLane,
  smoothed,
  thinned,
  waveAt,
  writeLanes,
  RAMP_SHAPES,
  WAVE_SHAPES,
} from '.';

const eventsOf = (list: [tick: number, status: number, data1: number, data2: number][]) => {
  const builder = createEventBuilder();
  for (const event of list) builder.add(...event);
  return builder.build();
};

const anyPoints = fc
  .array(fc.tuple(fc.integer({ min: 1, max: 50 }), fc.integer({ min: 0, max: 127 })), { maxLength: 60 })
  .map((steps) => {
    let tick = 0;
    return pointsOf(steps.map(([gap, value]) => ({ tick: (tick += gap), value })));
  });

describe('lanes', () => {
  it('are read from and written to their events; what does not change is the very same', () => {
    const events = eventsOf([
      [0, 0xb0, 7, 100],
      [0, 0xb1, 7, 90],
      [10, 0xe0, 0, 64],
      [10, 0xb0, 11, 80],
      [20, 0xd0, 33, 0],
      [30, 0xe0, 127, 127],
    ]);
    expect([...readLane(events, 'cc7', 0).value]).toEqual([100]);
    expect([...readLane(events, 'bend', 0).value]).toEqual([8192, 16383]);
    expect([...readLane(events, 'pressure', 0).value]).toEqual([33]);
    const same = ['cc7', 'bend', 'pressure'].map((lane) => ({
      lane,
      channel: 0,
      points: readLane(events, lane, 0),
    }));
    expect(writeLanes(events, same)).toBe(events);
    const bent = { lane: 'bend', channel: 0, points: pointsOf([{ tick: 10, value: 0 }]) };
    const written = writeLanes(events, [bent]);
    expect(Array.from(written.status)).toEqual([0xb0, 0xb1, 0xe0, 0xb0, 0xd0]);
    expect([written.data1[2], written.data2[2]]).toEqual([0, 0]);
    // Out of range values are held to what the lane can hold.
    expect([
      bytesOfPoint('cc1', 2, 200),
      bytesOfPoint('bend', 0, -5),
      bytesOfPoint('pressure', 1, 3.6),
    ]).toEqual([
      [0xb2, 1, 127],
      [0xe0, 0, 0],
      [0xd1, 4, 0],
    ]);
  });

  it('are also programs and the pressure of single keys, each by itself', () => {
    const events = eventsOf([
      [0, 0xc0, 24, 0],
      [10, 0xa0, 60, 33],
      [20, 0xa0, 61, 44],
      [30, 0xa0, 60, 55],
    ]);
    expect(lanesIn(events)).toEqual([
      { lane: 'key60', points: 2 },
      { lane: 'program', points: 1 },
      { lane: 'key61', points: 1 },
    ]);
    expect([...readLane(events, 'key60', 0).value, ...readLane(events, 'program', 0).value]).toEqual([
      33, 55, 24,
    ]);
    const louder = { ...readLane(events, 'key60', 0), value: Float64Array.of(1, 2) };
    const written = writeLanes(events, [{ lane: 'key60', channel: 0, points: louder }]);
    expect([...written.data2]).toEqual([0, 1, 44, 2]);
    expect(['cc119', 'key127', 'program', 'bend'].every((lane) => LANE_PATTERN.test(lane))).toBe(true);
    expect(['cc120', 'key128', 'key', 'velocity'].some((lane) => LANE_PATTERN.test(lane))).toBe(false);
  });

  it('joins two lists in order of time without losing a point', () => {
    fc.assert(
      fc.property(anyPoints, anyPoints, (a, b) => {
        const joined = joinPoints(a, b);
        expect(joined.length).toBe(a.length + b.length);
        for (let row = 1; row < joined.length; row++)
          expect(joined.tick[row]).toBeGreaterThanOrEqual(joined.tick[row - 1]);
        expect([...joined.value].sort()).toEqual([...a.value, ...b.value].sort());
      }),
    );
  });
});

describe('pitch bend', () => {
  it('every 14-bit value comes back from its cents, at any range', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 16383 }), fc.integer({ min: 1, max: 9600 }), (raw, range) => {
        expect(Math.round(rawOfCents(centsOfRaw(raw, range), range))).toBe(raw);
      }),
    );
    // MIDI 1.0: centre 8192, lowest value a whole range down.
    expect([centsOfRaw(8192, 200), centsOfRaw(0, 200), centsOfRaw(12288, 1200)]).toEqual([0, -200, 600]);
  });

  it('reads its range from registered parameter 0, in semitones and cents, and from no other', () => {
    const events = eventsOf([
      [0, 0xb0, 101, 0], [0, 0xb0, 100, 1], [0, 0xb0, 6, 50],
      [10, 0xb0, 101, 0], [10, 0xb0, 100, 0], [10, 0xb0, 6, 12], [10, 0xb0, 38, 50],
      [20, 0xb0, 99, 1], [20, 0xb0, 98, 8], [20, 0xb0, 6, 3],
      [30, 0xb1, 101, 0], [30, 0xb1, 100, 0], [30, 0xb1, 6, 24],
    ]); // prettier-ignore
    const ranges = bendRanges(events, 0);
    expect([0, 9, 10, 25].map((tick) => bendRangeAt(ranges, tick))).toEqual([200, 200, 1250, 1250]);
    expect(bendRangeAt(bendRanges(events, 1), 40)).toBe(2400);
  });
});

describe('thinning (Ramer 1972, Douglas and Peucker 1973)', () => {
  it('never leaves a point farther than its tolerance from the line between those kept; first and last stay', () => {
    fc.assert(
      fc.property(anyPoints, fc.double({ min: 0, max: 40, noNaN: true }), (points, tolerance) => {
        const kept = thinned(points, tolerance);
        expect(largestError(points, kept).error).toBeLessThanOrEqual(tolerance + 1e-9);
        if (points.length === 0) return;
        expect([kept.tick[0], kept.tick[kept.length - 1]]).toEqual([
          points.tick[0],
          points.tick[points.length - 1],
        ]);
        expect(thinned(kept, tolerance).length).toBeLessThanOrEqual(kept.length);
      }),
    );
  });

  it('keeps its promise where points swing so evenly that splitting would take for ever', () => {
    const swing = pointsOf(
      Array.from({ length: 5000 }, (_, row) => ({
        tick: row * 2 + (row % 3),
        value: Math.round(60 + 50 * Math.sin(row / 300) + 4 * Math.sin(row / 7)),
      })),
    );
    for (const tolerance of [0, 0.7, 1, 3]) {
      const kept = thinned(swing, tolerance);
      expect(largestError(swing, kept).error).toBeLessThanOrEqual(tolerance + 1e-9);
      expect(kept.length).toBeLessThan(swing.length);
    }
  });

  it('takes a straight line to its ends and keeps a corner', () => {
    const line = pointsOf(Array.from({ length: 101 }, (_, row) => ({ tick: row * 5, value: row })));
    expect(thinned(line, 0.5).length).toBe(2);
    const corner = pointsOf(
      Array.from({ length: 101 }, (_, row) => ({ tick: row, value: Math.min(row, 100 - row) })),
    );
    expect([...thinned(corner, 0.5).tick]).toEqual([0, 50, 100]);
    expect(thinned(corner, 0)).toMatchObject({ length: 3 });
  });
});

describe('shapes', () => {
  it('smoothing takes the mean of what lies in the window, keeps a constant and stays within its ends', () => {
    const points = pointsOf([0, 10, 20, 30].map((tick, row) => ({ tick, value: [0, 30, 60, 30][row] })));
    const all = new Uint8Array(4).fill(1);
    expect([...smoothed(points, points.tick, 20, all)]).toEqual([15, 30, 40, 45]);
    expect([...smoothed(points, points.tick, 0, all)]).toEqual([0, 30, 60, 30]);
    expect([...smoothed(points, points.tick, 20, Uint8Array.of(0, 1, 0, 0))]).toEqual([0, 30, 60, 30]);
    fc.assert(
      fc.property(anyPoints, fc.integer({ min: 0, max: 500 }), (list, window) => {
        const result = smoothed(list, list.tick, window, new Uint8Array(list.length).fill(1));
        const [low, high] = [Math.min(...list.value), Math.max(...list.value)];
        for (const value of result) {
          expect(value).toBeGreaterThanOrEqual(low - 1e-9);
          expect(value).toBeLessThanOrEqual(high + 1e-9);
        }
      }),
    );
  });

  it.each(RAMP_SHAPES)('ramp %s goes from 0 to 1 and never back', (shape) => {
    const stops = Array.from({ length: 101 }, (_, at) => rampAt(shape, at / 100));
    expect([stops[0], stops[100]]).toEqual([0, 1]);
    stops.slice(1).forEach((stop, at) => expect(stop).toBeGreaterThanOrEqual(stops[at]));
    if (shape === 'slowStart') expect(stops[50]).toBeLessThan(0.5);
    if (shape === 'slowEnd') expect(stops[50]).toBeGreaterThan(0.5);
  });

  it.each(WAVE_SHAPES)('wave %s repeats each period, within ±1 and even around 0', (shape) => {
    let sum = 0;
    for (let at = 0; at < 200; at++) {
      const value = waveAt(shape, (at + 0.5) / 200);
      expect(Math.abs(value)).toBeLessThanOrEqual(1);
      expect(waveAt(shape, (at + 0.5) / 200 + 3)).toBeCloseTo(value, 9);
      sum += value;
    }
    expect(sum).toBeCloseTo(0, 9);
    expect(waveAt(shape, 0.25)).toBeCloseTo(1, 9);
    expect(waveAt(shape, 0.75)).toBeCloseTo(-1, 9);
  });

  it('the value in force is that of the last point, or what the lane rests at', () => {
    const points = pointsOf([
      { tick: 10, value: 5 },
      { tick: 20, value: 7 },
    ]);
    expect([9, 10, 19.9, 20, 99].map((tick) => heldValue(points, tick, 64))).toEqual([64, 5, 5, 7, 7]);
  });
});

describe('pedal', () => {
  it('a press lasts from the first value of 64 and more to the first below (MIDI 1.0: 0-63 up, 64-127 down)', () => {
    const points = pointsOf(
      [0, 63, 64, 100, 80, 63, 127, 0, 90].map((value, row) => ({ tick: row * 10, value })),
    );
    expect(pedalSpans(points)).toEqual([
      { start: 20, end: 50, depth: 100, first: 2, stop: 6 },
      { start: 60, end: 70, depth: 127, first: 6, stop: 8 },
      { start: 80, end: Infinity, depth: 90, first: 8, stop: 9 },
    ]);
    expect(pedalSpans(pointsOf([]))).toEqual([]);
  });

  it('holds notes that are let go while it is down, to where it comes up', () => {
    const events = eventsOf([
      [100, 0xb0, 64, 127],
      [500, 0xb0, 64, 0],
      [600, 0xb0, 64, 100],
      [700, 0xb1, 64, 127],
    ]);
    const notes = noteTableOf([
      { start: 0, end: 90 },
      { start: 10, end: 100 },
      { start: 20, end: 300 },
      { start: 30, end: 500 },
      { start: 40, end: 650 },
      { start: 50, end: 300, channel: 1 },
    ]);
    expect([...pedalledEnds(notes, notes.end, events)]).toEqual([90, 500, 500, 500, 650, 300]);
  });

  it('presses written as points are the same presses when read again', () => {
    const press = fc.tuple(
      fc.integer({ min: 1, max: 90 }),
      fc.integer({ min: 1, max: 90 }),
      fc.integer({ min: 64, max: 127 }),
    );
    fc.assert(
      fc.property(fc.array(press, { maxLength: 20 }), (list) => {
        let tick = 0;
        const spans = list.map(([gap, length, depth]) => ({
          start: (tick += gap),
          end: (tick += length),
          depth,
        }));
        expect(
          pedalSpans(
            pointsOf(
              spans.flatMap(({ start, end, depth }) => [
                { tick: start, value: depth },
                { tick: end, value: 0 },
              ]),
            ),
          ).map(({ start, end, depth }) => ({ start, end, depth })),
        ).toEqual(spans);
      }),
    );
  });
});
