import fc from 'fast-check';
import type { NoteTable } from '../model';
import { listOf, orderedOf, timelineOf, type Session } from '../session';
import { createStep, type Step } from '../steps';
import type { RawEvent } from '../testing/files';
import { note, opened, put, withSteps } from '../testing/quay';
import { beforeFold, foldSteps, unfoldSteps } from '.';

const heard = ({ id, start, end, pitch, velocity }: NoteTable) =>
  Array.from(id.keys(), (row) => [
    Math.round(start[row]),
    Math.round(end[row]),
    pitch[row],
    Math.round(velocity[row]),
  ])
    .map((each) => each.join(' '))
    .sort();

/** What a part sounds like before and after its first steps are made permanent, and after they are brought back. */
function foldedAt(tracks: RawEvent[], stepsFor: (ids: number[]) => Step[], count: number) {
  const { session, evaluator, byKey } = opened([tracks]);
  const [plain] = listOf(session.parts);
  const ids = [...evaluator.evaluate(plain, session, timelineOf(session)).stages[0].notes.id];
  const part = withSteps(plain, stepsFor(ids));
  const whole = put(session, part);
  const evaluation = evaluator.evaluate(part, whole, timelineOf(whole));
  const folded = foldSteps(part, whole, evaluation, count, 0);
  byKey.set(folded.take.key, folded.take);
  const after: Session = { ...put(whole, folded.part), nextPiece: whole.nextPiece + 1 };
  const back = beforeFold(folded.part);
  if (!back) throw new Error('nothing was folded');
  const unfolded = unfoldSteps(
    folded.part,
    evaluator.evaluate(back, put(after, back), timelineOf(after)),
    folded.take,
  );
  const last = <T>(list: readonly T[]) => list[list.length - 1];
  return {
    before: heard(last(evaluation.stages).notes),
    after: heard(last(evaluator.evaluate(folded.part, after, timelineOf(after)).stages).notes),
    take: folded.take,
    folded: heard(evaluation.stages[count].notes),
    part,
    unfolded,
  };
}

describe('making permanent', () => {
  it('keeps the lengths of notes of one pitch within one another', () => {
    const add = [
      { id: 2 ** 52, start: 960, end: 3000, pitch: 64, velocity: 80, channel: 1 },
      { id: 2 ** 52 + 1, start: 1200, end: 1500, pitch: 64, velocity: 80, channel: 1 },
    ];
    const { take, folded } = foldedAt(note(0, 480, 60), () => [createStep('edits', { add })], 1);
    expect(heard(take.notes)).toEqual(folded);
    expect(take.releases).toBeDefined();
  });

  it('leaves a hand edit speaking of the note it meant, also of two strokes on one tick', () => {
    const { before, after } = foldedAt(
      [...note(0, 90, 60, 100), ...note(100, 200, 60, 40)],
      ([loud, soft]) => [
        createStep('edits', { change: { [loud]: { end: 3000 } } }),
        createStep('quantize', { grid: '1/4', keepFlams: false }),
        createStep('edits', { delete: [soft] }),
      ],
      2,
    );
    expect(after).toEqual(before);
    expect(after).toHaveLength(1);
  });

  it('leaves hand edits of the copies of a layout where they are', () => {
    const blocks = [{ id: 'b', from: 0, to: 1, at: 0, times: 3, stretch: 1, held: 'ring' as const }];
    const layout = createStep('layout', { blocks });
    const { session, evaluator } = opened([note(0, 200, 60)]);
    const laid = withSteps(listOf(session.parts)[0], [createStep('velocity', { add: 1 }), layout]);
    const copies = evaluator.evaluate(laid, put(session, laid), timelineOf(session)).stages[2].notes.id;
    const edits = createStep('edits', { change: { [copies[2]]: { pitch: 72 } } });
    const { before, after, part, unfolded } = foldedAt(
      note(0, 200, 60),
      () => [createStep('velocity', { add: 1 }), layout, edits],
      1,
    );
    expect(after).toEqual(before);
    expect(after.some((line) => line.includes(' 72 '))).toBe(true);
    expect(unfolded).toEqual(part);
  });

  it('changes nothing that sounds, whatever strokes fall together, and can be taken back exactly', () => {
    // Few places and two pitches: double strikes, nested notes, and all of them on one tick once they are quantized.
    const anyNote = fc.tuple(
      fc.nat(20),
      fc.integer({ min: 1, max: 30 }),
      fc.nat(1),
      fc.integer({ min: 1, max: 127 }),
    );
    fc.assert(
      fc.property(
        fc.array(anyNote, { minLength: 1, maxLength: 10 }),
        fc.nat(9),
        fc.nat(9),
        (notes, one, other) => {
          const track = notes
            .flatMap(([at, length, pitch, velocity]) =>
              note(at * 30, at * 30 + length * 25, 60 + pitch, velocity),
            )
            .sort((a, b) => a[0] - b[0]);
          const { before, after, part, unfolded } = foldedAt(
            track,
            (ids) => [
              createStep('quantize', { grid: '1/8', keepFlams: false }),
              createStep('humanize', { velocity: 3, seed: 4 }),
              createStep('edits', {
                delete: [ids[one % ids.length]],
                change: { [ids[other % ids.length]]: { pitch: 71 } },
              }),
              createStep('velocity', { add: 3, where: { notes: [ids[other % ids.length]] } }),
            ],
            2,
          );
          expect(after).toEqual(before);
          expect(unfolded).toEqual(part);
        },
      ),
    );
  });
});

it('a part without steps made permanent is the take it was made of', () => {
  const { session, evaluator } = opened([note(0, 480, 60)]);
  const [part] = listOf(session.parts);
  const { take } = foldSteps(part, session, evaluator.evaluate(part, session, timelineOf(session)), 0, 0);
  expect(heard(take.notes)).toEqual(['0 480 60 90']);
  expect(orderedOf([part]).order).toHaveLength(1);
});
