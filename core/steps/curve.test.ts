import fc from 'fast-check';
import { parseMidi } from 'midi-file';
import { bendRanges, bendRangeAt, centsOfRaw, pointsOf, readLane, writeLanes } from '../curves';
import { cleanFile } from '../evaluate';
import { createEventBuilder, writeMidi } from '../midi';
import { noteTableOf, type Material } from '../model';
import { FOUR, curve, laneOf, pointsAfter, valuesAfter, type CurveSettings } from '../testing/curveBench';
import { fileOfNotes, type RawEvent } from '../testing/files';
import { MS, context, noEvents } from '../testing/stepBench';
import { applyStep } from '.';

describe('curve: changing what is there', () => {
  it('scales, adds, limits and turns values round, held to 0 to 127', () => {
    expect(valuesAfter(FOUR, { op: 'scale', percent: 50 })).toEqual([5, 32, 50, 64]);
    expect(valuesAfter(FOUR, { op: 'scale', percent: 200 })).toEqual([20, 127, 127, 127]);
    expect(valuesAfter(FOUR, { op: 'add', amount: -20 })).toEqual([0, 44, 80, 107]);
    expect(valuesAfter(FOUR, { op: 'limit', range: [20, 100] })).toEqual([20, 64, 100, 100]);
    expect(valuesAfter(FOUR, { op: 'invert' })).toEqual([117, 63, 27, 0]);
  });

  it('goes by the bars of its where, and by the notes where it speaks of notes', () => {
    expect(valuesAfter(FOUR, { op: 'add', amount: 1, where: { bars: [2, 3] } })).toEqual([10, 64, 101, 127]);
    const notes = noteTableOf([
      { id: 1, start: 900, end: 1000, pitch: 60 },
      { id: 2, start: 3000, end: 3800, pitch: 40 },
    ]);
    const played = { ...FOUR, notes };
    // What holds into the note is content of it, and what held after it holds on.
    expect(valuesAfter(played, { op: 'add', amount: 1, where: { notes: [1] } })).toEqual([
      10, 11, 65, 64, 100, 127,
    ]);
    expect(valuesAfter(played, { op: 'add', amount: 1, where: { pitch: [40, 40] } })).toEqual([
      10, 64, 65, 64, 100, 127,
    ]);
    expect(valuesAfter(played, { op: 'add', amount: 1, where: { channel: 2 } })).toEqual([10, 64, 100, 127]);
  });

  it('neutral settings give back the very same material', () => {
    for (const settings of [
      { op: 'scale' },
      { op: 'add' },
      { op: 'limit' },
      { op: 'smooth', ms: 0 },
      { op: 'thin', tolerance: 0 },
      { op: 'wave', depth: 0 },
      { op: 'draw' },
      { op: 'copy', to: 'cc11' },
      { op: 'remove', lane: 'cc2' },
    ] as CurveSettings[])
      // prettier-ignore
      expect(applyStep(FOUR, curve({ lane: 'cc11', ...settings }), context)).toBe(FOUR);
  });

  it('bends are scaled around their centre and stay 14-bit; inverting twice is nothing', () => {
    const bends = laneOf('bend', [[0, 8192], [100, 8193], [200, 16000], [300, 1]]); // prettier-ignore
    expect(valuesAfter(bends, { op: 'scale', percent: 50 }, 'bend')).toEqual([8192, 8193, 12096, 4097]);
    expect(valuesAfter(bends, { op: 'invert' }, 'bend')).toEqual([8192, 8191, 384, 16383]);
    // Half a semitone of the default range of two.
    expect(valuesAfter(bends, { op: 'add', amount: 50 }, 'bend')[0]).toBe(8192 + 2048);
    const smooth = valuesAfter(bends, { op: 'smooth', ms: 1000 }, 'bend');
    expect(new Set(smooth)).toEqual(new Set([Math.round((8192 + 8193 + 16000 + 1) / 4)]));
  });

  it('smooths over a window of time, the neighbours outside the bars looked at but left', () => {
    const steps = laneOf('cc11', [0, 60, 0, 60, 0].map((value, row) => [row * 10 * MS, value])); // prettier-ignore
    expect(valuesAfter(steps, { op: 'smooth', ms: 20 })).toEqual([30, 20, 40, 20, 30]);
  });

  it('thins by its tolerance and snaps points to lines, the last on a line staying', () => {
    const line = laneOf('cc11', Array.from({ length: 50 }, (_, row) => [row * 20, row])); // prettier-ignore
    expect(pointsAfter(line, { op: 'thin', tolerance: 0.6, by: 'line' })).toEqual([[0, 0], [980, 49]]); // prettier-ignore
    expect(pointsAfter(FOUR, { op: 'thin', tolerance: 200, where: { bars: [1, 2] } })).toHaveLength(4);
    const near = laneOf('cc11', [[5, 1], [20, 2], [110, 3], [300, 4]]); // prettier-ignore
    expect(pointsAfter(near, { op: 'snap', grid: '1/16' })).toEqual([[0, 3], [240, 4]]); // prettier-ignore
    // Bars 2 and 3 keep theirs: what lies nearest to a line outside goes to the last inside.
    const bar = 3840;
    const edges = laneOf('cc11', [[bar - 10, 1], [bar + 20, 2], [3 * bar - 20, 3], [3 * bar, 4]]); // prettier-ignore
    expect(pointsAfter(edges, { op: 'snap', grid: '1/4', where: { bars: [2, 4] } })).toEqual([[bar - 10, 1], [bar, 2], [3 * bar - 960, 3], [3 * bar, 4]]); // prettier-ignore
  });
});

describe('curve: writing anew', () => {
  it('a ramp has a point at each whole value, at most one each 5 ms, reaches its end, and replaces what was there', () => {
    const bars = { bars: [1, 3] };
    const up = pointsAfter(FOUR, { op: 'ramp', from: 0, to: 127, where: bars });
    expect(up[0]).toEqual([0, 0]);
    expect(up.at(-1)?.[1]).toBe(127);
    expect(up.every(([tick]) => tick < 7680)).toBe(true);
    // It ends where the lane was anyway: nothing need be written there.
    expect(up.map(([, value]) => value)).toEqual(Array.from({ length: 128 }, (_, value) => value));
    up.slice(1, -1).forEach(([tick, value]) => expect(tick).toBeCloseTo(((value - 0.5) / 127) * 7680, 6));
    // 127 values in 50 ms: one each 5 ms, and still the last.
    const steep = pointsAfter(laneOf('cc11', []), { op: 'ramp', from: 127, to: 0, where: { notes: [1] } });
    expect(steep).toEqual([]);
    const brief = { notes: noteTableOf([{ id: 1, start: 0, end: 50 * MS }]), events: noEvents };
    const fast = pointsAfter(brief, { op: 'ramp', from: 127, to: 0, where: { notes: [1] } });
    // Behind it the lane, which had held nothing, is at rest.
    expect(fast.pop()).toEqual([50 * MS, 127]);
    expect(fast.length).toBeLessThanOrEqual(11);
    expect(fast.at(-1)?.[1]).toBe(0);
    fast.slice(1).forEach(([tick], row) => expect(tick - fast[row][0]).toBeGreaterThanOrEqual(5 * MS - 1e-6));
  });

  it('any ramp keeps its promises', () => {
    const shape = fc.constantFrom('line', 'ease', 'slowStart', 'slowEnd');
    const value = fc.integer({ min: 0, max: 127 });
    fc.assert(
      fc.property(shape, value, value, fc.integer({ min: 1, max: 3 }), (form, from, to, length) => {
        const list = pointsAfter(FOUR, {
          op: 'ramp',
          shape: form,
          from,
          to,
          where: { bars: [1, 1 + length] },
        });
        const inside = list.filter(([tick]) => tick < length * 3840);
        expect([inside[0], inside.at(-1)?.[1]]).toEqual([[0, from], to]);
        inside.slice(1).forEach(([tick, each], row) => {
          expect(Math.abs(each - inside[row][1])).toBeGreaterThan(0);
          expect(Math.sign(each - inside[row][1])).toBe(Math.sign(to - from));
          expect(tick - inside[row][0]).toBeGreaterThanOrEqual(5 * MS - 1e-6);
        });
        // Behind it holds what held there, written anew where the ramp ends on something else.
        const after = list.filter(([tick]) => tick >= length * 3840);
        if (length === 1)
          expect(after).toEqual([[3840, 100], [5000, 127]]); // prettier-ignore
        else expect(after).toEqual(to === 127 ? [] : [[length * 3840, 127]]);
      }),
    );
  });

  it('drawn points stand in place of what lay between the first and the last', () => {
    const points = [
      { at: 3000, value: 20 },
      { at: 900, value: 200 },
    ];
    expect(pointsAfter(FOUR, { op: 'draw', points })).toEqual([
      [0, 10],
      [900, 127],
      [3000, 20],
      [3001, 64],
      [3840, 100],
      [5000, 127],
    ]);
    const empty = laneOf('cc11', []);
    expect(pointsAfter(empty, { op: 'draw', points })).toEqual([[900, 127], [3000, 20], [3001, 127]]); // prettier-ignore
    expect(pointsAfter(FOUR, { op: 'remove', where: { bars: [1, 2] } })).toEqual([
      [3840, 100],
      [5000, 127],
    ]);
  });

  it('converts and copies to another lane, replacing what it had in that range', () => {
    const both: Material = {
      ...FOUR,
      events: writeLanes(FOUR.events, [
        {
          lane: 'cc1',
          channel: 0,
          points: pointsOf([
            { tick: 1000, value: 5 },
            { tick: 9000, value: 6 },
          ]),
        },
      ]),
    };
    expect(pointsAfter(both, { op: 'copy', to: 'cc1' })).toEqual([
      [0, 10],
      [960, 64],
      [3840, 100],
      [5000, 127],
      [9000, 6],
    ]);
    const converted = applyStep(
      both,
      curve({ op: 'convert', lane: 'cc11', to: 'cc1', where: { bars: [1, 2] } } as CurveSettings),
      context,
    ).events;
    expect([...readLane(converted, 'cc11', 0).value]).toEqual([100, 127]);
    expect([...readLane(converted, 'cc1', 0).value]).toEqual([10, 64, 5, 6]);
    // A controller's middle is a bend's centre, its ends are the bend's ends.
    expect(
      valuesAfter(
        laneOf('cc1', [
          [0, 0],
          [1, 64],
          [2, 127],
        ]),
        { op: 'copy', to: 'bend' },
        'cc1',
      ),
    ).toEqual([0, 8192, 16383]);
    expect(
      valuesAfter(
        laneOf('bend', [
          [0, 0],
          [1, 8192],
          [2, 16383],
        ]),
        { op: 'copy', to: 'cc1' },
        'bend',
      ),
    ).toEqual([0, 64, 127]);
  });
});

describe('curve: waves, measured back from the file that is written', () => {
  const RPN: RawEvent[] = [[0, 0xb0, 101, 0], [0, 0xb0, 100, 0], [0, 0xb0, 6, 12]]; // prettier-ignore

  /** Bends of a file in seconds and cents, read by midi-file; 480 ticks a quarter at 120 bpm. */
  function bends(extra: RawEvent[], settings: CurveSettings): [number, number][] {
    const file = fileOfNotes([[480, 480 + 1920, 60, 90]], 480, extra);
    const cleaned = cleanFile(file, [curve({ lane: 'bend', ...settings })]).file;
    const range = bendRangeAt(bendRanges(cleaned.tracks[0].events, 0), 0);
    let tick = 0;
    return parseMidi(writeMidi(cleaned)).tracks[0].flatMap((event): [number, number][] => {
      tick += event.deltaTime;
      // midi-file gives bends from -8192.
      return event.type === 'pitchBend' ? [[tick / 960, centsOfRaw(event.value + 8192, range)]] : [];
    });
  }

  it('has its rate, its depth in cents at the range of the part, its fade, and comes back to rest', () => {
    for (const [extra, range] of [
      [[], 200],
      [RPN, 1200],
    ] as [RawEvent[], number][]) {
      const list = bends(extra, { op: 'wave', depth: 40, rate: { hz: 5 }, fadeMs: 500 });
      expect(list.length).toBe(201);
      const step = range / 8192;
      const peaks = list.filter(([second]) => second > 1.1).map(([, cents]) => cents);
      expect(Math.max(...peaks)).toBeCloseTo(40, 0);
      expect(Math.min(...peaks)).toBeCloseTo(-40, 0);
      // The first quarter of a period stands at a tenth of its fade.
      const first = list.find(([second]) => Math.abs(second - 0.55) < 1e-3);
      expect(Math.abs((first?.[1] ?? 0) - 4)).toBeLessThan(step + 0.1);
      // Upward zero crossings are a period apart: 0.2 s.
      const crossings = list.flatMap(([second, cents], row) =>
        row > 0 && list[row - 1][1] <= 0 && cents > 0 ? [second] : [],
      );
      crossings
        .slice(2, -1)
        .forEach((second, row) => expect(second - crossings[row + 1]).toBeCloseTo(0.2, 1));
      expect(list.at(-1)).toEqual([2.5, 0]);
    }
  });

  it('goes by note values, and on top of a controller that is already there', () => {
    const list = bends([], { op: 'wave', depth: 100, shape: 'square', rate: { note: '1/4' } });
    const signs = list.slice(0, -1).map(([second, cents]) => [second, Math.sign(cents)]);
    for (const [second, sign] of signs) expect(sign).toBe(((second - 0.5) % 0.5) + 1e-9 < 0.25 ? 1 : -1);
    const base = laneOf('cc1', [[0, 60], [1920, 90]], noteTableOf([{ start: 0, end: 3840 }])); // prettier-ignore
    const waved = pointsAfter(base, { op: 'wave', depth: 10, rate: { hz: 2.5 } }, 'cc1');
    const mean = (from: number, to: number) => {
      const values = waved.filter(([tick]) => tick >= from && tick < to - 1).map(([, value]) => value);
      return values.reduce((sum, value) => sum + value, 0) / values.length;
    };
    expect(mean(0, 1536)).toBeCloseTo(60, 0);
    expect(waved.at(-1)).toEqual([3840, 90]);
  });
});

describe('curve: many channels, many points', () => {
  it('touches the channel of the part and no other; a track of controllers alone is a part too', () => {
    const file = fileOfNotes([[0, 100, 60, 90, 0]], 480, [
      [0, 0xb0, 11, 50], [0, 0xb1, 11, 50], [10, 0xb2, 1, 1],
    ]); // prettier-ignore
    const { file: cleaned } = cleanFile(file, [curve({ op: 'add', amount: 10, where: { channel: 2 } })]);
    const { events } = cleaned.tracks[0];
    expect([0, 1].map((channel) => readLane(events, 'cc11', channel).value[0])).toEqual([50, 60]);
    const alone = fileOfNotes([], 480, [[0, 0xb0, 11, 50]]);
    expect(
      readLane(cleanFile(alone, [curve({ op: 'add', amount: 5 })]).file.tracks[0].events, 'cc11', 0).value[0],
    ).toBe(55);
  });

  it('thins many points without looking at them over and over', () => {
    const builder = createEventBuilder(8_000);
    for (let row = 0; row < 8_000; row++)
      builder.add(row * 2, 0xb0, 11, Math.round(64 + 50 * Math.sin(row / 300) + 4 * Math.sin(row / 7)));
    const material = { notes: noteTableOf([]), events: builder.build() };
    const { events } = applyStep(material, curve({ op: 'thin', tolerance: 1 }), context);
    expect(events.length).toBeLessThan(2_000);
  });
});
