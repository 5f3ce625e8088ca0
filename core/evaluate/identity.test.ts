import { noteTableOf } from '../model';
import { createEventBuilder, readMidi, writeMidi, type MidiFile } from '../midi';
import {
  addParts,
  insertItems,
  joinFile,
  layersOfOne,
  layerOf,
  listOf,
  orderedOf,
  sessionOfFile,
  type Part,
  type Session,
} from '../session';
import { applyStep, createStep } from '../steps';
import { mergeEdits, noEdits } from '../editing';
import { fileOfNotes } from '../testing/files';
import { createTimeline } from '../time';
import { createEvaluator } from '.';

/** A note is known by its piece and by its identity in the piece's source. */
let next = 0;
const newId = () => `id${next++}`;
const fileOf = (...notes: [number, number, number][]): MidiFile =>
  readMidi(
    writeMidi(
      fileOfNotes(
        notes.map(([start, end, pitch]): [number, number, number, number] => [start, end, pitch, 80]),
      ),
    ),
  ).file;

function setUp(file: MidiFile) {
  const made = sessionOfFile(file, 'Quay', newId, 0);
  const takes = new Map(made.takes.map((take) => [take.key, take]));
  const evaluator = createEvaluator((key) => {
    const take = takes.get(key);
    if (!take) throw new Error(`no take ${key}`);
    return take;
  });
  const join = (session: Session, other: MidiFile): Session => {
    const joined = joinFile(session, other, newId);
    for (const take of joined.takes) takes.set(take.key, take);
    const next = structuredClone(session);
    insertItems(next.takes, joined.references);
    addParts(next, joined.parts);
    return next;
  };
  const timeline = createTimeline(made.session.division, made.session.tempos, made.session.meters);
  const stagesOf = (part: Part, session: Session) =>
    evaluator.evaluate(part, session, timeline).stages.map(({ notes }) => notes);
  return { session: made.session, join, stagesOf };
}

describe('the identity of a note', () => {
  it('one take laid twice gives two notes: an edit of one leaves the other', () => {
    const { session, stagesOf } = setUp(fileOf([0, 100, 60]));
    const [part] = listOf(session.parts);
    const [piece] = listOf(listOf(part.layers)[0].pieces);
    const twice: Part = {
      ...part,
      layers: orderedOf([
        layerOf([
          { ...piece, to: 960 },
          { ...piece, id: 'again', number: 1, to: 960, at: 960 },
        ]),
      ]),
    };
    const withPart = (own: Part): Session => ({ ...session, parts: orderedOf([own]) });
    const [played] = stagesOf(twice, withPart(twice));
    expect(new Set(played.id).size).toBe(2);
    const step = createStep('edits', { change: { [played.id[0]]: { pitch: 72 } } });
    const edited = { ...twice, steps: orderedOf([{ id: 'e', step }]) };
    expect([...stagesOf(edited, withPart(edited))[1].pitch]).toEqual([72, 60]);
  });

  it('two parts of one file share no identity', () => {
    const { session, join, stagesOf } = setUp(fileOf([0, 100, 60]));
    const both = join(join(session, fileOf([0, 100, 70])), fileOf([0, 100, 70]));
    const ids = listOf(both.parts).flatMap((part) => [...stagesOf(part, both)[0].id]);
    expect(ids).toHaveLength(3);
    expect(new Set(ids).size).toBe(ids.length);
  });

  it('a file joined again after an undo shares no identity with what was joined meanwhile', () => {
    const { session, join, stagesOf } = setUp(fileOf([0, 100, 60]));
    const again = fileOf([0, 100, 70]);
    // Joined once, evaluated, and undone: the number it used is not given back.
    const first = join(session, again);
    const before = [...stagesOf(listOf(first.parts)[1], first)[0].id];
    const undone: Session = { ...session, nextPiece: first.nextPiece };
    const second = join(join(undone, fileOf([0, 100, 40], [200, 300, 41])), again);
    const ids = listOf(second.parts).flatMap((part) => [...stagesOf(part, second)[0].id]);
    expect(new Set([...ids, ...before]).size).toBe(ids.length + before.length);
  });

  it('stays what it was when the pieces around it change', () => {
    const { session, join, stagesOf } = setUp(fileOf([0, 100, 60], [960, 1000, 62]));
    const whole = join(session, fileOf([0, 100, 70]));
    const [part, other] = listOf(whole.parts);
    const [[piece], [inserted]] = [part, other].map((each) => listOf(listOf(each.layers)[0].pieces));
    const idOf = (layers: Part['layers'], pitch: number) => {
      const [notes] = stagesOf({ ...part, layers }, whole);
      return notes.id[notes.pitch.indexOf(pitch)];
    };
    const before = idOf(layersOfOne(piece), 62);
    const around = orderedOf([
      layerOf([
        { ...inserted, to: 480 },
        { ...piece, from: 480, at: 480 },
      ]),
    ]);
    expect(idOf(around, 62)).toBe(before);
  });

  it('of an added note without an id is the one it was seen under: it can be changed and deleted', () => {
    const timeline = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);
    const material = { notes: noteTableOf([]), events: createEventBuilder().build() };
    const context = { timeline, isDrums: false };
    const step = createStep('edits', {
      add: [0, 100, 200].map((start) => ({ start, end: start + 10, pitch: 60, velocity: 80, channel: 1 })),
    });
    const seen = [...applyStep(material, step, context).notes.id];
    const without = createStep('edits', mergeEdits(step, { ...noEdits(), delete: [seen[0]] }));
    const changed = mergeEdits(without, { ...noEdits(), change: { [seen[2]]: { pitch: 72 } } });
    const { notes } = applyStep(material, createStep('edits', changed), context);
    expect(Array.from(notes.start, (start, row) => [start, notes.pitch[row]])).toEqual([
      [100, 60],
      [200, 72],
    ]);
  });
});
