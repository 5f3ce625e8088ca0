import fc from 'fast-check';
import { createEventBuilder, type EventColumns } from '../midi';
import type { Note } from '../model';
import { anyNotes, context, material, noEvents } from '../testing/stepBench';
import { applyStep, createStep, stepSchema, type LayoutBlock, type Step } from '.';

/** At 960 ticks a quarter and 120 bpm: 60 ms are 115.2 ticks, a thirty-second is 120, a bar 3840. */
const laid = (notes: Partial<Note>[], blocks: Partial<LayoutBlock>[], events = noEvents) => {
  const parsed = stepSchema.parse({ kind: 'layout', blocks }) as Step;
  return applyStep(material(notes, events), parsed, context);
};
const rowsOf = ({ notes }: ReturnType<typeof laid>) =>
  Array.from(notes.start, (start, row) => [start, notes.end[row], notes.pitch[row]]);
const eventsOf = (events: [number, number, number, number?, number[]?][]) => {
  const builder = createEventBuilder();
  for (const [tick, status, data1, data2 = 0, payload] of events)
    builder.add(tick, status, data1, data2, payload && Uint8Array.from(payload));
  return builder.build();
};
const linesOf = (events: EventColumns) =>
  Array.from(events.tick, (tick, row) => [tick, events.status[row], events.data1[row], events.data2[row]]);

describe('layout', () => {
  const tune = [
    { start: 0, end: 500, pitch: 60 },
    { start: 1000, end: 1500, pitch: 62 },
    { start: 3830, end: 4500, pitch: 64 },
    { start: 5000, end: 5100, pitch: 65 },
  ];

  it('repeats, moves and leaves out; on bar lines by the musical bar', () => {
    // The third note, 10 ticks ahead of bar 2, belongs to it.
    expect(rowsOf(laid(tune, [{ from: 0, to: 4, at: 0, times: 2 }]))).toEqual([
      [0, 500, 60],
      [1000, 1500, 62],
      [3840, 4340, 60],
      [4840, 5340, 62],
    ]);
    expect(rowsOf(laid(tune, [{ from: 4, to: 8, at: 0 }]))).toEqual([
      [0, 660, 64],
      [1160, 1260, 65],
    ]);
    // Elsewhere by the tick.
    expect(rowsOf(laid(tune, [{ from: 3.75, to: 3.99, at: 1 }]))).toEqual([[1190, 1860, 64]]);
    expect(rowsOf(laid(tune, [{ from: 3.99, to: 5, at: 1 }]))).toEqual([]);
  });

  it('takes a chord whole to the bar of its last stroke', () => {
    const chord = [3700, 3730, 3750].map((start, at) => ({ start, end: 4000, pitch: 60 + at }));
    // 3750 is less than 115.2 ticks ahead, 3700 is not; they start within 30 ms of the first (57.6 ticks).
    expect(rowsOf(laid(chord, [{ from: 4, to: 8, at: 4 }])).map(([start]) => start)).toEqual([
      3700, 3730, 3750,
    ]);
    expect(rowsOf(laid(chord, [{ from: 0, to: 4, at: 0 }]))).toEqual([]);
  });

  it('stretches, and cuts what is held or lets it ring to the next stroke of its pitch', () => {
    const long = [{ start: 1000, end: 9000, pitch: 60 }];
    expect(rowsOf(laid(long, [{ from: 0, to: 4, at: 0, stretch: 2 }]))).toEqual([[2000, 18000, 60]]);
    expect(rowsOf(laid(long, [{ from: 0, to: 4, at: 0, times: 2, held: 'cut' }]))).toEqual([
      [1000, 3840, 60],
      [4840, 7680, 60],
    ]);
    expect(rowsOf(laid(long, [{ from: 0, to: 4, at: 0, times: 2 }]))).toEqual([
      [1000, 4840, 60],
      [4840, 12840, 60],
    ]);
  });

  it('lets a first copy keep its identity and gives every other its own, the same each time', () => {
    const blocks = [
      { id: 'a', from: 0, to: 4, at: 0, times: 3 },
      { id: 'b', from: 0, to: 2, at: 20 },
    ];
    const ids = [...laid(tune, blocks).notes.id];
    expect(ids.slice(0, 2)).toEqual([0, 1]);
    expect(new Set(ids).size).toBe(8);
    expect([...laid(tune, blocks).notes.id]).toEqual(ids);
    // What another block does is nothing to the copies of this one.
    expect([...laid(tune, [blocks[0]]).notes.id]).toEqual(ids.slice(0, 6));
  });

  it('lays nothing of a muted stretch, and leaves the others their notes, identities and controllers', () => {
    const events = eventsOf([
      [0, 0xb0, 11, 90],
      [5000, 0xb0, 11, 40],
    ]);
    const stretches = [
      { from: 0, to: 4, at: 0 },
      { from: 4, to: 8, at: 4 },
      { from: 0, to: 4, at: 8 },
    ];
    const all = laid(tune, stretches, events);
    for (const at of [0, 1, 2]) {
      const heard = laid(
        tune,
        stretches.map((each, index) => (index === at ? { ...each, muted: true } : each)),
        events,
      );
      const { from, end } = { from: at * 3840 - 120, end: (at + 1) * 3840 - 120 };
      const others = Array.from(all.notes.id).filter(
        (_, row) => all.notes.start[row] < from || all.notes.start[row] >= end,
      );
      expect(Array.from(heard.notes.id)).toEqual(others);
    }
    const last = laid(tune, [stretches[0], { ...stretches[1], muted: true }], events);
    expect(linesOf(last.events)).toEqual([[0, 0xb0, 11, 90]]);
  });

  it('takes programs, controllers and lyrics along, system exclusive once; writes the state at each seam', () => {
    const events = eventsOf([
      [0, 0xff, 3, 0, [65]],
      [0, 0xf0, 0, 0, [1, 0xf7]],
      [0, 0xc0, 7],
      [0, 0xb0, 11, 100],
      [500, 0xff, 5, 0, [97]],
      [2000, 0xb0, 11, 20],
      [3000, 0xb0, 64, 127],
      [5000, 0xb0, 64, 0],
    ]);
    const { events: after } = laid(tune, [{ from: 0, to: 4, at: 0, times: 2 }], events);
    expect(linesOf(after)).toEqual([
      [0, 0xff, 3, 0],
      [0, 0xf0, 0, 0],
      [0, 0xc0, 7, 0],
      [0, 0xb0, 11, 100],
      [500, 0xff, 5, 0],
      [2000, 0xb0, 11, 20],
      [3000, 0xb0, 64, 127],
      // The seam: the pedal left down goes up. Then the copy's own events.
      [3840, 0xb0, 64, 0],
      [3840, 0xc0, 7, 0],
      [3840, 0xb0, 11, 100],
      [4340, 0xff, 5, 0],
      [5840, 0xb0, 11, 20],
      [6840, 0xb0, 64, 127],
      [7680, 0xb0, 64, 0],
    ]);
    // A stretch from the middle begins as it would have been heard there.
    expect(linesOf(laid(tune, [{ from: 4, to: 8, at: 0 }], events).events)).toEqual([
      [0, 0xff, 3, 0],
      [0, 0xc0, 7, 0],
      [0, 0xb0, 11, 20],
      [0, 0xb0, 64, 127],
      [1160, 0xb0, 64, 0],
    ]);
  });

  it('gives the controllers of a place to the block listed last', () => {
    const events = eventsOf([
      [0, 0xb0, 1, 10],
      [960, 0xb0, 1, 20],
      [1920, 0xb0, 1, 30],
      [2880, 0xb0, 1, 40],
    ]);
    const { events: after } = laid(tune, [{ from: 0, to: 4, at: 0 }, { from: 0, to: 1, at: 1.5 }], events); // prettier-ignore
    expect(linesOf(after).map(([tick, , , value]) => [tick, value])).toEqual([
      [0, 10],
      [960, 20],
      [1440, 10],
      [2400, 30],
      [2880, 40],
    ]);
  });

  it('brings what would lie before the start to it', () => {
    expect(rowsOf(laid(tune, [{ from: 0, to: 8, at: -1 }]))).toEqual([
      [0, 1, 60],
      [40, 540, 62],
      [2870, 3540, 64],
      [4040, 4140, 65],
    ]);
  });

  it('changes nothing where it moves nothing, wherever it is cut: the very same material comes back', () => {
    const anyEvents = fc
      .array(fc.tuple(fc.nat(20000), fc.constantFrom(1, 11, 64, 7), fc.nat(127)), { maxLength: 20 })
      .map((list) =>
        eventsOf(list.sort((a, b) => a[0] - b[0]).map(([tick, cc, value]) => [tick, 0xb0, cc, value])),
      );
    const cuts = fc.uniqueArray(fc.integer({ min: 1, max: 80 }), { maxLength: 6 });
    fc.assert(
      fc.property(anyNotes, anyEvents, cuts, (notes, events, places) => {
        const edges = [0, ...places.sort((a, b) => a - b).map((place) => place / 4), 100];
        const blocks = edges.slice(0, -1).map((from, at) => ({
          from,
          to: edges[at + 1],
          at: from,
          times: 1,
          stretch: 1,
          held: 'ring' as const,
        }));
        const input = material(notes, events);
        expect(applyStep(input, createStep('layout', { blocks }), context)).toBe(input);
      }),
    );
  });

  it('refuses what cannot be laid, with the place', () => {
    const fault = (blocks: unknown, more: object = {}) =>
      stepSchema.safeParse({ kind: 'layout', blocks, ...more }).error?.issues[0];
    expect(fault([])?.path).toEqual(['blocks']);
    expect(fault([{ from: 4, to: 4, at: 0 }])?.path).toEqual(['blocks', 0, 'to']);
    expect(fault([{ from: 0, to: 4, at: 0 }], { where: { bars: [1, 2] } })?.path).toEqual(['where']);
    expect(() =>
      laid(
        tune,
        Array.from({ length: 12 }, () => ({ from: 0, to: 4, at: 0, times: 9000 })),
      ),
    ).toThrow('more than 100,000 copies');
  });
});

describe('pulse', () => {
  const step = (beats: [number, number][], strength = 100) => createStep('pulse', { beats, strength });

  it('moves starts, ends and everything else by the map, evenly between pairs and beyond them', () => {
    const events = eventsOf([[0, 0xff, 3, 0, [65]], [1440, 0xb0, 64, 127], [1440, 0xff, 5, 0, [97]]]); // prettier-ignore
    const input = material([{ start: 480, end: 1440 }, { start: 2400, end: 3360 }], events); // prettier-ignore
    // Played beats at 1 and 2 quarters go to 2 and 4: twice as far, before and after them too.
    const after = applyStep(input, step([[1, 2], [2, 4], [3, 5]]), context); // prettier-ignore
    expect(rowsOf(after)).toEqual([
      [960, 2880, 60],
      [4320, 5280, 60],
    ]);
    expect(linesOf(after.events)).toEqual([
      [0, 0xff, 3, 0],
      [2880, 0xb0, 64, 127],
      [2880, 0xff, 5, 0],
    ]);
    const half = applyStep(input, step([[1, 2], [2, 4], [3, 5]], 50), context); // prettier-ignore
    expect(rowsOf(half)[0]).toEqual([720, 2160, 60]);
    expect(
      applyStep(
        input,
        step(
          [
            [1, 2],
            [2, 4],
          ],
          0,
        ),
        context,
      ),
    ).toBe(input);
  });

  it('and the map turned round takes it back', () => {
    fc.assert(
      fc.property(
        anyNotes,
        fc.array(fc.tuple(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 40 })), {
          minLength: 2,
          maxLength: 8,
        }),
        (notes, steps) => {
          let [played, target] = [0, 0];
          const beats = steps.map(([a, b]): [number, number] => [(played += a / 8), (target += b / 8)]);
          const input = material(notes);
          const there = applyStep(input, step(beats), context);
          // What was brought up to the start is gone for good.
          fc.pre(
            there.notes.start.every((tick) => tick > 0) &&
              there.notes.end.every((end, row) => end - there.notes.start[row] > 1),
          );
          const back = applyStep(there, step(beats.map(([a, b]): [number, number] => [b, a])), context);
          const byId = (list: typeof back.notes) =>
            Array.from(list.id, (id, row) => [
              id,
              Math.round(list.start[row]),
              Math.round(list.end[row]),
            ]).sort((a, b) => a[0] - b[0]);
          expect(byId(back.notes)).toEqual(byId(input.notes));
        },
      ),
    );
  });

  it('wants at least two pairs that rise on both sides', () => {
    const fault = (beats: unknown) => stepSchema.safeParse({ kind: 'pulse', beats }).error?.issues[0];
    expect(fault([[0, 0]])?.path).toEqual(['beats']);
    expect(
      fault([
        [0, 0],
        [1, 1],
        [1, 2],
      ])?.path,
    ).toEqual(['beats', 2]);
    expect(
      fault([
        [0, 1],
        [1, 1],
      ])?.path,
    ).toEqual(['beats', 1]);
  });
});
