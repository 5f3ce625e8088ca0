import fc from 'fast-check';
import { stateBefore } from '../curves';
import { type EventColumns } from '../midi';
import { type Part } from '../session';
import { type RawEvent } from '../testing/files';
import { partsStudio, notesOf, linesOf, short } from '../testing/partsStudio';
import type { PlainNote } from '../testing/files';

describe('pieces of takes, one after the other', () => {
  const two = () =>
    partsStudio([
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
    const { piece, heard } = partsStudio([
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
    const { piece, part, withParts, evaluate } = partsStudio([
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
    const { piece, heard } = partsStudio([
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
          const { piece, heard } = partsStudio([take]);
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
        const { piece, heard } = partsStudio([first, second]);
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
    const { piece, part, withParts, evaluate } = partsStudio([
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
    const { piece, part, withParts, evaluate } = partsStudio([
      { notes: [[100, 110, 60, 80], [118, 130, 60, 80]] }, // prettier-ignore
      { notes: [[112, 125, 60, 99]] },
    ]);
    const whole = withParts(
      part('p', [[piece(0)], [piece(1)]], { doubles: { keep: 'louder', withinMs: 30 } }),
    );
    expect(notesOf(evaluate(whole, 'p')).map(({ start }) => start)).toEqual([100, 112]);
  });
});
