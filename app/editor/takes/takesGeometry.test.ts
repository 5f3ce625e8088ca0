import fc from 'fast-check';
import { HEADING } from '../bars/barsGeometry';
import { blockAt, draggedBlock, heightOfRows, PARTS_SHAPE, partAt, topOfPart } from '../parts/partsGeometry';
import {
  barAtX,
  heightOfCells,
  lineOfChoice,
  pitchOfRows,
  TAKES_SHAPE,
  rowAt,
  topOfRow,
  xOfTick,
} from './takesGeometry';
import { heldBarsWindow, type BarsLayout, type BarsWindow } from '../bars/barsGeometry';

const BAR = 1920;
const lines = Float64Array.from({ length: 25 }, (_, bar) => bar * BAR);
const anyLayout = fc.record({
  width: fc.integer({ min: 200, max: 2000 }),
  height: fc.integer({ min: 300, max: 1200 }),
  rows: fc.integer({ min: 1, max: 20 }),
  headings: fc.constant([]),
});
const anyWindow = fc.record({
  tick: fc.integer({ min: -10_000, max: 60_000 }),
  ticksPerPixel: fc.double({ min: 0.01, max: 500, noNaN: true }),
  top: fc.integer({ min: -50, max: 3000 }),
});

describe('the window over the takes', () => {
  it('stays within the bars and rows there are, and is held where it is held already', () => {
    fc.assert(
      fc.property(anyWindow, anyLayout, (window: BarsWindow, layout: BarsLayout) => {
        const held = heldBarsWindow(window, layout, 24 * BAR, TAKES_SHAPE);
        expect(xOfTick(0, held)).toBeLessThanOrEqual(5);
        expect(held.top).toBeGreaterThanOrEqual(0);
        const again = heldBarsWindow(held, layout, 24 * BAR, TAKES_SHAPE);
        expect(again.tick).toBeCloseTo(held.tick, 6);
        expect(again.ticksPerPixel).toBeCloseTo(held.ticksPerPixel, 9);
        expect(again.top).toBe(held.top);
      }),
    );
  });

  it('finds the cell a place lies in', () => {
    fc.assert(
      fc.property(
        anyLayout,
        fc.integer({ min: 0, max: 23 }),
        fc.integer({ min: 0, max: 19 }),
        (layout, bar, wanted) => {
          const row = wanted % layout.rows;
          const window = heldBarsWindow(
            { tick: 0, ticksPerPixel: 40, top: 0 },
            layout,
            24 * BAR,
            TAKES_SHAPE,
          );
          const x = (xOfTick(lines[bar], window) + xOfTick(lines[bar + 1], window)) / 2;
          expect(barAtX(x, window, lines)).toBe(bar);
          expect(rowAt(topOfRow(row, window, layout) + heightOfCells(layout) / 2, window, layout)).toBe(row);
          expect(pitchOfRows(layout)).toBeGreaterThanOrEqual(60);
        },
      ),
    );
    // Beyond the ends the first and the last are meant.
    const window = { tick: 0, ticksPerPixel: 40, top: 0 };
    expect([barAtX(-100, window, lines), barAtX(1e6, window, lines)]).toEqual([0, 23]);
  });
});

describe('rows with headings', () => {
  it('are found where they stand', () => {
    const anyHeadings = fc.uniqueArray(fc.nat(9), { maxLength: 4 }).map((list) => list.sort((a, b) => a - b));
    fc.assert(
      fc.property(anyHeadings, fc.nat(9), fc.nat(400), (headings, row, top) => {
        const layout = { width: 800, height: 500, rows: 10, headings };
        const window = { tick: 0, ticksPerPixel: 20, top };
        const y = topOfPart(row, window, layout) + 4;
        expect(partAt(y, window, layout)).toBe(row);
        if (row > 0)
          expect(topOfPart(row, window, layout) - topOfPart(row - 1, window, layout)).toBe(
            headings.includes(row - 1) ? HEADING : heightOfRows(layout),
          );
      }),
    );
  });
});

describe('blocks', () => {
  const block = { id: 'a', start: 0, once: BAR, end: 2 * BAR, isLinked: false, isMuted: false, words: '' };
  const window = { tick: 0, ticksPerPixel: 20, top: 0 };
  const part = {
    id: 'p',
    isGroup: false,
    isFolded: false,
    ink: 0,
    notes: { start: new Float64Array(0), end: new Float64Array(0), pitch: new Uint8Array(0) },
    blocks: [block],
    isHeard: true,
    isSetAside: false,
  };

  it('are taken hold of at their ends and in their middle', () => {
    const edgeAt = (x: number) => blockAt(part, x, window)?.edge;
    expect([edgeAt(2), edgeAt(90), edgeAt(190)]).toEqual(['start', null, 'end']);
    expect(blockAt(part, 200, window)).toBeNull();
  });

  it('lie where a drag has them', () => {
    const place = { part: 'p', block: 'a' };
    const after = (kind: 'move' | 'start' | 'end' | 'stretch', by: number) => {
      const { start, once, end } = draggedBlock(block, { kind, place, by });
      return [start, once, end];
    };
    expect(after('move', 480)).toEqual([480, BAR + 480, 2 * BAR + 480]);
    expect(after('start', 480)).toEqual([480, BAR, 2 * BAR]);
    // The end is that of the last repetition: each of two gives half.
    expect(after('end', -BAR)).toEqual([0, BAR / 2, BAR]);
    expect(
      heldBarsWindow(
        { tick: -1e6, ticksPerPixel: 1e9, top: -5 },
        { width: 800, height: 600, rows: 2, headings: [] },
        1e5,
        PARTS_SHAPE,
      ).top,
    ).toBe(0);
  });
});

describe('the line through what is chosen', () => {
  it('goes from bar to bar where they are wide, and is level for some pixels where they are not', () => {
    const chosen = Int32Array.from([0, 0, 1, -1, 2]);
    expect(lineOfChoice(chosen, 0, 5, 40)).toEqual([
      { from: 0, to: 2, row: 0 },
      { from: 2, to: 3, row: 1 },
      { from: 3, to: 4, row: -1 },
      { from: 4, to: 5, row: 2 },
    ]);
    const mostlyOne = Int32Array.from({ length: 2000 }, (_, bar) => (bar % 3 === 0 ? 0 : 1));
    expect(lineOfChoice(mostlyOne, 0, 2000, 0.42)).toEqual([{ from: 0, to: 2000, row: 1 }]);
    const random = Int32Array.from({ length: 2000 }, (_, bar) => (bar * 7919) % 5);
    for (const { from, to } of lineOfChoice(random, 0, 2000, 0.42).slice(0, -1))
      expect((to - from) * 0.42).toBeGreaterThanOrEqual(7);
  });
});
