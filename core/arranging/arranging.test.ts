import fc from 'fast-check';
import { createEvaluator } from '../evaluate';
import { readMidi, writeMidi } from '../midi';
import type { NoteTable, Take } from '../model';
import { labelsOf } from '../assembly';
import {
  listOf,
  orderedOf,
  sessionOfFile,
  sessionSchema,
  timelineOf,
  type Part,
  type Session,
} from '../session';
import { createStep } from '../steps';
import { numbersOf } from '../takes';
import { fileOfNotes, type RawEvent, type PlainNote } from '../testing/files';
import {
  blocksOf,
  deleteStretch,
  duplicateAfter,
  endOfBlock,
  hasOwnEdits,
  insertTime,
  joinBlocks,
  linkedWith,
  moveBlock,
  movesNothing,
  repeatStretch,
  repeatUpTo,
  splitAt,
  stretchTo,
  trim,
  withBlocks,
  type Block,
} from './blocks';
import { mergedPart, separatedParts } from './partsOfParts';

/** A session of the tracks' parts, 480 ticks a quarter, 4/4 at 120 bpm. */
function studio(tracks: { notes: PlainNote[]; extra?: RawEvent[] }[]) {
  let next = 0;
  const newId = () => `id${next++}`;
  const read = tracks.map(({ notes, extra }) =>
    sessionOfFile(readMidi(writeMidi(fileOfNotes(notes, 480, extra))).file, 'Quay', newId, 0),
  );
  const takes = new Map(read.flatMap((each) => each.takes).map((take): [string, Take] => [take.key, take]));
  const evaluator = createEvaluator((key) => takes.get(key) as Take);
  const parts = read.map(({ session }, index): Part => ({
    ...listOf(session.parts)[0],
    name: `part ${index}`,
  }));
  const session: Session = { ...read[0].session, parts: orderedOf(parts), nextPiece: 100 };
  const cleaned = (part: Part, among: readonly Part[] = parts) => {
    const whole = { ...session, parts: orderedOf([...among.filter(({ id }) => id !== part.id), part]) };
    const { stages } = evaluator.evaluate(part, whole, timelineOf(whole));
    return stages[stages.length - 1];
  };
  return { session, parts, newId, numbers: numbersOf(session), timeline: timelineOf(session), cleaned };
}
const rowsOf = (table: NoteTable) =>
  Array.from(table.start, (start, row) => [
    start,
    table.end[row],
    table.pitch[row],
    table.velocity[row],
    table.channel[row],
  ]);
const sorted = (rows: number[][]) =>
  rows.toSorted((a, b) => a[0] - b[0] || a[2] - b[2] || a[4] - b[4] || a[1] - b[1]);

const beats: PlainNote[] = Array.from({ length: 16 }, (_, beat) => [
  beat * 480,
  beat * 480 + 300,
  60 + beat,
  80,
]);
const counter = () => {
  let next = 0;
  return () => `new${next++}`;
};

describe('blocks', () => {
  const quay = studio([{ notes: beats }]);
  const [part] = quay.parts;
  const heard = (blocks: readonly Block[]) =>
    rowsOf(quay.cleaned(withBlocks(part, blocks, quay.newId)).notes);
  const startsOf = (blocks: readonly Block[]) =>
    heard(blocks).map(([start, , pitch]) => [start / 480, pitch - 60]);

  it('of a part without a layout are one that changes nothing', () => {
    const blocks = blocksOf(part, 16);
    expect(blocks).toHaveLength(1);
    expect(movesNothing(blocks, 16)).toBe(true);
    expect(heard(blocks)).toEqual(rowsOf(quay.cleaned(part).notes));
    expect(blocksOf(withBlocks(part, blocks, quay.newId), 16)).toEqual(blocks);
  });

  it('that are split anywhere and joined again are what they were', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 63 }), { maxLength: 6 }), (places) => {
        const newId = counter();
        const blocks = places.reduce((made, place) => splitAt(made, place / 4, newId), blocksOf(part, 16));
        expect(heard(blocks)).toEqual(rowsOf(quay.cleaned(part).notes));
        expect(new Set(blocks.map(({ id }) => id)).size).toBe(blocks.length);
        const joined = joinBlocks(blocks, new Set(blocks.map(({ id }) => id)));
        expect(joined).toEqual(blocksOf(part, 16));
      }),
    );
  });

  it('are repeated, duplicated, moved, trimmed and stretched', () => {
    const newId = counter();
    const [first, second] = splitAt(blocksOf(part, 16), 2, newId);
    expect(startsOf([repeatUpTo(first, 5)])).toEqual([
      [0, 0],
      [1, 1],
      [2, 0],
      [3, 1],
      [4, 0],
      [5, 1],
    ]);
    expect(endOfBlock(repeatUpTo(first, 5))).toBe(6);
    const { blocks, copies } = duplicateAfter([first], new Set([first.id]), newId);
    expect(startsOf(blocks)).toEqual([
      [0, 0],
      [1, 1],
      [2, 0],
      [3, 1],
    ]);
    expect(linkedWith(blocks, first.id)).toEqual(copies);
    expect(linkedWith([first, second], first.id)).toEqual([]);
    expect(startsOf([moveBlock(first, 3)])).toEqual([
      [3, 0],
      [4, 1],
    ]);
    expect(startsOf([trim(second, 'start', 14, 0.25)])).toEqual([
      [14, 14],
      [15, 15],
    ]);
    expect(startsOf([trim(first, 'end', 1, 0.25)])).toEqual([[0, 0]]);
    // Drawn out again the block has more of what it is made of.
    expect(startsOf([trim(first, 'end', 3, 0.25)])).toEqual([
      [0, 0],
      [1, 1],
      [2, 2],
    ]);
    expect(startsOf([stretchTo(first, 4)])).toEqual([
      [0, 0],
      [2, 1],
    ]);
  });

  it('give way for bars that are deleted, inserted and repeated', () => {
    const newId = counter();
    const blocks = blocksOf(part, 16);
    const without = deleteStretch(blocks, 4, 8, newId);
    expect(startsOf(without).map(([, pitch]) => pitch)).toEqual([0, 1, 2, 3, 8, 9, 10, 11, 12, 13, 14, 15]);
    expect(startsOf(without).map(([start]) => start)).toEqual(Array.from({ length: 12 }, (_, at) => at));
    const later = insertTime(blocks, 4, 4, newId);
    expect(startsOf(later).map(([start]) => start)).toEqual([
      0,
      1,
      2,
      3,
      ...Array.from({ length: 12 }, (_, at) => at + 8),
    ]);
    // What is put in and taken out again leaves all as it was.
    expect(heard(deleteStretch(later, 4, 8, newId))).toEqual(heard(blocks));
    const again = repeatStretch(blocks, 0, 4, newId);
    expect(startsOf(again).map(([, pitch]) => pitch)).toEqual([
      0,
      1,
      2,
      3,
      ...Array.from({ length: 16 }, (_, at) => at),
    ]);
  });

  it('say whether their part has edits of its own after them', () => {
    const laid = withBlocks(part, blocksOf(part, 16), quay.newId);
    expect(hasOwnEdits(laid)).toBe(false);
    const edits = { id: 'mine', step: createStep('edits', {}) };
    const { order, byId } = laid.steps;
    expect(
      hasOwnEdits({ ...laid, steps: { order: [...order, 'mine'], byId: { ...byId, mine: edits } } }),
    ).toBe(true);
    expect(
      hasOwnEdits({ ...laid, steps: { order: ['mine', ...order], byId: { ...byId, mine: edits } } }),
    ).toBe(false);
  });
});

const LAYERED = {
  mode: 'layer',
  doubles: { keep: 'both', withinMs: 30 },
  oneChannel: false,
  name: 'both',
} as const;
const pedal = (tick: number, value: number, channel = 0): RawEvent => [tick, 0xb0 | channel, 64, value];

describe('parts of parts', () => {
  it("in layers sound together, follow what is done to their sources, and have the lead's controllers", () => {
    const quay = studio([
      {
        notes: [[0, 400, 60, 80]],
        extra: [
          [0, 0xc0, 5],
          [0, 0xb0, 7, 100],
        ],
      },
      { notes: [[0, 400, 64, 70, 1]], extra: [[0, 0xc1, 9], [0, 0xb1, 7, 50], pedal(0, 127, 1)] },
    ]);
    const [one, two] = quay.parts;
    const merged = mergedPart(
      quay.parts,
      { ...LAYERED, lead: two.id, oneChannel: true },
      [0, 0],
      'both',
      quay.numbers,
    );
    expect([merged.channel, merged.rechannel]).toEqual([2, true]);
    const { notes, events } = quay.cleaned(merged);
    expect(sorted(rowsOf(notes))).toEqual([
      [0, 400, 60, 80, 1],
      [0, 400, 64, 70, 1],
    ]);
    const lines = Array.from(events.tick, (_, row) => [
      events.status[row],
      events.data1[row],
      events.data2[row],
    ]);
    expect(lines.filter(([status]) => status === 0xc1)).toEqual([[0xc1, 9, 0]]);
    expect(lines.filter(([status, controller]) => status === 0xb1 && controller === 7)).toEqual([
      [0xb1, 7, 50],
    ]);
    const up = createStep('transpose', { semitones: 12 });
    const higher: Part = { ...one, steps: orderedOf([{ id: 'up', step: up }]) };
    expect(
      rowsOf(quay.cleaned(merged, [higher, two]).notes)
        .map(([, , pitch]) => pitch)
        .sort(),
    ).toEqual([64, 72]);
    expect(
      sessionSchema.safeParse({
        ...quay.session,
        parts: orderedOf([one, two, merged]),
        nextPiece: quay.numbers.next,
      }).success,
    ).toBe(true);
  });

  it('leave a drum kit on its channel, and others off it, whatever is asked for', () => {
    const quay = studio([{ notes: [[0, 400, 60, 80, 0]] }, { notes: [[0, 400, 38, 70, 9]] }]);
    const channels = (lead: string) => {
      const how = { ...LAYERED, lead, oneChannel: true };
      const { notes } = quay.cleaned(mergedPart(quay.parts, how, [0, 0], 'both', quay.numbers));
      return Object.fromEntries(Array.from(notes.pitch, (pitch, row) => [pitch, notes.channel[row]]));
    };
    expect(quay.parts.map(({ sound }) => sound.drums)).toEqual([false, true]);
    for (const { id } of quay.parts) expect(channels(id)).toEqual({ 60: 0, 38: 9 });
  });

  it('joined end to end lie where they were told to, without a note lost', () => {
    const quay = studio([{ notes: beats.slice(0, 4) }, { notes: beats.slice(0, 3) }]);
    const merged = mergedPart(
      quay.parts,
      { ...LAYERED, mode: 'join', lead: quay.parts[0].id },
      [0, 1920],
      'both',
      quay.numbers,
    );
    expect(rowsOf(quay.cleaned(merged).notes).map(([start]) => start)).toEqual([
      0, 480, 960, 1440, 1920, 2400, 2880,
    ]);
  });

  it('by bars are the lead until another is chosen', () => {
    const quay = studio([
      { notes: beats },
      { notes: beats.map(([start, end, pitch]) => [start, end, pitch, 30]) },
    ]);
    const merged = mergedPart(
      quay.parts,
      { ...LAYERED, mode: 'bars', lead: quay.parts[1].id },
      [0, 0],
      'both',
      quay.numbers,
    );
    expect(rowsOf(quay.cleaned(merged).notes).every(([, , , velocity]) => velocity === 30)).toBe(true);
    expect(merged.takes?.order).toHaveLength(2);
  });

  it('separated by any rule are together exactly the part, and layered again it', () => {
    const anyNotes = fc.array(
      fc
        .tuple(
          fc.integer({ min: 0, max: 30 }),
          fc.integer({ min: 1, max: 4 }),
          fc.integer({ min: 40, max: 80 }),
        )
        .map(([at, length, pitch]): PlainNote => [at * 120, (at + length) * 120, pitch, 80]),
      { minLength: 1, maxLength: 20 },
    );
    fc.assert(
      fc.property(anyNotes, fc.constantFrom('channel', 'pitch:60', 'drum', 'voice', 'hand'), (notes, by) => {
        const quay = studio([{ notes, extra: [pedal(0, 127), pedal(900, 0)] }]);
        const [part] = quay.parts;
        const whole = quay.cleaned(part);
        const labels = labelsOf(by, whole.notes, quay.timeline);
        const shares = separatedParts(part, by, labels, quay.newId, quay.numbers);
        const all = shares.map((share) => quay.cleaned(share, [part, ...shares]));
        expect(sorted(all.flatMap(({ notes: own }) => rowsOf(own)))).toEqual(sorted(rowsOf(whole.notes)));
        // The first holds the controllers.
        expect(all.map(({ events }) => events.length)).toEqual(
          shares.map((_, index) => (index === 0 ? whole.events.length : 0)),
        );
        const again = mergedPart(
          shares,
          { ...LAYERED, lead: shares[0].id },
          shares.map(() => 0),
          'again',
          quay.numbers,
        );
        const layered = quay.cleaned(again, [part, ...shares]);
        expect(sorted(rowsOf(layered.notes))).toEqual(sorted(rowsOf(whole.notes)));
        expect(layered.events.length).toBe(whole.events.length);
      }),
    );
  });
});
