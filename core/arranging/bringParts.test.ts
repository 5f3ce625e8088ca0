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
import { createStep } from '../steps';
import { numbersOf } from '../takes';
import { fileOfNotes } from '../testing/files';
import { bringParts, mergedPart, scaledColumns } from '.';

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
  const brought = bringParts(whole, ['merged'], to, () => `new${next++}`);
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
    here.forEach(([id, start, end, pitch], row) => {
      expect([id, pitch]).toEqual([there[row][0], there[row][3]]);
      expect(start).toBeCloseTo(2 * there[row][1], 6);
      expect(end).toBeCloseTo(2 * there[row][2], 6);
    });
    expect(cleaned(after, brought.parts[1]).map(([, start]) => start)).toEqual(
      here.map(([, start]) => start),
    );
  });

  it('have their many hand edits under names of their own where the ticks differ', () => {
    const table = createStep('edits', { table: { key: 'old', changed: 1, deleted: 0 } });
    const edited: Session = { ...from, parts: orderedOf([withSteps(plain, [table])]) };
    const { parts } = bringParts(edited, [plain.id], to, () => 'x', new Map([['old', 'new']]));
    expect(listOf(parts[0].steps)[0].step).toMatchObject({ table: { key: 'new' } });
    const columns = scaledColumns(
      {
        id: Float64Array.of(1),
        fields: Uint8Array.of(3),
        start: Float64Array.of(10),
        end: Float64Array.of(20),
        pitch: Uint8Array.of(60),
        velocity: Float64Array.of(1),
        channel: Uint8Array.of(1),
      },
      2,
    );
    expect([columns.start[0], columns.end[0], columns.pitch[0]]).toEqual([20, 40, 60]);
  });
});
