import { createEvaluator } from '../evaluate';
import { readMidi, writeMidi } from '../midi';
import type { Take } from '../model';
import {
  listOf,
  orderedOf,
  sessionOfFile,
  sessionSchema,
  timelineOf,
  type Part,
  type Session,
} from '../session';
import { createStep, keyOfColumns } from '../steps';
import { numbersOf } from '../takes';
import { fileOfNotes } from '../testing/files';
import { bringParts, mergedPart, type Elsewhere } from '.';

/** A session of a file of some strokes, at so many ticks a quarter; its takes go into `byKey`. */
function sessionAt(ticksPerQuarter: number, byKey: Map<string, Take>, name: string): Session {
  let next = 0;
  const strokes = Array.from({ length: 8 }, (_, beat): [number, number, number, number] => [
    beat * ticksPerQuarter + beat,
    (beat + 1) * ticksPerQuarter - 10,
    60 + beat,
    80,
  ]);
  const { file } = readMidi(writeMidi(fileOfNotes(strokes, ticksPerQuarter)));
  const made = sessionOfFile(file, name, () => `${name} ${next++}`, 0);
  for (const take of made.takes) byKey.set(take.key, take);
  return made.session;
}

const withSteps = (part: Part, steps: Part['steps']['byId'][string]['step'][]): Part => ({
  ...part,
  steps: orderedOf(steps.map((step, index) => ({ id: `step${index}`, step }))),
});

describe('parts of another session', () => {
  const byKey = new Map<string, Take>();
  const from = sessionAt(480, byKey, 'Tide');
  const to = sessionAt(960, byKey, 'Quay');
  const evaluator = createEvaluator((key) => byKey.get(key) as Take);
  const cleaned = (session: Session, part: Part) => {
    const { stages } = evaluator.evaluate(part, session, timelineOf(session));
    const { start, end, pitch, id } = stages[stages.length - 1].notes;
    return Array.from(start, (tick, row) => [id[row], tick, end[row], pitch[row]]);
  };
  const [plain] = listOf(from.parts);
  const firstNote = cleaned(from, plain)[0][0];
  const own = withSteps(plain, [
    createStep('quantize', { strength: 50 }),
    createStep('edits', {
      change: { [firstNote]: { start: 120 } },
      add: [{ id: 2 ** 52, start: 960, end: 1200, pitch: 50, velocity: 70, channel: 1 }],
    }),
    createStep('nudge', { ticks: 12 }),
  ]);
  const source: Session = { ...from, parts: orderedOf([own]) };
  const numbers = numbersOf(source);
  const merged = mergedPart(
    [own],
    {
      mode: 'layer',
      doubles: { keep: 'both', withinMs: 30 },
      lead: own.id,
      oneChannel: false,
      name: 'Both',
    },
    [0],
    'merged',
    numbers,
  );
  const whole: Session = { ...source, parts: orderedOf([own, merged]), nextPiece: numbers.next };
  let next = 0;
  const elsewhere = (session: Session): Elsewhere => ({
    idsOf(part) {
      const { stages } = evaluator.evaluate(part, session, timelineOf(session));
      return { played: stages[0].notes.id, cleaned: stages[stages.length - 1].notes.id };
    },
  });
  const brought = bringParts(whole, ['merged'], to, () => `new${next++}`, elsewhere(whole));
  const after: Session = {
    ...to,
    parts: orderedOf([...listOf(to.parts), ...brought.parts]),
    takes: orderedOf([...listOf(to.takes), ...brought.references]),
    nextPiece: brought.nextPiece,
    nextNoteId: brought.nextNoteId,
  };

  it('come with all they are made of, which is set aside, and make a document that holds', () => {
    expect(brought.parts.map(({ name, setAside }) => [name, setAside])).toEqual([
      [`${own.name} (Tide)`, true],
      ['Both', false],
    ]);
    expect(brought.sources).toBe(1);
    expect(() => sessionSchema.parse(structuredClone(after))).not.toThrow();
    expect(brought.references.map(({ id }) => byKey.has(id))).toEqual([true]);
  });

  it('sound beat by beat as they did there, hand edits and all, in the ticks of this one', () => {
    const there = cleaned(whole, own);
    const here = cleaned(after, brought.parts[0]);
    expect(here).toHaveLength(there.length);
    // Notes of the two sessions are never taken for each other.
    const ids = new Set(listOf(to.parts).flatMap((part) => cleaned(to, part).map(([id]) => id)));
    here.forEach(([id, start, end, pitch], row) => {
      expect(pitch).toEqual(there[row][3]);
      expect(ids.has(id)).toBe(false);
      expect(start).toBeCloseTo(2 * there[row][1], 6);
      expect(end).toBeCloseTo(2 * there[row][2], 6);
    });
    expect(cleaned(after, brought.parts[1]).map(([, start]) => start)).toEqual(
      here.map(([, start]) => start),
    );
  });

  it('keep their hand edits of what came through other parts, and of copies of a layout', () => {
    const through = cleaned(whole, merged)[2][0];
    const laid = withSteps(own, [
      createStep('layout', { blocks: [{ from: 0, to: 4, at: 0, times: 2 }] as never }),
    ]);
    const copies = cleaned({ ...whole, parts: orderedOf([laid]) }, laid);
    const copy = copies[copies.length - 1][0];
    const edited = [
      withSteps(merged, [createStep('edits', { change: { [through]: { pitch: 20 } } })]),
      withSteps(own, [
        listOf(laid.steps)[0].step,
        createStep('edits', { change: { [copy]: { pitch: 21 } } }),
      ]),
    ];
    for (const part of edited) {
      const session: Session = {
        ...whole,
        parts: orderedOf([part.id === own.id ? part : own, ...(part.id === own.id ? [] : [part])]),
      };
      const { parts } = bringParts(session, [part.id], to, () => `more${next++}`, elsewhere(session));
      const here: Session = { ...to, parts: orderedOf([...listOf(to.parts), ...parts]) };
      const pitches = (of: Session, one: Part) => cleaned(of, one).map(([, , , pitch]) => pitch);
      expect(pitches(here, parts[parts.length - 1])).toEqual(pitches(session, part));
      expect(pitches(session, part).some((pitch) => pitch < 22)).toBe(true);
    }
  });

  it('have their many hand edits in columns of their own', () => {
    const columns = {
      id: Float64Array.of(firstNote),
      fields: Uint8Array.of(3),
      start: Float64Array.of(120),
      end: Float64Array.of(240),
      pitch: Uint8Array.of(0),
      velocity: Float64Array.of(0),
      channel: Uint8Array.of(0),
    };
    const table = { key: keyOfColumns(columns), ...columns };
    const tableOf = (key: string) => (key === table.key ? table : undefined);
    const many = createEvaluator((key) => byKey.get(key) as Take, tableOf);
    const edited: Session = {
      ...from,
      parts: orderedOf([
        withSteps(plain, [createStep('edits', { table: { key: table.key, changed: 1, deleted: 0 } })]),
      ]),
    };
    const { parts } = bringParts(edited, [plain.id], to, () => 'x', { ...elsewhere(edited), table: tableOf });
    const here: Session = { ...to, parts: orderedOf(parts) };
    const first = many.evaluate(parts[0], here, timelineOf(here)).stages[1].notes;
    expect([first.start[0], first.end[0]]).toEqual([240, 480]);
  });
});
