import fc from 'fast-check';
import { parseMidi } from 'midi-file';
import { pedalSpans, pedalledEnds, pointsOf, readLane, writeLanes } from '../curves';
import { clearEdits } from '../editing';
import { cleanFile } from '../evaluate';
import { writeMidi } from '../midi';
import { noteTableOf, type Material, type Note } from '../model';
import { fileOfNotes } from '../testing/files';
import { MS, context, noEvents, timeline } from '../testing/stepBench';
import { applyStep, createStep, harmonyChanges, type PedalStep } from '.';

type Settings = { op: PedalStep['op'] } & Record<string, unknown>;
const pedal = (settings: Settings) => createStep('pedal', settings as Partial<PedalStep>);

function pressed(list: [tick: number, value: number][], notes: Partial<Note>[] = []): Material {
  const points = pointsOf(list.map(([tick, value]) => ({ tick, value })));
  return { notes: noteTableOf(notes), events: writeLanes(noEvents, [{ lane: 'cc64', channel: 0, points }]) };
}
/** Ticks without the last bits that seconds and back cost. */
const tidy = (tick: number) => Number(tick.toFixed(6));
const spansAfter = (material: Material, settings: Settings) => {
  const { events } = applyStep(material, pedal(settings), { ...context, channel: 0 });
  return pedalSpans(readLane(events, 'cc64', 0)).map(({ start, end, depth }) => [
    tidy(start),
    tidy(end),
    depth,
  ]);
};

/** Two presses, the first with a half-pedal value inside. */
const TWO = pressed([[100, 127], [500, 80], [900, 0], [1000, 100], [1900, 0]]); // prettier-ignore

describe('pedal', () => {
  it('shifts presses whole and holds them longer, but never into the next', () => {
    expect(spansAfter(TWO, { op: 'shift', ms: 10 })).toEqual([[119.2, 919.2, 127], [1019.2, 1919.2, 100]]); // prettier-ignore
    expect(spansAfter(TWO, { op: 'extend', ms: 20 })).toEqual([
      [100, 938.4, 127],
      [1000, 1938.4, 100],
    ]);
    expect(spansAfter(TWO, { op: 'extend', ms: 500 })).toEqual([
      [100, 1000, 127],
      [1000, 1900 + 500 * MS, 100],
    ]);
    expect(spansAfter(TWO, { op: 'extend', ms: -5000 })).toEqual([
      [100, 101, 127],
      [1000, 1001, 100],
    ]);
    expect(spansAfter(TWO, { op: 'shift', ms: -5000 })[0][0]).toBe(0);
    expect(applyStep(TWO, pedal({ op: 'shift' }), context)).toBe(TWO);
    // Half-pedal values go along.
    const { events } = applyStep(TWO, pedal({ op: 'shift', ms: 10 }), context);
    expect([...readLane(events, 'cc64', 0).tick].map((tick) => Math.round(tick - 10 * MS))).toEqual([
      100, 500, 900, 1000, 1900,
    ]);
  });

  it('goes by where a press begins', () => {
    const late = pressed([
      [100, 127],
      [3900, 0],
      [4000, 127],
      [5000, 0],
    ]);
    expect(spansAfter(late, { op: 'shift', ms: 10, where: { bars: [2, 3] } })[0]).toEqual([100, 3900, 127]);
  });

  it('drawn presses replace those in the way; their depth and their own pedal count', () => {
    expect(
      spansAfter(TWO, { op: 'draw', spans: [[950, 1200], { start: 3000, end: 3100, depth: 90 }] }),
    ).toEqual([
      [100, 900, 127],
      [950, 1200, 127],
      [3000, 3100, 90],
    ]);
    const soft = applyStep(TWO, pedal({ op: 'draw', lane: 'cc67', spans: [[0, 50]] }), {
      ...context,
      channel: 0,
    }).events;
    expect(readLane(soft, 'cc67', 0).length).toBe(2);
    expect(readLane(soft, 'cc64', 0).length).toBe(5);
    expect(spansAfter(TWO, { op: 'remove' })).toEqual([]);
    expect(() => pedal({ op: 'draw', spans: [[5, 5]] })).toThrow();
  });

  it('a press drawn where another is released begins there all the same', () => {
    const material = pressed([
      [100, 127],
      [500, 0],
    ]);
    expect(spansAfter(material, { op: 'draw', spans: [[500, 700]] })).toEqual([
      [100, 500, 127],
      [500, 700, 127],
    ]);
  });

  it('whatever is drawn is there afterwards, and every press has its release', () => {
    const press = fc.tuple(fc.integer({ min: 1, max: 400 }), fc.integer({ min: 1, max: 400 }));
    const presses = fc.array(press, { maxLength: 12 }).map((list) => {
      let tick = 0;
      return list.map(([gap, length]): [number, number] => [(tick += gap), (tick += length)]);
    });
    fc.assert(
      fc.property(presses, presses, fc.integer({ min: -300, max: 300 }), (there, drawn, ms) => {
        const material = pressed(
          there.flatMap(([start, end]): [number, number][] => [
            [start, 127],
            [end, 0],
          ]),
        );
        const after = spansAfter(material, { op: 'draw', spans: drawn });
        for (const [start] of drawn)
          expect(after.some(([from, to]) => from <= start && to > start)).toBe(true);
        expect(after.every(([, end]) => end !== Infinity)).toBe(true);
        for (const op of ['shift', 'extend'] as const)
          for (const [start, end] of spansAfter(material, { op, ms })) {
            expect(start).toBeGreaterThanOrEqual(0);
            expect(end).toBeGreaterThan(start);
            expect(end).not.toBe(Infinity);
          }
      }),
    );
  });
});

describe('pedal in place of long notes', () => {
  /** Notes held as the pedal would hold them: to a common end. */
  const HELD: Partial<Note>[] = [
    { start: 0, end: 1900, pitch: 48 },
    { start: 480, end: 1900, pitch: 60 },
    { start: 960, end: 1900, pitch: 64 },
    { start: 1920, end: 2300, pitch: 50 },
    { start: 2880, end: 3800, pitch: 53 },
    { start: 3360, end: 3800, pitch: 62 },
  ];

  it('lets notes that end together go when the next begins, and holds them by a press to where they ended', () => {
    const { notes, events } = applyStep(pressed([], HELD), pedal({ op: 'fromLengths' }), context);
    expect([...notes.end]).toEqual([480, 960, 1900, 2300, 3360, 3800]);
    const delay = 60 * MS;
    const spans = pedalSpans(readLane(events, 'cc64', 0)).map(({ start, end }) => [tidy(start), end]);
    expect(spans).toEqual([
      [tidy(delay), 1900],
      [tidy(2880 + delay), 3800],
    ]);
    const back = applyStep(
      { notes, events },
      createStep('length', { hold: 'fromPedal', noOverlap: false }),
      context,
    );
    expect([...back.notes.end]).toEqual(HELD.map(({ end }) => end));
    // A chord let go at once, and notes the step may not touch, need no pedal.
    expect(
      spansAfter(
        pressed(
          [],
          [
            { start: 0, end: 900 },
            { start: 5, end: 900, pitch: 64 },
          ],
        ),
        { op: 'fromLengths' },
      ),
    ).toEqual([]);
    expect(spansAfter(pressed([], HELD), { op: 'fromLengths', where: { pitch: [48, 48] } })).toEqual([]);
  });

  it('never makes anything ring that did not, nor cuts what did', () => {
    const note = fc.record({
      start: fc.nat(6000),
      length: fc.integer({ min: 1, max: 3000 }),
      pitch: fc.integer({ min: 30, max: 90 }),
      joined: fc.boolean(),
    });
    const ends = [1500, 2600, 4000, 7000];
    fc.assert(
      fc.property(
        fc.array(note, { maxLength: 25 }),
        fc.uniqueArray(fc.nat(7000), { maxLength: 8 }),
        (list, pedals) => {
          const notes = list.map(({ start, length, pitch, joined }, id) => {
            const common = ends.find((end) => end > start) ?? start + length;
            return { id, start, end: joined ? common : start + length, pitch };
          });
          const before = noteTableOf(notes);
          const points = pointsOf(
            pedals.sort((a, b) => a - b).map((tick, row) => ({ tick, value: row % 2 ? 0 : 127 })),
          );
          const events = writeLanes(noEvents, [{ lane: 'cc64', channel: 0, points }]);
          const material = { notes: before, events };
          const sounded = pedalledEnds(before, before.end, events);
          const after = applyStep(material, pedal({ op: 'fromLengths' }), context);
          const rings = pedalledEnds(after.notes, after.notes.end, after.events);
          for (let row = 0; row < before.length; row++)
            expect(Math.abs(rings[row] - sounded[row])).toBeLessThanOrEqual(1);
        },
      ),
      { numRuns: 400 },
    );
  });
});

describe('a pedal taken out of some bars', () => {
  // A press over the whole, one over the first bar line, one within the second bar; bars of 3840 ticks.
  const lists = fc
    .uniqueArray(fc.nat(12_000), { maxLength: 10 })
    .map((ticks) => ticks.sort((a, b) => a - b).map((tick, row): [number, number] => [tick, [127, 0, 90, 30][row % 4]])); // prettier-ignore
  const heldAt = (list: readonly (readonly number[])[], at: number) =>
    list.reduce((held, [tick, value]) => (tick <= at ? value : held), 0);
  const moments = Array.from({ length: 130 }, (_, index) => index * 96);
  const where = { bars: [2, 3] as [number, number] };
  const inBar = (at: number) => at >= 3840 && at < 7680;

  it('is up in them and as it was before and behind, taken out by either step or by hand', () => {
    fc.assert(
      fc.property(lists, (list) => {
        const material = pressed(list);
        const steps = [
          createStep('pedal', { op: 'remove', where }),
          createStep('curve', { lane: 'cc64', op: 'remove', where } as never),
          createStep('edits', { curves: clearEdits(material.events, ['cc64'], [3840, 7680], 0) }),
        ];
        for (const step of steps) {
          const { events } = applyStep(material, step, { ...context, channel: 0 });
          const { tick, value } = readLane(events, 'cc64', 0);
          const after = Array.from(tick, (at, row) => [at, value[row]]);
          for (const at of moments)
            expect([step.kind, at, heldAt(after, at)]).toEqual([step.kind, at, inBar(at) ? 0 : heldAt(list, at)]); // prettier-ignore
        }
      }),
    );
  });

  it('a press that reaches in ends there, and goes on behind', () => {
    const long = pressed([[100, 127], [9000, 0]]); // prettier-ignore
    expect(spansAfter(long, { op: 'remove', where })).toEqual([[100, 3840, 127], [7680, 9000, 127]]); // prettier-ignore
    expect(spansAfter(long, { op: 'remove' })).toEqual([]);
  });
});

describe('pedal proposed anew', () => {
  const chord = (start: number, pitches: number[], length = 900) =>
    pitches.map((pitch, voice) => ({ start: start + voice * 3, end: start + length, pitch }));
  /** C, C again, F, G7 over two bars of 4/4 at 960 ticks a quarter. */
  const CHORDS = [
    ...chord(0, [48, 60, 64, 67]),
    ...chord(960, [48, 60, 64, 67]),
    ...chord(1920, [53, 60, 65, 69]),
    { start: 2400, end: 2800, pitch: 72 },
    ...chord(3840, [43, 59, 65, 67], 3000),
  ];

  it('finds where the harmony changes, not where it is repeated or decorated', () => {
    expect(harmonyChanges(noteTableOf(CHORDS), timeline)).toEqual([0, 1920, 3840]);
    expect(harmonyChanges(noteTableOf([]), timeline)).toEqual([]);
  });

  it('goes up with each change and down just after it', () => {
    const after = spansAfter(pressed([[50, 127], [7000, 0]], CHORDS), { op: 'repedal', by: 'harmony' }); // prettier-ignore
    const delay = 60 * MS;
    expect(after).toEqual(
      [
        [delay, 1920, 127],
        [1920 + delay, 3840, 127],
        [3840 + delay, 6840, 127],
      ].map((press) => press.map((value) => expect.closeTo(value, 6))),
    );
    expect(
      spansAfter(pressed([], CHORDS), { op: 'repedal', by: 'bar' }).map(([start]) =>
        Math.round(start - delay),
      ),
    ).toEqual([0, 3840]);
    expect(spansAfter(pressed([], CHORDS), { op: 'repedal', where: { bars: [2, 3] } })).toHaveLength(1);
    expect(spansAfter(pressed([]), { op: 'repedal' })).toEqual([]);
  });

  it('is in the file, as an independent reader sees it, between the notes and not before them', () => {
    const file = fileOfNotes([
      [0, 900, 60, 90],
      [0, 900, 64, 90],
      [960, 1800, 62, 90],
      [960, 1800, 65, 90],
    ]);
    const events = parseMidi(writeMidi(cleanFile(file, [pedal({ op: 'repedal' })]).file)).tracks[0];
    let tick = 0;
    const seen = events.flatMap((event): [number, number][] => {
      tick += event.deltaTime;
      return event.type === 'controller' && event.controllerType === 64 ? [[tick, event.value]] : [];
    });
    expect(seen).toEqual([[58, 127], [960, 0], [1018, 127], [1800, 0]]); // prettier-ignore
  });
});
