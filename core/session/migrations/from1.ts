import { FIRST_DRAWN_ID, firstIdOfPiece, unnamedId } from '../../model';
import { orderedOf } from '../ordered';
import type { Layer, Piece } from '../session';
import { readDocument1, type Document1, type PlacedStep1, type Segment1 } from './version1';

/** In version 1 an added note without an id had the last 32-bit number, less its place; nothing else came near it. */
const LAST_ID_1 = 0xffffffff;
const FIRST_UNNAMED_1 = 0xff000000;

/**
 * Version 1 -> 2. Segments become pieces with numbers of their own, in the order in which they stand; hand edits and
 * selected notes go on speaking of the notes they spoke of. A take laid twice in a part was one note in both places
 * then, so what was said of it is now said of both. The same document always becomes the same, so that patches of
 * version 2 go on fitting it.
 */
export function from1(stored: unknown): unknown {
  const document = readDocument1(stored);
  let number = 0;
  const numbered = (layers: readonly (readonly Segment1[])[]) =>
    layers.map((segments) => segments.map((segment) => pieceOf(segment, document, number++)));
  const parts = document.parts.map((part) => {
    const laid = numbered(part.layers);
    const { id, name, ink, channel, sound, rechannel = false, muted, soloed } = part;
    return {
      ...{ id, name, ink, channel, sound, rechannel, muted, soloed },
      // What a part was locked to was never read in version 1, under whatever name it was stored.
      lockedTo: 'beats',
      ...madeOf(laid),
      steps: orderedOf(migratedSteps(part.steps, laid.flat(), document)),
      folded: part.folded.map((fold) => {
        const before = numbered(fold.layers);
        return {
          ...fold,
          ...madeOf(before),
          steps: orderedOf(migratedSteps(fold.steps, before.flat(), document)),
        };
      }),
      setAside: false,
    };
  });
  return {
    ...document,
    version: 2,
    takes: orderedOf(document.takes.map(({ key, name, noteCount }) => ({ id: key, name, noteCount }))),
    parts: orderedOf(parts),
    nextPiece: number,
    nextNoteId: FIRST_DRAWN_ID + document.nextNoteId,
  };
}

function pieceOf(
  { take, channel, from, to, at, rest }: Segment1,
  { takes }: Document1,
  number: number,
): Piece {
  const formerFirst = takes.find(({ key }) => key === take)?.firstNoteId ?? 0;
  const split = channel === null ? {} : { split: { by: 'channel', label: `ch${channel}` } };
  return { id: `piece${number}`, number, source: { take }, ...split, from, to, at, rest, formerFirst };
}

/** Layers of pieces, and how they met: version 1 laid everything to the tick and handed nothing over. */
function madeOf(layers: readonly Piece[][]) {
  const whole = layers.flat().every(({ from, to, at }) => from === 0 && to === null && at === 0);
  return {
    layers: orderedOf(
      layers.map((pieces, index): Layer => ({
        id: `layer${index}`,
        name: `Layer ${index + 1}`,
        pieces: orderedOf(pieces),
      })),
    ),
    doubles: { keep: 'both', withinMs: 30 },
    seams: { held: 'ring', by: whole ? 'music' : 'tick' },
  };
}

/** The steps, speaking of notes by their new ids. */
function migratedSteps(
  steps: readonly PlacedStep1[],
  pieces: readonly Piece[],
  { takes }: Document1,
): PlacedStep1[] {
  const idsOf = (id: number): number[] => {
    if (id >= FIRST_UNNAMED_1) return [unnamedId(LAST_ID_1 - id)];
    const take = takes.find(
      ({ firstNoteId, noteCount }) => id >= firstNoteId && id < firstNoteId + noteCount,
    );
    const laid = pieces.filter(({ source }) => take && 'take' in source && source.take === take.key);
    if (!take || laid.length === 0) return [FIRST_DRAWN_ID + id];
    return laid.map((piece) => firstIdOfPiece(piece.number) + id - take.firstNoteId);
  };
  return withOwnIds(steps).map(({ id, step }) => ({ id, step: migratedStep(step, idsOf) }));
}

function migratedStep(step: PlacedStep1['step'], idsOf: (id: number) => number[]): PlacedStep1['step'] {
  const lists = (value: unknown) => (Array.isArray(value) ? value.flatMap((id) => idsOf(Number(id))) : value);
  const next = { ...step };
  if (isRecord(step.where) && 'notes' in step.where)
    next.where = { ...step.where, notes: lists(step.where.notes) };
  if (step.kind !== 'edits') return next;
  if ('delete' in step) next.delete = lists(step.delete);
  if (isRecord(step.change)) {
    next.change = Object.fromEntries(
      Object.entries(step.change).flatMap(([id, change]) =>
        idsOf(Number(id)).map((now) => [String(now), change]),
      ),
    );
  }
  if (Array.isArray(step.add)) {
    next.add = step.add.map((note: unknown) =>
      isRecord(note) && typeof note.id === 'number' ? { ...note, id: addedId(note.id) } : note,
    );
  }
  return next;
}

const addedId = (id: number): number =>
  id >= FIRST_UNNAMED_1 ? unnamedId(LAST_ID_1 - id) : FIRST_DRAWN_ID + id;

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Steps under ids that are each used once: they are found by them now. */
function withOwnIds(steps: readonly PlacedStep1[]): PlacedStep1[] {
  const known = new Set<string>();
  return steps.map((placed) => {
    let id = placed.id;
    for (let count = 2; known.has(id); count++) id = `${placed.id}-${count}`;
    known.add(id);
    return { ...placed, id };
  });
}
