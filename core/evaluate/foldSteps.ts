import { OrdleError } from '../errors';
import { pairNotes } from '../midi';
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
import { kindOf, renamedLine, type NewIds } from '../steps';
import { partsBeside, type Evaluation } from './evaluatePart';
import { wholeTick } from './eventPlaces';
import { weaveTracked } from './weave';

/** The first steps of a part made permanent: a new take that holds their result, and the part that stands on it. */
export interface FoldedPart {
  take: Take;
  reference: TakeReference;
  part: Part;
}

/**
 * Makes the first `count` steps of a part permanent. Their result, in whole ticks, becomes a take; what the part was
 * made of and the steps themselves are kept with it. Later steps stay, and go on speaking of the same notes. `now` is
 * in milliseconds since 1970. Throws OrdleError `pedal-in-use` where they take a pedal out by which another part is
 * held: for good it would be gone there too.
 */
export function foldSteps(
  part: Part,
  session: Session,
  evaluation: Evaluation,
  count: number,
  now: number,
  stores: EditStores = {},
): FoldedPart {
  const held = heldByPedalOf(part, count, session);
  if (held)
    throw new OrdleError(
      'pedal-in-use',
      `“${held.name}” is held by the pedal that these steps take out of “${part.name}”. Make the steps of “${held.name}” permanent first.`,
    );
  const material = evaluation.stages[count];
  const { take, rowOf } = takeOfMaterial(part, session, evaluation, material);
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
  const first = firstIdOfPiece(number);
  const ids = new Map(Array.from(material.notes.id, (id, row) => [id, first + rowOf[row]] as const));
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
      steps: orderedOf(renamed(steps.slice(count), ids, stores)),
      folded: [
        ...part.folded,
        { at: now, take: take.key, layers, doubles, seams, steps: orderedOf(steps.slice(0, count)) },
      ],
    },
  };
}

/** Where hand edits of many notes are found, and where new ones are kept. */
export type EditStores = Pick<NewIds, 'table' | 'named'>;

function renamed(
  steps: readonly PlacedStep[],
  ids: ReadonlyMap<number, number>,
  stores: EditStores,
): PlacedStep[] {
  // Ids the map does not know (notes the steps add) stay.
  return renamedLine(steps, { ...stores, of: (id) => ids.get(id) ?? id }, () => ids.keys()).line;
}

/**
 * Takes the last making permanent back: the part stands on what it was made of before, with the steps that were
 * folded and then those added since. `evaluation` is of the part as it was before (`beforeFold`), `fold` the take its
 * steps became.
 */
export function unfoldSteps(part: Part, evaluation: Evaluation, fold: Take, stores: EditStores = {}): Part {
  const before = beforeFold(part);
  if (!before) return part;
  const pieces = listOf(part.layers).flatMap((layer) => listOf(layer.pieces));
  const piece = pieces.find(({ source }) => 'take' in source && source.take === fold.key);
  const first = piece ? firstIdOfPiece(piece.number) : 0;
  const material = evaluation.stages[before.steps.order.length];
  // The same steps give the same take; where they no longer do (a part they listened to is another), notes are known
  // by where they were written.
  const { rowOf } = rowsWritten(evaluation, material);
  const rows = rowOf.length === fold.notes.length ? rowOf : rowsByPlace(material.notes, fold.notes);
  const back = new Map<number, number>();
  material.notes.id.forEach((id, row) => {
    if (rows[row] >= 0) back.set(first + rows[row], id);
  });
  return {
    ...before,
    steps: orderedOf([...listOf(before.steps), ...renamed(listOf(part.steps), back, stores)]),
  };
}

/** The part as it was when its steps were last made permanent; null when they never were. */
export function beforeFold(part: Part): Part | null {
  const last = part.folded.at(-1);
  if (!last) return null;
  const { layers, doubles, seams, steps } = last;
  return { ...part, layers, doubles, seams, steps, folded: part.folded.slice(0, -1) };
}

/**
 * Material as events in whole ticks, with the release of each note in order of the strokes, and the row each note has
 * in that order.
 */
function rowsWritten({ assembly }: Evaluation, material: Material) {
  const { events, rows } = weaveTracked({ assembly, material, firstOrder: 0 });
  const inOrder = Array.from(rows.on.keys()).sort((a, b) => rows.on[a] - rows.on[b]);
  const rowOf = new Int32Array(rows.on.length);
  inOrder.forEach((note, row) => (rowOf[note] = row));
  return { events, rowOf, releases: Uint32Array.from(inOrder, (note) => rows.off[note]) };
}

/** Material as a take, and the row there of each of its notes. */
function takeOfMaterial(
  part: Part,
  session: Session,
  evaluation: Evaluation,
  material: Material,
): { take: Take; rowOf: Int32Array } {
  const { events, rowOf, releases } = rowsWritten(evaluation, material);
  const last = events.length === 0 ? 0 : events.tick[events.length - 1];
  const { off } = pairNotes(events);
  // A note within another of its pitch would be given the other's end.
  const isPlain = releases.every((release, row) => release === off[row]);
  const content = {
    name: part.name,
    division: session.division,
    tempos: session.tempos,
    meters: session.meters,
    events,
    endTick: Math.max(last, Math.round(evaluation.assembly.endTick)),
    ...(!isPlain && { releases }),
  };
  return { take: restoreTake({ key: contentKey(content), ...content }), rowOf };
}

/**
 * For every note of a table its row among others: by whole start, pitch and channel, in their order; -1 where there
 * is none.
 */
function rowsByPlace(notes: NoteTable, written: NoteTable): Int32Array {
  const places = new Map<string, number[]>();
  const keyOf = (table: NoteTable, row: number) =>
    `${wholeTick(table.start[row])} ${table.pitch[row]} ${table.channel[row]}`;
  for (let row = written.length - 1; row >= 0; row--) {
    const key = keyOf(written, row);
    const list = places.get(key);
    if (list) list.push(row);
    else places.set(key, [row]);
  }
  return Int32Array.from(notes.id.keys(), (row) => places.get(keyOf(notes, row))?.pop() ?? -1);
}

/** Another part that reads presses which the first steps of a part take out. */
function heldByPedalOf(part: Part, count: number, session: Session): Part | undefined {
  const takesOut = listOf(part.steps)
    .slice(0, count)
    .some(({ step }) => step.on && kindOf(step.kind).takesPressesOut?.(step));
  const isHeld = ({ steps }: Part) =>
    listOf(steps).some(({ step }) => step.on && kindOf(step.kind).readsChannel?.(step).includes('presses'));
  return takesOut ? partsBeside(part, session).find(isHeld) : undefined;
}
