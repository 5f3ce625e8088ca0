import fc from 'fast-check';
import { readMidi, writeMidi, type MidiFile } from '../midi';
import type { Take } from '../model';
import {
  orderedOf,
  listOf,
  sessionOfFile,
  sessionSchema,
  type Part,
  type PlacedStep,
  type Session,
} from '../session';
import { createStep, type Step } from '../steps';
import { eventLines, fileOfNotes } from '../testing/files';
import { createTimeline } from '../time';
import { takesIn, beforeFold, createEvaluator, exportSession, foldSteps, unfoldSteps } from '.';

/** A file as a session of one part, with ways to evaluate, fold and export it. */
function bench(file: MidiFile) {
  let next = 0;
  const opened = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  const takes = new Map(opened.takes.map((take) => [take.key, take]));
  const takeOf = (key: string): Take => {
    const take = takes.get(key);
    if (!take) throw new Error(`no take ${key}`);
    return take;
  };
  const evaluator = createEvaluator(takeOf);
  const evaluated = (part: Part, session: Session) =>
    evaluator.evaluate(part, session, createTimeline(session.division, session.tempos, session.meters));
  const withPart = (session: Session, part: Part): Session => ({ ...session, parts: orderedOf([part]) });
  return {
    session: opened.session,
    part: (steps: Step[]): Part => ({
      ...listOf(opened.session.parts)[0],
      steps: orderedOf(steps.map(placed)),
    }),
    evaluated,
    fold(session: Session, part: Part, count: number) {
      const folded = foldSteps(
        part,
        withPart(session, part),
        evaluated(part, withPart(session, part)),
        count,
        7,
      );
      takes.set(folded.take.key, folded.take);
      const after: Session = {
        ...session,
        takes: orderedOf([
          ...listOf(session.takes).filter(({ id }) => id !== folded.reference.id),
          folded.reference,
        ]),
        nextPiece: session.nextPiece + 1,
        parts: orderedOf([folded.part]),
      };
      expect(sessionSchema.parse(after)).toEqual(after);
      return { session: after, part: folded.part };
    },
    unfold(session: Session, part: Part): Part {
      const before = beforeFold(part);
      if (!before) throw new Error('nothing folded');
      const fold = takeOf(part.folded.at(-1)?.take ?? '');
      return unfoldSteps(part, evaluated(before, withPart(session, before)), fold);
    },
    lines(session: Session, part: Part): string[] {
      const whole = withPart(session, part);
      const file = exportSession(
        whole,
        { format: 1, version: 'cleaned', parts: [part.id] },
        evaluator,
        takeOf,
      );
      return readMidi(writeMidi(file)).file.tracks.flatMap(({ events }) => eventLines(events));
    },
  };
}

const placed = (step: Step, index: number): PlacedStep => ({ id: `s${index}`, step });

const FILE = fileOfNotes([[10, 200, 60, 80], [250, 400, 62, 70], [250, 300, 65, 71], [470, 600, 64, 60]], 480, [
  [0, 0xc0, 12], [40, 0xb0, 64, 127], [300, 0xb0, 64, 0],
]); // prettier-ignore

describe('making steps permanent', () => {
  const quantize = createStep('quantize', { strength: 90 });
  const louder = createStep('velocity', { add: 11.4 });
  const nudge = createStep('nudge', { ticks: 5 });

  it('gives a take that sounds just as the steps did, and keeps what was there', () => {
    const { session, part, fold, lines } = bench(FILE);
    const before = part([quantize, louder]);
    const { session: after, part: folded } = fold(session, before, 2);
    expect(folded.steps.order).toEqual([]);
    expect(lines(after, folded).sort()).toEqual(lines(session, before).sort());
    const { layers, steps, doubles, seams } = before;
    expect(folded.folded).toEqual([{ at: 7, take: takesIn(folded)[0], layers, steps, doubles, seams }]);
    expect(after.takes.order).toHaveLength(2);
  });

  it('later steps and hand edits go on speaking of the same notes, there and back', () => {
    const { session, part, fold, unfold, lines, evaluated } = bench(FILE);
    const ids = evaluated(part([]), session).stages[0].notes.id;
    const edits = createStep('edits', { change: { [ids[1]]: { pitch: 77 } }, delete: [ids[3]] });
    const some = createStep('velocity', { set: 99, where: { notes: [ids[2]] } });
    const before = part([quantize, edits, some, nudge]);
    const { session: after, part: folded } = fold(session, before, 1);
    expect(listOf(folded.steps).map(({ id }) => id)).toEqual(['s1', 's2', 's3']);
    expect(lines(after, folded).sort()).toEqual(lines(session, before).sort());
    const back = unfold(after, folded);
    expect(back).toEqual(before);
  });

  it('folds again and again, each time back to the one before', () => {
    const { session, part, fold, unfold } = bench(FILE);
    const first = fold(session, part([quantize]), 1);
    const again = { ...first.part, steps: orderedOf([placed(louder, 5)]) };
    const second = fold(first.session, again, 1);
    expect(second.part.folded).toHaveLength(2);
    const back = unfold(second.session, second.part);
    expect(back.folded).toEqual(first.part.folded);
    expect(listOf(back.steps)).toEqual([placed(louder, 5)]);
    expect(listOf(unfold(second.session, back).steps).map(({ step }) => step.kind)).toEqual([
      'quantize',
      'velocity',
    ]);
  });

  it('holds for any notes: the result stays, and bringing back is exact', () => {
    const note = fc.tuple(
      fc.nat(4000),
      fc.integer({ min: 1, max: 500 }),
      fc.integer({ min: 40, max: 80 }),
      fc.integer({ min: 1, max: 127 }),
    );
    fc.assert(
      fc.property(
        fc.uniqueArray(note, {
          minLength: 1,
          maxLength: 20,
          selector: ([start, , pitch]) => `${start >> 9} ${pitch}`,
        }),
        (notes) => {
          const { session, part, fold, unfold, lines, evaluated } = bench(
            fileOfNotes(
              notes.map(([start, length, pitch, velocity]) => [
                start,
                start + Math.min(length, 400),
                pitch,
                velocity,
              ]),
            ),
          );
          const selected = Array.from(evaluated(part([]), session).stages[0].notes.id).filter(
            (_, row) => row % 2 === 0,
          );
          const before = part([
            nudge,
            louder,
            createStep('transpose', { semitones: 12, where: { notes: selected } }),
          ]);
          const { session: after, part: folded } = fold(session, before, 2);
          expect(lines(after, folded).sort()).toEqual(lines(session, before).sort());
          expect(unfold(after, folded)).toEqual(before);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('a part without notes can be made permanent too', () => {
    const { session, part, fold } = bench(fileOfNotes([], 480, [[0, 0xc0, 3], [10, 0xb0, 7, 99]])); // prettier-ignore
    const { part: folded } = fold(session, part([quantize]), 1);
    expect(folded.steps.order).toEqual([]);
    expect(beforeFold(part([]))).toBeNull();
  });
});
