import fc from 'fast-check';
import {
  barAt,
  barNumbered,
  bpmOf,
  createGrid,
  createMeterMap,
  createTempoMap,
  createTimeline,
  linesBetween,
  microsecondsOf,
  nearestLine,
  nearestLines,
  positionAt,
  quartersOf,
  secondsToTicks,
  tickAtPosition,
  ticksToSeconds,
  type TempoChange,
} from '.';

const metrical = (ticksPerQuarter: number) => ({ kind: 'metrical', ticksPerQuarter }) as const;

describe('tempo map', () => {
  it('holds 120 bpm where a file names no tempo (SMF 1.0)', () => {
    const map = createTempoMap(metrical(480), []);
    expect(ticksToSeconds(map, 480)).toBe(0.5);
  });

  it('gives the arithmetic of tempo: 16 beats in 10.2128 s are 94 bpm, 86.747 bpm is 691667 microseconds', () => {
    const map = createTempoMap(metrical(960), [{ tick: 0, microsecondsPerQuarter: microsecondsOf(94) }]);
    expect(ticksToSeconds(map, 16 * 960)).toBeCloseTo(10.2128, 4);
    expect(microsecondsOf(86.747)).toBe(691667);
    expect(bpmOf(500000)).toBe(120);
    expect((60 * 12) / 8.3).toBeCloseTo(86.747, 3);
  });

  it('times SMPTE divisions by the frame, whatever the tempo', () => {
    const changes = [{ tick: 0, microsecondsPerQuarter: 300000 }];
    const map = createTempoMap({ kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 40 }, changes);
    expect(ticksToSeconds(map, 1000)).toBeCloseTo(1, 12);
    const dropFrame = createTempoMap({ kind: 'smpte', framesPerSecond: 29, ticksPerFrame: 1 }, []);
    expect(ticksToSeconds(dropFrame, 30000)).toBeCloseTo(1001, 9);
  });

  it('stays within 1e-9 s of exact arithmetic over 20,000 tempo changes, both ways', () => {
    const changes: TempoChange[] = [];
    let exactMicroTicks = 0n;
    for (let index = 0; index < 20000; index++) {
      changes.push({ tick: index * 977, microsecondsPerQuarter: 300000 + ((index * 7919) % 700000) });
    }
    const map = createTempoMap(metrical(960), changes);
    for (let index = 1; index < changes.length; index++) {
      exactMicroTicks += 977n * BigInt(changes[index - 1].microsecondsPerQuarter);
      if (index % 500 !== 0) continue;
      // Whole seconds and the rest apart, so that the check itself does not round.
      const unit = 960n * 1000000n;
      const exact = Number(exactMicroTicks / unit) + Number(exactMicroTicks % unit) / Number(unit);
      expect(Math.abs(ticksToSeconds(map, changes[index].tick) - exact)).toBeLessThan(1e-9);
      expect(Math.abs(ticksToSeconds(map, secondsToTicks(map, exact)) - exact)).toBeLessThan(1e-9);
    }
  });

  it('is its own inverse at any tick', () => {
    const changes = fc.array(
      fc.record({ tick: fc.nat(1e6), microsecondsPerQuarter: fc.integer({ min: 1000, max: 2e6 }) }),
      { maxLength: 40 },
    );
    fc.assert(
      fc.property(changes, fc.nat(2e6), (list, tick) => {
        const map = createTempoMap(metrical(480), list);
        const seconds = ticksToSeconds(map, tick);
        expect(Math.abs(ticksToSeconds(map, secondsToTicks(map, seconds)) - seconds)).toBeLessThan(1e-9);
      }),
    );
  });
});

describe('note values', () => {
  // Source: 60000 / bpm x quarters; the figures stand in any delay-time table (common practice).
  it.each([
    ['1/4', 120, 500],
    ['1/8', 120, 250],
    ['1/16', 120, 125],
    ['1/8D', 120, 375],
    ['1/8T', 120, 166.667],
    ['1/4', 94, 638.298],
    ['1/16', 94, 159.574],
  ])('%s at %d bpm lasts %d ms', (value, bpm, ms) => {
    const microsecondsPerQuarter = 60e6 / bpm;
    const { tempo } = createTimeline(metrical(960), [{ tick: 0, microsecondsPerQuarter }], []);
    expect(1000 * ticksToSeconds(tempo, 960 * quartersOf(value))).toBeCloseTo(ms, 3);
  });

  it('counts tuplets as equal parts of their span, and refuses other words', () => {
    expect(quartersOf({ count: 5, in: '1/4' })).toBeCloseTo(0.2, 12);
    expect(() => quartersOf('1/3')).toThrow('not a note value');
  });
});

describe('bars', () => {
  const map = createMeterMap(480, [
    { tick: 0, numerator: 4, denominator: 4 },
    { tick: 4 * 1920, numerator: 6, denominator: 8 },
    { tick: 4 * 1920 + 2000, numerator: 3, denominator: 4 },
  ]);

  it('starts bars at meter changes and cuts the bar before them short', () => {
    expect(barAt(map, 4 * 1920)).toMatchObject({ number: 5, start: 7680, end: 9120 });
    expect(barAt(map, 9200)).toMatchObject({ number: 6, start: 9120, end: 9680 });
    expect(barNumbered(map, 7)).toMatchObject({ number: 7, start: 9680, end: 9680 + 1440 });
  });

  it('writes and reads positions as inverses', () => {
    fc.assert(
      fc.property(fc.nat(100000), (tick) => {
        expect(tickAtPosition(map, positionAt(map, tick))).toBe(tick);
      }),
    );
    expect(positionAt(map, 7680 + 240)).toEqual({ bar: 5, beat: 2, tick: 0 });
  });
});

describe('grid', () => {
  const meter = createMeterMap(960, []);
  const place = { line: 0, step: 0 };

  // Source: arithmetic on the published definition; the second of each pair stands at the given percent of the pair.
  it.each([
    [50, 0],
    [54, 19.2],
    [58, 38.4],
    [60, 48],
    [62, 57.6],
    [63, 62.4],
    [66.667, 80.0016],
    [75, 120],
  ])('swing %d moves the second sixteenth by %d ticks', (swing, ticks) => {
    const grid = createGrid(meter, ['1/16'], swing);
    expect(linesBetween(grid, 0, 960)).toEqual(
      [0, 240 + ticks, 480, 720 + ticks].map((line) => expect.closeTo(line, 6)),
    );
  });

  it('puts eighth swing of two thirds on the triplet lines', () => {
    const swung = linesBetween(createGrid(meter, ['1/8'], 200 / 3), 0, 960);
    const triplets = linesBetween(createGrid(meter, ['1/8T']), 0, 960);
    expect(swung[1]).toBeCloseTo(triplets[2], 9);
  });

  it('sends an exact tie to the earlier line and starts anew at each bar', () => {
    expect(nearestLine(createGrid(meter, ['1/16']), 120, place).line).toBe(0);
    expect(nearestLine(createGrid(meter, ['1/16']), 120.01, place).line).toBe(240);
    const seven = createMeterMap(480, [{ tick: 0, numerator: 7, denominator: 8 }]);
    expect(nearestLine(createGrid(seven, ['1/4']), 1600, place).line).toBe(1680);
    expect(linesBetween(createGrid(seven, ['1/4']), 0, 2000)).toEqual([0, 480, 960, 1440, 1680]);
  });

  it('finds the line a scan over all lines finds', () => {
    const values = fc.subarray(['1/4', '1/8', '1/16', '1/8T', '1/16T', '1/4D'], {
      minLength: 1,
      maxLength: 3,
    });
    fc.assert(
      fc.property(values, fc.integer({ min: 50, max: 75 }), fc.nat(40000), (list, swing, tick) => {
        const seven = createMeterMap(480, [
          { tick: 0, numerator: 7, denominator: 8 },
          { tick: 9000, numerator: 4, denominator: 4 },
        ]);
        const grid = createGrid(seven, list, swing);
        const lines = linesBetween(grid, 0, 50000, 100000);
        const nearest = lines.reduce((best, line) =>
          Math.abs(line - tick) < Math.abs(best - tick) - 1e-6 ? line : best,
        );
        expect(nearestLine(grid, tick, place).line).toBeCloseTo(nearest, 6);
      }),
    );
  });

  it('answers for a whole column what it answers one by one', () => {
    const values = fc.subarray(['1/4', '1/8', '1/16', '1/8T', '1/16T', '1/32'], {
      minLength: 1,
      maxLength: 2,
    });
    const ticks = fc
      .array(fc.nat(400000), { maxLength: 40 })
      .map((list) => Float64Array.from(list, (tenths) => tenths / 10));
    fc.assert(
      fc.property(
        values,
        fc.integer({ min: 50, max: 75 }),
        ticks,
        fc.constantFrom(4, 7),
        (list, swing, column, numerator) => {
          const grid = createGrid(createMeterMap(480, [{ tick: 0, numerator, denominator: 8 }]), list, swing);
          const lines = new Float64Array(column.length);
          nearestLines(grid, column, lines);
          column.forEach((tick, row) => {
            nearestLine(grid, tick, place);
            expect(lines[row]).toBeCloseTo(place.line, 6);
          });
        },
      ),
    );
  });
});

describe('bars of film frames, which are no whole ticks long', () => {
  it('are found again from their own start, and drawing their lines comes to an end', () => {
    const { meter } = createTimeline({ kind: 'smpte', framesPerSecond: 29, ticksPerFrame: 80 }, [], []);
    for (let number = 1; number < 2000; number++)
      expect(barAt(meter, barNumbered(meter, number).start).number).toBe(number);
    const { start } = barNumbered(meter, 2000);
    const lines = linesBetween(createGrid(meter, ['1/4']), 0, start, 1e6);
    expect(lines).toHaveLength(4 * 1999);
  });
});
