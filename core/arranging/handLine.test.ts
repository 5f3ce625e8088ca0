import fc from 'fast-check';
import { handLineOf, labelsOf, shiftInBar } from '../assembly';
import { createEvaluator } from '../evaluate';
import { readMidi, writeMidi } from '../midi';
import type { Take } from '../model';
import { listOf, sessionOfFile, sessionSchema, timelineOf, type Session } from '../session';
import { numbersOf } from '../takes';
import { fileOfNotes } from '../testing/files';
import { handLineOfShares, movedLine, separatedParts, withHandLine } from '.';

const BAR = 1920;
const anyLine = fc
  .uniqueArray(fc.integer({ min: 1, max: 8 }), { maxLength: 4 })
  .chain((bars) =>
    fc.tuple(
      ...bars
        .sort((a, b) => a - b)
        .map((bar) => fc.integer({ min: -9, max: 9 }).map((shift) => ({ bar, shift }))),
    ),
  );

/** Four bars of a bass note and a chord on each beat, separated by hand. */
function quay() {
  const strokes = Array.from({ length: 16 }, (_, beat): [number, number, number, number][] =>
    [45 + (beat % 5), 57, 64, 67].map((pitch) => [beat * 480, beat * 480 + 400, pitch, 80]),
  ).flat();
  let next = 0;
  const { file } = readMidi(writeMidi(fileOfNotes(strokes)));
  const { session, takes } = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  const evaluator = createEvaluator((key) => takes.find((take) => take.key === key) as Take);
  const [part] = listOf(session.parts);
  const timeline = timelineOf(session);
  const cleaned = (of: Session, id: string) =>
    evaluator.evaluate(of.parts.byId[id], of, timeline).stages[0].notes;
  const shares = separatedParts(part, 'hand', ['left', 'right'], () => `id${next++}`, numbersOf(session));
  const divided: Session = {
    ...session,
    parts: {
      order: [part.id, ...shares.map(({ id }) => id)],
      byId: Object.fromEntries([part, ...shares].map((each) => [each.id, each])),
    },
  };
  return { session: divided, part, shares, cleaned, timeline };
}

describe('the line between the hands', () => {
  const { session, part, shares, cleaned, timeline } = quay();

  it('is moved in all shares of a source at once, which go on being it exactly together', () => {
    fc.assert(
      fc.property(anyLine, (line) => {
        const moved = { ...session, parts: withHandLine(session.parts, part.id, line) };
        expect(() => sessionSchema.parse(structuredClone({ ...moved, nextPiece: 9 }))).not.toThrow();
        expect(handLineOfShares(moved.parts, part.id)).toEqual(line);
        const [whole, left, right] = [part, ...shares].map(({ id }) => cleaned(moved, id));
        expect(left.length + right.length).toBe(whole.length);
        const labels = labelsOf('hand', whole, timeline, line);
        expect(labels.filter((label) => label === 'left')).toHaveLength(left.length);
        const { pitch } = handLineOf(whole, timeline, line);
        for (const own of [...left.start.keys()]) {
          const chord = Math.round(left.start[own] / 480);
          expect(left.pitch[own]).toBeLessThan(pitch[chord]);
        }
      }),
    );
    expect(handLineOfShares(session.parts, shares[0].id)).toBeNull();
  });

  it('brings notes over to the other hand in the bars where it is moved', () => {
    const before = cleaned(session, shares[0].id);
    const line = movedLine([], [2, 3], 12);
    const after = cleaned({ ...session, parts: withHandLine(session.parts, part.id, line) }, shares[0].id);
    const inBar = ({ start }: typeof after, bar: number) =>
      [...start].filter((tick) => Math.floor(tick / BAR) === bar - 1).length;
    expect([1, 2, 3, 4].map((bar) => inBar(after, bar) - inBar(before, bar))).toEqual([0, 8, 0, 0]);
  });

  it('says in each bar what it said, moved; and back again is as before', () => {
    fc.assert(
      fc.property(anyLine, fc.nat(7), fc.integer({ min: 1, max: 4 }), fc.nat(9), (line, from, length, by) => {
        const bars = [from + 1, from + 1 + length] as const;
        const moved = movedLine(line, bars, by);
        for (let bar = 1; bar <= 14; bar++)
          expect(shiftInBar(moved, bar)).toBe(
            shiftInBar(line, bar) + (bar >= bars[0] && bar < bars[1] ? by : 0),
          );
        const back = movedLine(moved, bars, -by);
        for (let bar = 1; bar <= 14; bar++) expect(shiftInBar(back, bar)).toBe(shiftInBar(line, bar));
      }),
    );
  });
});
