import { contentKey, firstIdOfPiece, restoreTake, type Material, type NoteTable, type Take } from '../model';
import {
  itemOf,
  layersOfOne,
  listOf,
  orderedOf,
  PLAIN_DOUBLES,
  PLAIN_SEAMS,
  type Part,
  type Piece,
  type PlacedStep,
  type Session,
  type TakeReference,
} from '../session';
import { inlineEdits, type Step, type StepContext } from '../steps';
import { mergeEdits, noEdits } from '../editing';
import type { Evaluation } from './evaluatePart';
import { weave } from './weave';

/** The first steps of a part made permanent: a new take that holds their result, and the part that stands on it. */
export interface FoldedPart {
  take: Take;
  reference: TakeReference;
  part: Part;
}

/**
 * Makes the first `count` steps of a part permanent. Their result, in whole ticks, becomes a take; what the part was made of and the
 * steps themselves are kept with it. Later steps stay, and go on speaking of the same notes. `now` is in milliseconds since 1970.
 */
export function foldSteps(
  part: Part,
  session: Session,
  evaluation: Evaluation,
  count: number,
  now: number,
  tableOf?: StepContext['editTable'],
): FoldedPart {
  const material = evaluation.stages[count];
  const take = takeOfMaterial(part, session, evaluation, material);
  const reference = itemOf(session.takes, take.key) ?? {
    id: take.key,
    name: take.name,
    noteCount: take.notes.length,
  };
  const number = session.nextPiece;
  const piece: Piece = {
    id: `piece${number}`,
    number,
    source: { take: take.key },
    from: 0,
    to: null,
    at: 0,
    rest: 'all',
  };
  const ids = idsAfter(material.notes, take.notes, firstIdOfPiece(number));
  const steps = listOf(part.steps);
  const { layers, doubles, seams } = part;
  return {
    take,
    reference,
    part: {
      ...part,
      layers: layersOfOne(piece),
      doubles: PLAIN_DOUBLES,
      seams: PLAIN_SEAMS,
      steps: orderedOf(withIds(steps.slice(count), ids, tableOf)),
      folded: [
        ...part.folded,
        { at: now, take: take.key, layers, doubles, seams, steps: orderedOf(steps.slice(0, count)) },
      ],
    },
  };
}

/**
 * Takes the last making permanent back: the part stands on what it was made of before, with the steps that were folded and then those
 * added since. `evaluation` is of the part as it was before (`beforeFold`).
 */
export function unfoldSteps(
  part: Part,
  evaluation: Evaluation,
  fold: Take,
  tableOf?: StepContext['editTable'],
): Part {
  const before = beforeFold(part);
  if (!before) return part;
  const pieces = listOf(part.layers).flatMap((layer) => listOf(layer.pieces));
  const piece = pieces.find(({ source }) => 'take' in source && source.take === fold.key);
  const first = piece ? firstIdOfPiece(piece.number) : 0;
  const { notes } = evaluation.stages[before.steps.order.length];
  const back = new Map([...idsAfter(notes, fold.notes, first)].map(([was, is]) => [is, was]));
  return {
    ...before,
    steps: orderedOf([...listOf(before.steps), ...withIds(listOf(part.steps), back, tableOf)]),
  };
}

/** The part as it was when its steps were last made permanent; null when they never were. */
export function beforeFold(part: Part): Part | null {
  const last = part.folded.at(-1);
  if (!last) return null;
  const { layers, doubles, seams, steps } = last;
  return { ...part, layers, doubles, seams, steps, folded: part.folded.slice(0, -1) };
}

function takeOfMaterial(part: Part, session: Session, { assembly }: Evaluation, material: Material): Take {
  const events = weave([{ assembly, material, firstOrder: 0 }]);
  const last = events.length === 0 ? 0 : events.tick[events.length - 1];
  const content = {
    name: part.name,
    division: session.division,
    tempos: session.tempos,
    meters: session.meters,
    events,
    endTick: Math.max(last, Math.round(assembly.endTick)),
  };
  return restoreTake({ key: contentKey(content), ...content });
}

/** For every note of a table its id in a take it was written to: by whole start, pitch and channel, in their order. */
function idsAfter(notes: NoteTable, written: NoteTable, firstNoteId: number): Map<number, number> {
  const places = new Map<string, number[]>();
  const keyOf = (table: NoteTable, row: number) =>
    `${Math.max(0, Math.round(table.start[row]))} ${table.pitch[row]} ${table.channel[row]}`;
  for (let row = written.length - 1; row >= 0; row--) {
    const key = keyOf(written, row);
    const list = places.get(key);
    if (list) list.push(written.id[row]);
    else places.set(key, [written.id[row]]);
  }
  const ids = new Map<number, number>();
  for (let row = 0; row < notes.length; row++) {
    const id = places.get(keyOf(notes, row))?.pop();
    if (id !== undefined) ids.set(notes.id[row], firstNoteId + id);
  }
  return ids;
}

/** Steps that speak of notes by id, speaking of them by other ids. Ids the map does not know (notes the steps add) stay. */
function withIds(
  steps: readonly PlacedStep[],
  ids: ReadonlyMap<number, number>,
  tableOf: StepContext['editTable'],
): PlacedStep[] {
  const idOf = (id: number) => ids.get(id) ?? id;
  return steps.map(({ id, step }) => {
    let next: Step = step;
    if (step.where.notes) next = { ...next, where: { ...step.where, notes: step.where.notes.map(idOf) } };
    if (next.kind === 'edits') {
      const { table: reference, ...own } = next;
      const table = reference && tableOf?.(reference.key);
      const all = table ? mergeEdits({ ...noEdits(), ...inlineEdits(table) }, own) : own;
      next = {
        ...own,
        change: Object.fromEntries(
          Object.entries(all.change).map(([note, change]) => [String(idOf(Number(note))), change]),
        ),
        delete: all.delete.map(idOf),
      };
    }
    return { id, step: next };
  });
}
