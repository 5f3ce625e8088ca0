import fc from 'fast-check';
import { createEvaluator } from '../evaluate';
import { readMidi, writeMidi, type EventColumns } from '../midi';
import { noteAt, type Note, type Take } from '../model';
import {
  layerOf,
  listOf,
  orderedOf,
  sessionOfFile,
  sessionSchema,
  timelineOf,
  type Part,
  type Piece,
  type Session,
} from '../session';
import { createStep } from '../steps';
import { fileOfNotes, type RawEvent } from '../testing/files';
import { stateBefore } from '../curves';

type PlainNote = [start: number, end: number, pitch: number, velocity: number, channel?: number];

/**
 * Files as takes of one session at 120 bpm, 480 ticks a quarter, a bar of 1920 ticks; parts are put together from
 * them by hand.
 */
function studio(files: { notes: PlainNote[]; extra?: RawEvent[] }[]) {
  let next = 0;
  const read = files.map(({ notes, extra }) => {
    const { file } = readMidi(writeMidi(fileOfNotes(notes, 480, extra)));
    return sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  });
  const takes = new Map(read.flatMap((each) => each.takes).map((take): [string, Take] => [take.key, take]));
  const evaluator = createEvaluator((key) => takes.get(key) as Take);
  const [{ session }] = read;
  const [plain] = listOf(session.parts);
  let number = 10;
  const piece = (source: number | string, more: Partial<Piece> = {}): Piece => ({
    id: `piece${number}`,
    number: number++,
    source: typeof source === 'number' ? { take: read[source].takes[0].key } : { part: source },
    from: 0,
    to: null,
    at: 0,
    rest: 'untimed',
    ...more,
  });
  const part = (id: string, layers: Piece[][], more: Partial<Part> = {}): Part => ({
    ...plain,
    id,
    name: id,
    layers: orderedOf(layers.map(layerOf)),
    ...more,
  });
  const withParts = (...parts: Part[]): Session => ({ ...session, parts: orderedOf(parts) });
  const evaluate = (whole: Session, id: string) => {
    const found = whole.parts.byId[id];
    const { assembly, stages } = evaluator.evaluate(found, whole, timelineOf(whole));
    return { ...assembly, cleaned: stages[stages.length - 1], stages };
  };
  const heard = (...layers: Piece[][]) => evaluate(withParts(part('p', layers)), 'p');
  return { session, piece, part, withParts, evaluate, heard };
}

const notesOf = ({ cleaned }: { cleaned: { notes: Parameters<typeof noteAt>[0] } }): Note[] =>
  Array.from({ length: cleaned.notes.length }, (_, row) => noteAt(cleaned.notes, row));
const short = ({ start, end, pitch }: Note) => [start, end, pitch];
const linesOf = (events: EventColumns) =>
  Array.from(events.tick, (tick, row) => [tick, events.status[row], events.data1[row], events.data2[row]]);

describe('pieces of takes, one after the other', () => {
  const two = () =>
    studio([
      { notes: [[0, 400, 60, 80], [1890, 2100, 62, 80], [2400, 2500, 64, 80]] }, // prettier-ignore
      { notes: [[10, 300, 70, 80], [1895, 2200, 72, 80], [2600, 2700, 74, 80]] }, // prettier-ignore
    ]);

  it('meet at a bar line by the musical bar: what is meant for the new bar comes from the new piece alone', () => {
    const { piece, heard } = two();
    const laid = heard([piece(0, { to: 1920 }), piece(1, { from: 1920, at: 1920 })]);
    expect(notesOf(laid).map(short)).toEqual([
      [0, 400, 60],
      [1895, 2200, 72],
      [2600, 2700, 74],
    ]);
  });

  it('go where `at` says, and nothing comes before the start', () => {
    const { piece, heard } = two();
    const laid = heard([piece(1, { from: 1920, to: 3840, at: 0 })]);
    expect(notesOf(laid).map(short)).toEqual([
      [0, 280, 72],
      [680, 780, 74],
    ]);
  });

  it('let a note ring over the seam to its end, or to the next stroke of its pitch', () => {
    const { piece, heard } = studio([
      { notes: [[1800, 2600, 60, 80], [1700, 2600, 61, 80]] }, // prettier-ignore
      { notes: [[2200, 2300, 60, 80]] },
    ]);
    const laid = heard([piece(0, { to: 1920 }), piece(1, { from: 1920, at: 1920 })]);
    expect(notesOf(laid).map(short)).toEqual([
      [1700, 2600, 61],
      [1800, 2200, 60],
      [2200, 2300, 60],
    ]);
  });

  it('or cut it at the seam', () => {
    const { piece, part, withParts, evaluate } = studio([
      { notes: [[1800, 2600, 60, 80]] },
      { notes: [[2200, 2300, 61, 80]] },
    ]);
    const pieces = [[piece(0, { to: 1920 }), piece(1, { from: 1920, at: 1920 })]];
    const whole = withParts(part('p', pieces, { seams: { held: 'cut', by: 'music' } }));
    expect(notesOf(evaluate(whole, 'p')).map(short)).toEqual([
      [1800, 1920, 60],
      [2200, 2300, 61],
    ]);
  });

  it('hand controllers over: what differs is written, a pedal left down goes up, one down on both sides stays', () => {
    const pedal = (tick: number, value: number): RawEvent => [tick, 0xb0, 64, value];
    const { piece, heard } = studio([
      { notes: [[0, 10, 60, 80]], extra: [[0, 0xc0, 5], [0, 0xb0, 1, 99], pedal(100, 127), pedal(4000, 0)] },
      { notes: [[0, 10, 61, 80]], extra: [[0, 0xc0, 6], [0, 0xb0, 7, 90], pedal(500, 100), pedal(2500, 0)] },
      { notes: [[0, 10, 62, 80]] },
    ]);
    const both = heard([piece(0, { to: 1920 }), piece(1, { from: 1920, at: 1920 })]);
    expect(linesOf(both.cleaned.events)).toEqual([
      [0, 0xb0, 1, 99],
      [0, 0xc0, 5, 0],
      [100, 0xb0, 64, 127],
      [1920, 0xc0, 6, 0],
      [1920, 0xb0, 1, 0],
      [1920, 0xb0, 7, 90],
      [1920, 0xb0, 64, 100],
      [2500, 0xb0, 64, 0],
    ]);
    const lifted = heard([piece(0, { to: 1920 }), piece(2, { from: 1920, at: 1920 })]);
    expect(linesOf(lifted.cleaned.events).filter(([tick]) => tick === 1920)).toEqual([
      [1920, 0xb0, 1, 0],
      [1920, 0xb0, 64, 0],
    ]);
    // And where nothing follows.
    const alone = heard([piece(0, { to: 1920 })]);
    expect(linesOf(alone.cleaned.events).at(-1)).toEqual([1920, 0xb0, 64, 0]);
  });

  it('may be laid before the end of the one before, which then ends there', () => {
    const { piece, heard } = two();
    const laid = heard([piece(0), piece(1, { at: 480 })]);
    expect(notesOf(laid).map(short)).toEqual([
      [0, 400, 60],
      [490, 780, 70],
      [2375, 2680, 72],
      [3080, 3180, 74],
    ]);
  });
});

describe('any pieces of any takes', () => {
  const anyNotes = fc.array(
    fc
      .tuple(fc.nat(7000), fc.integer({ min: 1, max: 2500 }), fc.integer({ min: 58, max: 63 }))
      .map(([start, length, pitch]): PlainNote => [start, start + length, pitch, 80]),
    { minLength: 1, maxLength: 25 },
  );
  const anyEvents = fc.array(
    fc
      .tuple(fc.nat(7000), fc.constantFrom(1, 11, 64), fc.nat(127))
      .map(([tick, controller, value]): RawEvent => [tick, 0xb0, controller, value]),
    { maxLength: 12 },
  );
  const anyTake = fc.record({ notes: anyNotes, extra: anyEvents });

  it('cut where they stand are the take again, note for note, with nothing written at the seams', () => {
    fc.assert(
      fc.property(
        anyTake,
        fc.uniqueArray(fc.integer({ min: 1, max: 8000 }), { maxLength: 5 }),
        (take, cuts) => {
          const { piece, heard } = studio([take]);
          const places = [0, ...cuts.sort((a, b) => a - b)];
          const pieces = places.map((from, at) => piece(0, { from, to: places[at + 1] ?? null, at: from }));
          const [cut, whole] = [heard(pieces), heard([piece(0)])];
          expect(linesOf(cut.cleaned.events)).toEqual(linesOf(whole.cleaned.events));
          // A stroke of the same pitch beyond a seam ends what rings over it; everything else is as it was.
          const strokes = (laid: typeof cut) => notesOf(laid).map(({ start, pitch }) => `${start} ${pitch}`);
          expect(strokes(cut).sort()).toEqual(strokes(whole).sort());
        },
      ),
      { numRuns: 60 },
    );
  });

  it('leave no note stuck, none doubled, none lost, and after each seam the controllers of the new take', () => {
    fc.assert(
      fc.property(anyTake, anyTake, fc.integer({ min: 1, max: 3 }), (first, second, bar) => {
        const seam = bar * 1920;
        const { piece, heard } = studio([first, second]);
        const before = heard([piece(0)]).cleaned;
        const after = heard([piece(1)]).cleaned;
        const laid = heard([piece(0, { to: seam }), piece(1, { from: seam, at: seam })]).cleaned;
        const ids = new Set(laid.notes.id);
        expect(ids.size).toBe(laid.notes.length);
        for (let row = 0; row < laid.notes.length; row++)
          expect(laid.notes.end[row]).toBeGreaterThan(laid.notes.start[row] - 1);
        // Notes well away from the seam come each from their own side.
        const clear = (tick: number, side: 'left' | 'right') =>
          side === 'left' ? tick < seam - 60 - 58 : tick >= seam;
        const count = (table: typeof laid.notes, side: 'left' | 'right') =>
          table.start.filter((tick) => clear(tick, side)).length;
        expect(count(laid.notes, 'left')).toBe(count(before.notes, 'left'));
        expect(count(laid.notes, 'right')).toBe(count(after.notes, 'right'));
        const audible = (events: EventColumns) =>
          [...stateBefore(events, 9000)].filter(([key, value]) => value !== (key === 11 ? 127 : 0)).sort();
        expect(audible(laid.events)).toEqual(audible(after.events));
      }),
      { numRuns: 60 },
    );
  });
});

describe('layers', () => {
  const doubled = (keep: Part['doubles']['keep'], withinMs = 30) => {
    // 1 ms is 0.96 ticks.
    const { piece, part, withParts, evaluate } = studio([
      { notes: [[0, 100, 60, 50], [480, 500, 60, 90], [960, 990, 62, 70]] }, // prettier-ignore
      { notes: [[20, 300, 60, 90], [478, 600, 60, 40], [1000, 1010, 62, 70]] }, // prettier-ignore
    ]);
    const whole = withParts(part('p', [[piece(0)], [piece(1)]], { doubles: { keep, withinMs } }));
    return evaluate(whole, 'p');
  };

  it('sound together, doubles and all, unless one of them is to go', () => {
    expect(notesOf(doubled('both'))).toHaveLength(6);
    expect(doubled('both').dropped.length).toBe(0);
  });

  it.each([
    ['louder', [20, 480, 960, 1000]],
    ['longer', [20, 478, 960, 1000]],
    ['first', [0, 480, 960, 1000]],
  ] as const)('keep the %s of two that start together', (keep, starts) => {
    const laid = doubled(keep);
    expect(notesOf(laid).map(({ start }) => start)).toEqual(starts);
    expect(laid.dropped.length).toBe(2);
  });

  it('reach as far as they are told', () => {
    expect(notesOf(doubled('first', 45)).map(({ start }) => start)).toEqual([0, 480, 960]);
    expect(notesOf(doubled('first', 2)).map(({ start }) => start)).toEqual([0, 20, 478, 480, 960, 1000]);
    expect(notesOf(doubled('first', 2.1)).map(({ start }) => start)).toEqual([0, 20, 480, 960, 1000]);
  });

  it('pair the closest first, each note once', () => {
    const { piece, part, withParts, evaluate } = studio([
      { notes: [[100, 110, 60, 80], [118, 130, 60, 80]] }, // prettier-ignore
      { notes: [[112, 125, 60, 99]] },
    ]);
    const whole = withParts(
      part('p', [[piece(0)], [piece(1)]], { doubles: { keep: 'louder', withinMs: 30 } }),
    );
    expect(notesOf(evaluate(whole, 'p')).map(({ start }) => start)).toEqual([100, 112]);
  });
});

describe('pieces of parts', () => {
  const file = {
    notes: [
      [10, 100, 60, 80],
      [490, 600, 72, 80],
    ] as PlainNote[],
    extra: [[0, 0xb0, 64, 127]] as RawEvent[],
  };
  const quantize = { id: 'q', step: createStep('quantize') };

  it('are live: they sound as their source is cleaned, under identities of their own', () => {
    const { piece, part, withParts, evaluate } = studio([file]);
    const source = part('a', [[piece(0)]], { steps: orderedOf([quantize]) });
    const made = part('b', [[piece('a', { at: 960 })]]);
    const whole = withParts(source, made);
    expect(sessionSchema.parse(whole)).toEqual(whole);
    const laid = evaluate(whole, 'b');
    expect(notesOf(laid).map(({ start, pitch }) => [start, pitch])).toEqual([
      [960, 60],
      [1440, 72],
    ]);
    expect(linesOf(laid.cleaned.events)).toEqual([[960, 0xb0, 64, 127]]);
    const ids = [...laid.cleaned.notes.id, ...evaluate(whole, 'a').cleaned.notes.id];
    expect(new Set(ids).size).toBe(4);
    // A changed source changes what is made of it, and the identities stay.
    const looser = {
      ...source,
      steps: orderedOf([{ ...quantize, step: createStep('quantize', { strength: 0 }) }]),
    };
    const again = evaluate(withParts(looser, made), 'b').cleaned.notes;
    expect([...again.start]).toEqual([970, 1450]);
    expect([...again.id]).toEqual([...laid.cleaned.notes.id]);
  });

  it('of one split are together exactly the source', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(4000), fc.integer({ min: 40, max: 80 }), fc.nat(3)), { maxLength: 30 }),
        fc.constantFrom(
          ['pitch:60', 'low', 'high'],
          ['voice', 'highest', 'lowest', 'inner'],
          ['hand', 'left', 'right'],
        ),
        (notes, [by, ...labels]) => {
          const plain = notes.map(([start, pitch, channel]): PlainNote => [
            start,
            start + 50,
            pitch,
            80,
            channel,
          ]);
          const { piece, part, withParts, evaluate } = studio([{ notes: plain, extra: [[0, 0xb0, 7, 88]] }]);
          const shares = labels.map((label) => part(label, [[piece('whole', { split: { by, label } })]]));
          const whole = withParts(part('whole', [[piece(0)]]), ...shares);
          const lines = (id: string) =>
            notesOf(evaluate(whole, id)).map(
              ({ start, end, pitch, channel }) => `${start} ${end} ${pitch} ${channel}`,
            );
          expect(labels.flatMap(lines).sort()).toEqual(lines('whole').sort());
          // The first that has notes holds the controllers.
          const holders = labels.filter((label) => evaluate(whole, label).cleaned.events.length > 0);
          expect(holders).toHaveLength(notes.length === 0 ? 0 : 1);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('that go in a circle are refused with the names of the parts', () => {
    const { piece, part, withParts, evaluate } = studio([file]);
    const whole = withParts(part('a', [[piece('c')]]), part('b', [[piece('a')]]), part('c', [[piece('b')]]));
    expect(() => evaluate(whole, 'a')).toThrow('These parts are made of each other: a > c > b > a.');
    const align = { id: 'al', step: createStep('align', { to: 'b' }) };
    const mixed = withParts(
      part('a', [[piece(0)]], { steps: orderedOf([align]) }),
      part('b', [[piece('a')]]),
    );
    expect(() => evaluate(mixed, 'a')).toThrow('These parts wait for each other: a > b > a.');
    expect(() => evaluate(withParts(part('a', [[piece('gone')]])), 'a')).toThrow('no longer in the session');
  });
});

describe('a part locked to seconds', () => {
  it('stays where it was in real time when the tempo of the session changes', () => {
    const { session, piece, part, withParts, evaluate } = studio([
      {
        notes: [
          [480, 960, 60, 80],
          [1920, 2400, 62, 80],
        ],
      },
    ]);
    const parts = [part('beats', [[piece(0)]]), part('seconds', [[piece(0)]], { lockedTo: 'seconds' })];
    const half = { ...withParts(...parts), tempos: [{ tick: 0, microsecondsPerQuarter: 1_000_000 }] };
    expect(session.tempos).toEqual([]);
    expect(notesOf(evaluate(half, 'beats')).map(short)).toEqual([
      [480, 960, 60],
      [1920, 2400, 62],
    ]);
    expect(notesOf(evaluate(half, 'seconds')).map(short)).toEqual([
      [240, 480, 60],
      [960, 1200, 62],
    ]);
    // Pieces of it are measured in seconds.
    const cut = part('cut', [[piece(0, { from: 1, at: 3 })]], { lockedTo: 'seconds' });
    expect(notesOf(evaluate({ ...half, parts: orderedOf([cut]) }, 'cut')).map(short)).toEqual([
      [1920, 2160, 62],
    ]);
  });
});

describe('the two passes of a channel', () => {
  it('let a length step hold notes by the pedal that another part of the channel plays', () => {
    const { piece, part, withParts, evaluate } = studio([
      { notes: [[0, 100, 60, 80]] },
      { notes: [[50, 60, 40, 80]], extra: [[10, 0xb0, 64, 127], [800, 0xb0, 64, 0]] }, // prettier-ignore
    ]);
    const hold = { id: 'h', step: createStep('length', { hold: 'fromPedal' }) };
    const right = part('right', [[piece(0)]], { steps: orderedOf([hold]) });
    const left = part('left', [[piece(1)]], { steps: orderedOf([hold]) });
    const whole = withParts(right, left);
    expect(notesOf(evaluate(whole, 'right')).map(short)).toEqual([[0, 800, 60]]);
    expect(notesOf(evaluate(whole, 'left')).map(short)).toEqual([[50, 800, 40]]);
    // The other part's own steps shape its pedal first; what is set aside is not heard.
    const late = { id: 'n', step: createStep('pedal', { op: 'shift', ms: 50 }) };
    const moved = withParts(right, { ...left, steps: orderedOf([late]) });
    expect(notesOf(evaluate(moved, 'right'))[0].end).toBeCloseTo(848, 6);
    expect(notesOf(evaluate(withParts(right, { ...left, setAside: true }), 'right'))[0].end).toBe(100);
    expect(notesOf(evaluate(withParts(right, { ...left, channel: 2 }), 'right'))[0].end).toBe(100);
  });

  it('and controllers without notes lie where the part of their channel with most notes is laid', () => {
    const { piece, part, withParts, evaluate } = studio([
      { notes: [[0, 100, 60, 80], [480, 500, 62, 80]] }, // prettier-ignore
      { notes: [[0, 10, 50, 80, 1]], extra: [[240, 0xb0, 64, 127], [400, 0xb0, 64, 0]] }, // prettier-ignore
    ]);
    const blocks = [{ id: 'b', from: 0, to: 1, at: 2, times: 2, stretch: 1, held: 'ring' as const }];
    const layout = { id: 'l', step: createStep('layout', { blocks }) };
    const notes = part('notes', [[piece(0)]], { steps: orderedOf([layout]) });
    const pedal = part('pedal', [[piece(1, { split: { by: 'channel', label: 'ch1' } })]]);
    const ticks = (whole: Session) => [...evaluate(whole, 'pedal').cleaned.events.tick];
    expect(ticks(withParts(notes, pedal))).toEqual([1200, 1360, 1680, 1840]);
    expect(ticks(withParts({ ...notes, channel: 3 }, pedal))).toEqual([240, 400]);
  });
});
