import fc from 'fast-check';
import { heldValue, pedalledEnds, pointsOf, readLane, writeLanes } from '../curves';
import { noteTableOf, rowsNamed, type Note } from '../model';
import { applyStep, createStep } from '../steps';
import { createTimeline } from '../time';
import { context, noEvents } from '../testing/stepBench';
import {
  alongEdits,
  clipsFrom,
  clipsOf,
  layClips,
  notesFromText,
  notesToText,
  stretchesOf,
  type AlongAction,
} from '.';

/** Notes a beat apart by id, as short as given. */
const NOTES = [0, 1000, 2000, 3000].map((start, id): Partial<Note> => ({ id, start, end: start + 800 }));

/** The lane after some notes were moved, copied or deleted with their controllers. */
function after(list: [number, number][], selected: number[], action: AlongAction, notes = NOTES) {
  const table = noteTableOf(notes);
  const points = pointsOf(list.map(([tick, value]) => ({ tick, value })));
  const events = writeLanes(noEvents, [{ lane: 'cc11', channel: 0, points }]);
  const curves = alongEdits(events, table, new Set(selected), action, 0);
  const result = applyStep({ notes: table, events }, createStep('edits', { curves }), context).events;
  return readLane(result, 'cc11', 0);
}
const listed = ({ tick, value }: ReturnType<typeof after>) => Array.from(tick, (at, row) => [at, value[row]]);
const SWELL: [number, number][] = [[0, 10], [1000, 40], [1400, 60], [2000, 30], [2500, 35], [3000, 90]]; // prettier-ignore

describe('the controllers of some notes', () => {
  it('are those up to the next note, where no other sounds', () => {
    const table = noteTableOf([...NOTES, { id: 9, start: 1500, end: 2100 }]);
    expect(stretchesOf(table, rowsNamed(table.id, new Set([1])))).toEqual([[1000, 1500]]);
    expect(stretchesOf(table, rowsNamed(table.id, new Set([1, 2])))).toEqual([[1000, 1500], [2100, 3000]]); // prettier-ignore
    expect(stretchesOf(table, rowsNamed(table.id, new Set([9])))).toEqual([[1800, 2000]]);
    expect(stretchesOf(table, rowsNamed(table.id, new Set()))).toEqual([]);
    // One note of a chord leaves the pedal of the others alone.
    const chord = noteTableOf([
      { id: 1, start: 0, end: 500 },
      { id: 2, start: 0, end: 500, pitch: 64 },
    ]);
    expect(stretchesOf(chord, rowsNamed(chord.id, new Set([1])))).toEqual([]);
  });

  it('go along, and what follows the old place and the new one is as it was', () => {
    expect(listed(after(SWELL, [1], { kind: 'move', ticks: 4000 }))).toEqual([
      [0, 10], [2000, 30], [2500, 35], [3000, 90], [5000, 40], [5400, 60], [5800, 90],
    ]); // prettier-ignore
    expect(listed(after(SWELL, [1], { kind: 'copy', ticks: 4000 }))).toEqual([
      ...SWELL,
      [5000, 40],
      [5400, 60],
      [5800, 90],
    ]);
    expect(listed(after(SWELL, [1], { kind: 'delete' }))).toEqual([
      [0, 10],
      [2000, 30],
      [2500, 35],
      [3000, 90],
    ]);
    expect(listed(after(SWELL, [1], { kind: 'move', ticks: 0 }))).toEqual(SWELL);
  });

  it('take a press of the pedal whole that lasts beyond the next start, unless another note is let go under it', () => {
    const pedal = (end: number, others: Partial<Note>[] = []) => {
      const table = noteTableOf([...NOTES, ...others]);
      const points = pointsOf([
        { tick: 1100, value: 127 },
        { tick: 2060, value: 0 },
        { tick: 2100, value: 127 },
        { tick: end, value: 0 },
      ]);
      const events = writeLanes(noEvents, [{ lane: 'cc64', channel: 0, points }]);
      return { table, events };
    };
    const left = ({ table, events }: ReturnType<typeof pedal>, action: AlongAction) => {
      const curves = alongEdits(events, table, new Set([1]), action, 0);
      return readLane(
        applyStep({ notes: table, events }, createStep('edits', { curves }), context).events,
        'cc64',
        0,
      );
    };
    expect(listed(left(pedal(2900), { kind: 'delete' }))).toEqual([
      [2100, 127],
      [2900, 0],
    ]);
    expect(listed(left(pedal(2900), { kind: 'move', ticks: 6000 }))).toEqual([
      [2100, 127],
      [2900, 0],
      [7100, 127],
      [8060, 0],
    ]);
    // A short note of another voice is let go while the pedal is still down: what holds it stays.
    const held = pedal(2900, [{ id: 7, start: 2000, end: 2030, pitch: 72 }]);
    expect(listed(left(held, { kind: 'delete' })).slice(0, 2)).toEqual([
      [2000, 127],
      [2060, 0],
    ]);
    // A press just ahead of the next note that holds none of the selected is the next note's.
    const late = [...NOTES, { id: 7, start: 2000, end: 2030, pitch: 72 }];
    const table = noteTableOf(late);
    const points = pointsOf([{ tick: 1990, value: 127 }, { tick: 2060, value: 0 }]); // prettier-ignore
    const events = writeLanes(noEvents, [{ lane: 'cc64', channel: 0, points }]);
    expect(alongEdits(events, table, new Set([1]), { kind: 'move', ticks: 6000 }, 0)).toEqual([]);
  });

  it('never let a note that is not selected sound longer or shorter by the pedal, whatever is deleted', () => {
    const anyNotes = fc.array(
      fc.record({
        start: fc.nat(3000),
        length: fc.integer({ min: 5, max: 600 }),
        pitch: fc.integer({ min: 50, max: 70 }),
      }),
      { minLength: 2, maxLength: 12 },
    );
    const anyPedal = fc.uniqueArray(fc.nat(3600), { maxLength: 12 });
    fc.assert(
      fc.property(anyNotes, anyPedal, fc.nat(4095), (list, ticks, mask) => {
        const table = noteTableOf(
          list.map(({ start, length, pitch }, id) => ({ id, start, end: start + length, pitch })),
        );
        const sorted = ticks.sort((a, b) => a - b);
        // Every press ends: what never does holds nothing.
        const points = pointsOf(
          sorted.slice(0, sorted.length & ~1).map((tick, row) => ({ tick, value: row % 2 ? 0 : 127 })),
        );
        const events = writeLanes(noEvents, [{ lane: 'cc64', channel: 0, points }]);
        const selected = new Set([...table.id].filter((id) => (mask >> id) & 1));
        const curves = alongEdits(events, table, selected, { kind: 'delete' }, 0);
        const edits = createStep('edits', { delete: [...selected], curves });
        const after = applyStep({ notes: table, events }, edits, context);
        const before = pedalledEnds(table, table.end, events);
        const rings = pedalledEnds(after.notes, after.notes.end, after.events);
        for (let row = 0; row < table.length; row++)
          if (!selected.has(table.id[row]))
            expect(rings[after.notes.id.indexOf(table.id[row])]).toBe(before[row]);
      }),
      { numRuns: 400 },
    );
  });

  it('set-up controllers stay, and a lane of nothing stays empty', () => {
    expect(listed(after([], [1], { kind: 'move', ticks: 500 }))).toEqual([]);
    const events = writeLanes(noEvents, [
      { lane: 'cc6', channel: 0, points: pointsOf([{ tick: 1100, value: 12 }]) },
    ]);
    expect(alongEdits(events, noteTableOf(NOTES), new Set([1]), { kind: 'delete' }, 0)).toEqual([]);
  });

  it('never change what is in force outside the two places; inside the new one it is what it was in the old', () => {
    const anyLane = fc
      .uniqueArray(fc.integer({ min: 0, max: 4000 }), { maxLength: 14 })
      .chain((ticks) =>
        fc.tuple(
          fc.constant(ticks.sort((a, b) => a - b)),
          fc.array(fc.nat(127), { minLength: ticks.length, maxLength: ticks.length }),
        ),
      )
      .map(([ticks, values]) => ticks.map((tick, row): [number, number] => [tick, values[row]]));
    const action = fc.oneof(
      fc.integer({ min: -900, max: 6000 }).map((ticks): AlongAction => ({ kind: 'move', ticks })),
      fc.integer({ min: 900, max: 6000 }).map((ticks): AlongAction => ({ kind: 'copy', ticks })),
      fc.constant<AlongAction>({ kind: 'delete' }),
    );
    fc.assert(
      fc.property(anyLane, action, (list, done) => {
        const before = pointsOf(list.map(([tick, value]) => ({ tick, value })));
        const lane = after(list, [1], done);
        const [from, to, next] = [1000, 1800, 2000];
        const by = done.kind === 'delete' || done.ticks === 0 ? null : done.ticks;
        const starts = NOTES.map(({ start = 0 }) => start).filter(
          (start) => done.kind === 'copy' || start !== from,
        );
        const end = by === null ? 0 : Math.min(next + by, ...starts.filter((start) => start >= to + by));
        const expected = (tick: number) => {
          if (by !== null && tick >= from + by && tick < to + by) return heldValue(before, tick - by, 127);
          const isInOld = done.kind !== 'copy' && tick >= from && tick < next;
          const isInNew = by !== null && tick >= from + by && tick < end;
          return isInOld || isInNew ? null : heldValue(before, tick, 127);
        };
        const ticks = Array.from({ length: 180 }, (_, at) => at * 50).filter(
          (tick) => expected(tick) !== null,
        );
        expect(ticks.map((tick) => heldValue(lane, tick, 127)).join(' ')).toBe(ticks.map(expected).join(' '));
      }),
      { numRuns: 300 },
    );
  });
});

const at480 = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);

describe('controllers on the clipboard', () => {
  const lane = (list: [number, number][]) =>
    writeLanes(noEvents, [
      { lane: 'cc11', channel: 0, points: pointsOf(list.map(([tick, value]) => ({ tick, value }))) },
    ]);

  it('say all that is in force beside their notes, and laid down leave what follows as it was', () => {
    const clips = clipsOf(lane(SWELL), noteTableOf(NOTES), new Set([1]), 0);
    expect(clips).toEqual([
      {
        lane: 'cc11',
        from: 0,
        to: 800,
        points: [
          { at: 0, value: 40 },
          { at: 400, value: 60 },
        ],
      },
    ]);
    // The value in force at the first start comes along although it was sent before.
    expect(clipsOf(lane([[0, 33]]), noteTableOf(NOTES), new Set([2]), 0)[0].points).toEqual([
      { at: 0, value: 33 },
    ]);
    const other = lane([
      [0, 90],
      [5100, 70],
    ]);
    const [laid] = layClips(other, clips, 5000, 0);
    expect(laid).toEqual({
      lane: 'cc11',
      channel: 1,
      from: 5000,
      to: 5800,
      points: [
        { at: 5000, value: 40 },
        { at: 5400, value: 60 },
        { at: 5800, value: 70 },
      ],
    });
    // Where they would change nothing, nothing is written.
    const flat = clipsOf(lane([[0, 33]]), noteTableOf(NOTES), new Set([2]), 0);
    expect(layClips(lane([[0, 33]]), flat, 4000, 0)).toEqual([]);
    expect(clipsOf(lane([]), noteTableOf(NOTES), new Set([2]), 0)).toEqual([]);
    expect(clipsOf(lane(SWELL), noteTableOf(NOTES), new Set(), 0)).toEqual([]);
  });

  it('go through text with their notes, into a session of another resolution', () => {
    const clips = clipsOf(lane(SWELL), noteTableOf(NOTES), new Set([1]), 0);
    const note = { id: 1, start: 1000, end: 1800, pitch: 60, velocity: 80, release: 64, channel: 0 };
    const content = notesFromText(notesToText([note], at480, clips));
    expect(clipsFrom(content, 960)).toEqual([
      {
        lane: 'cc11',
        from: 0,
        to: 1600,
        points: [
          { at: 0, value: 40 },
          { at: 800, value: 60 },
        ],
      },
    ]);
    expect(clipsFrom(notesFromText(notesToText([note], at480)), 480)).toEqual([]);
  });

  it('of several parts stand by the first note of all of them', () => {
    const clip = { lane: 'cc11', from: 0, to: 480, points: [{ at: 0, value: 40 }] };
    const at = (start: number) => ({
      id: 1,
      start,
      end: start + 480,
      pitch: 60,
      velocity: 80,
      release: 64,
      channel: 0,
    });
    const among = [
      { part: 'reed', notes: [at(1440)], clips: [clip] },
      { part: 'bass', notes: [at(960)] },
      { part: 'bell', notes: [at(1200)], clips: [clip] },
    ];
    const content = notesFromText(notesToText(among[0].notes, at480, [clip], among));
    expect(clipsFrom(content, 480).map(({ from, to }) => [from, to])).toEqual([[480, 960]]);
    expect(content.others?.map((other) => clipsFrom(other, 480).map(({ from }) => from))).toEqual([
      [],
      [240],
    ]);
  });
});

describe('the pressure of single keys', () => {
  const events = writeLanes(noEvents, [
    {
      lane: 'key60',
      channel: 0,
      points: pointsOf([
        { tick: 1100, value: 40 },
        { tick: 1300, value: 50 },
        { tick: 2100, value: 9 },
      ]),
    },
  ]);

  it('is copied with its notes, to their new keys and places, and left to the notes themselves when they move', () => {
    const selected = new Set([1]);
    const table = noteTableOf(NOTES);
    expect(alongEdits(events, table, selected, { kind: 'copy', ticks: 4000, semitones: 7 }, 0)).toEqual([
      {
        lane: 'key67',
        channel: 1,
        from: 5100,
        to: 5300,
        points: [
          { at: 5100, value: 40 },
          { at: 5300, value: 50 },
        ],
      },
    ]);
    expect(alongEdits(events, table, selected, { kind: 'move', ticks: 4000 }, 0)).toEqual([]);
    expect(alongEdits(events, table, new Set([3]), { kind: 'copy', ticks: 4000 }, 0)).toEqual([]);
  });

  it('is on the clipboard beside the controllers', () => {
    const clips = clipsOf(events, noteTableOf(NOTES), new Set([1, 2]), 0);
    expect(clips.map(({ lane, points }) => [lane, points])).toEqual([
      [
        'key60',
        [
          { at: 100, value: 40 },
          { at: 300, value: 50 },
        ],
      ],
      ['key60', [{ at: 1100, value: 9 }]],
    ]);
    const [first] = layClips(noEvents, clips, 500, 0);
    expect(first.points).toEqual([
      { at: 600, value: 40 },
      { at: 800, value: 50 },
      { at: 1301, value: 0 },
    ]);
  });
});
