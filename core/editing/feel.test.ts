import fc from 'fast-check';
import { noteTableOf, type Note } from '../model';
import { createGrid, createTimeline, nearestLine } from '../time';
import { broughtTo, notesFromText, notesToText, pasteNotes, pastePlan, type PasteHow, type Snap } from '.';

const timeline = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);
const grid = createGrid(timeline.meter, ['1/16']);
const swung = createGrid(timeline.meter, ['1/16'], 62);
const lateness = (at: number, on = grid) => at - nearestLine(on, at, { line: 0, step: 0 }).line;
const BAR = 1920;

describe('what is dragged', () => {
  it('keeps its distance from the lines, swung or not, however far it goes', () => {
    fc.assert(
      fc.property(fc.nat(20_000), fc.nat(20_000), fc.constantFrom(grid, swung), (from, wanted, on) => {
        // Farther than half of the narrower gap, the nearest line is another one beside a wide gap than beside a
        // narrow one.
        fc.pre(Math.abs(lateness(from, on)) < 45);
        const to = broughtTo(on, 'steps', from, wanted);
        if (to > 0) expect(lateness(to, on)).toBeCloseTo(lateness(from, on), 6);
        expect(Math.abs(to - wanted)).toBeLessThanOrEqual(120);
      }),
    );
  });

  it('goes to the line itself, or anywhere, where that is chosen', () => {
    expect(broughtTo(grid, 'line', 487, 610)).toBe(600);
    expect(broughtTo(grid, 'off', 487, 610.4)).toBe(610);
    expect(broughtTo(grid, 'steps', 487, 610)).toBe(607);
    expect(broughtTo(grid, 'steps', 470, -300)).toBe(0);
  });
});

describe('what is pasted', () => {
  const copied = (list: [start: number, end: number][]) =>
    notesFromText(
      notesToText(
        list.map(([start, end], id): Note => ({
          id,
          start,
          end,
          pitch: 60,
          velocity: 80,
          release: 64,
          channel: 0,
        })),
        timeline,
      ),
    );
  const plan = (
    list: [number, number][],
    at: number,
    how: PasteHow = 'add',
    snap: Snap = 'steps',
    there: Partial<Note>[] = [],
  ) => pastePlan(copied(list), at, how, snap, grid, noteTableOf(there), timeline);

  it('keeps its place in the bar at a bar line, played ahead of its bar or after a rest', () => {
    // From beat 2 of bar 2, 7 ticks late, to bar 5.
    expect(plan([[BAR + 487, BAR + 700]], 4 * BAR)).toMatchObject({
      tick: 4 * BAR + 487,
      from: 4 * BAR,
      to: 5 * BAR,
    });
    // Ahead of bar 2 by 12 ticks.
    expect(plan([[BAR - 12, BAR + 300]], 6 * BAR).tick).toBe(6 * BAR - 12);
    // The play line stands a little before the line.
    expect(plan([[BAR - 12, BAR + 300]], 6 * BAR - 20).tick).toBe(6 * BAR - 12);
    // Back in its own bar it would lie on itself: it goes to the line.
    expect(plan([[BAR + 487, BAR + 700]], BAR, 'add', 'steps', [{ start: BAR + 487 }]).tick).toBe(BAR + 7);
    // A part cannot begin before its start.
    expect(plan([[BAR - 12, BAR + 300]], 0).tick).toBe(0);
  });

  it('keeps its distance from the grid elsewhere in a bar', () => {
    expect(plan([[BAR + 487, BAR + 700]], 4 * BAR + 965).tick).toBe(4 * BAR + 967);
    expect(plan([[BAR - 12, BAR + 300]], 4 * BAR + 960).tick).toBe(4 * BAR + 948);
    expect(plan([[BAR + 487, BAR + 700]], 4 * BAR + 965, 'add', 'line').tick).toBe(4 * BAR + 960);
    expect(plan([[BAR + 487, BAR + 700]], 4 * BAR + 965, 'add', 'off').tick).toBe(4 * BAR + 965);
    fc.assert(
      fc.property(fc.integer({ min: BAR, max: 9000 }), fc.integer({ min: 130, max: 9000 }), (start, at) => {
        const { tick } = plan([[start, start + 100]], at);
        expect(lateness(tick)).toBeCloseTo(lateness(start), 6);
      }),
    );
  });

  it('gives way to nothing, takes the place of what belongs to the stretch, or pushes what follows by it', () => {
    const there = [4 * BAR - 500, 4 * BAR - 10, 4 * BAR + 700, 5 * BAR - 8, 5 * BAR + 900].map((start) => ({
      start,
    }));
    const list: [number, number][] = [[BAR, BAR + 400], [BAR + 1440, 2 * BAR - 5]]; // prettier-ignore
    expect(plan(list, 4 * BAR, 'add', 'steps', there).rows).toEqual([]);
    expect(plan(list, 4 * BAR, 'replace', 'steps', there)).toMatchObject({
      from: 4 * BAR,
      to: 5 * BAR,
      rows: [1, 2],
    });
    expect(plan(list, 4 * BAR, 'push', 'steps', there)).toMatchObject({ to: 5 * BAR, rows: [1, 2, 3, 4] });
    // A note that hangs over its bar by a little is still one bar.
    expect(plan([[BAR, 2 * BAR + 40]], 4 * BAR, 'replace').to).toBe(5 * BAR);
    // Elsewhere the stretch goes to the grid line after the last end.
    expect(plan([[BAR, BAR + 230]], 4 * BAR + 480, 'replace')).toMatchObject({
      from: 4 * BAR + 480,
      to: 4 * BAR + 720,
    });
  });

  it('from an earlier version knows no place in the bar, and goes to the grid', () => {
    const { inBar, ...old } = copied([[BAR + 487, BAR + 700]]);
    expect(inBar).toBeCloseTo(487 / 480, 9);
    const { tick } = pastePlan(old, 4 * BAR, 'add', 'steps', grid, noteTableOf([]), timeline);
    expect(tick).toBe(4 * BAR);
    expect(pasteNotes(old, tick, 1, 480, () => 9)[0]).toMatchObject({ start: 4 * BAR, end: 4 * BAR + 213 });
  });
});
