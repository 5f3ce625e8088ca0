import { FIRST_DRAWN_ID, firstIdOfPiece, isDrawnId, mixIds, pieceAndRow } from '../model';
import {
  itemOf,
  listOf,
  movedPart,
  namedBy,
  timelineOf,
  withSources,
  type Part,
  type Piece,
  type Session,
  type TakeReference,
} from '../session';
import { keptInTime, kindOf, renamedLine, scaled, type NewIds, type Placing, type Step } from '../steps';
import { sourcesLocked } from '../tempo';

/** What parts of another session bring: to be put into this one. */
export interface BroughtParts {
  parts: Part[];
  references: TakeReference[];
  /** Least values for the counters of the session, so that nothing made later is taken for what came along. */
  nextPiece: number;
  nextNoteId: number;
  /** How many parts came along since others are made of them; they are set aside. */
  sources: number;
}

/**
 * What bringing may ask of the session that parts come from. Without it hand edits of what came through other parts
 * find their notes no more.
 */
export interface Elsewhere extends Pick<NewIds, 'table' | 'named'> {
  /** The ids of a part's notes before any step, and after all of them. */
  idsOf(part: Part): { played: Float64Array; cleaned: Float64Array };
}

/** How many ticks of a session are one of another. */
export const tickScale = (from: Session, to: Session): number =>
  timelineOf(to).ticksPerQuarter / timelineOf(from).ticksPerQuarter;

/**
 * What a part of one session says of places, said in another: it lies by its beats, or where it is locked to seconds,
 * at its moments.
 */
export function placingBetween(from: Session, to: Session, lockedTo: Part['lockedTo']): Placing {
  const { ticksPerQuarter } = timelineOf(from);
  return lockedTo === 'seconds'
    ? keptInTime(timelineOf(from), timelineOf(to))
    : scaled(tickScale(from, to), ticksPerQuarter);
}

/**
 * Parts of another session with their takes, steps and all they are made of. They lie by their beats (those locked to
 * seconds, and what those are made of, by their seconds). Pieces and drawn notes get numbers of their own here, and
 * everything that speaks of their notes goes along.
 */
export function bringParts(
  whole: Session,
  ids: readonly string[],
  to: Session,
  newId: () => string,
  elsewhere?: Elsewhere,
): BroughtParts {
  const from = sourcesLocked(whole, timelineOf(whole));
  const all = withSources(from, ids, true);
  const newIds = new Map(all.map(({ id }): [string, string] => [id, newId()]));
  const taken = new Set(listOf(to.parts).map(({ name }) => name));
  const renaming = createRenaming(from, all, to, elsewhere);
  const parts = all.map((part) => {
    const made = translated(part, { from, to, newIds, renaming });
    const isSource = !ids.includes(part.id);
    const name = taken.has(part.name) ? `${part.name} (${from.name})`.slice(0, 200) : part.name;
    // Recorded together over there it is so here, and not with what is here.
    const recording = [whole.id, part.recording].filter(Boolean).join(' ').slice(0, 500);
    return { ...made, name, recording, setAside: isSource || part.setAside, soloed: false };
  });
  const keys = new Set(all.flatMap((part) => [...namedBy(part, true).takes, ...namedBy(part, true).scores]));
  return {
    parts,
    references: listOf(from.takes).filter(({ id }) => keys.has(id) && !Object.hasOwn(to.takes.byId, id)),
    nextPiece: renaming.next(),
    nextNoteId: to.nextNoteId + from.nextNoteId - FIRST_DRAWN_ID,
    sources: all.length - all.filter(({ id }) => ids.includes(id)).length,
  };
}

/** The pieces of a part, also those from before steps were made permanent. */
const piecesOf = (part: Part): Piece[] =>
  [part, ...part.folded].flatMap(({ layers }) => listOf(layers).flatMap(({ pieces }) => [...listOf(pieces)]));

interface Renaming {
  number(former: number): number;
  /** A number nothing has yet. */
  next(): number;
  /** The ids a part's notes have now, before its steps. */
  idsOf(part: Part): NewIds;
  known(part: Part): Iterable<number>;
}

/**
 * New numbers for the pieces of some parts, and so new ids for their notes, also for what comes through other parts.
 */
function createRenaming(
  from: Session,
  parts: readonly Part[],
  to: Session,
  elsewhere: Elsewhere | undefined,
): Renaming {
  const numbers = new Map<number, number>();
  for (const part of parts)
    for (const { number } of [...piecesOf(part), ...listOf(part.takes ?? { order: [], byId: {} })])
      if (!numbers.has(number)) numbers.set(number, to.nextPiece + numbers.size);
  const drawnLater = to.nextNoteId - FIRST_DRAWN_ID;
  const direct = (id: number): number => {
    const place = pieceAndRow(id);
    const number = place && numbers.get(place.piece);
    if (place && number !== null && number !== undefined) return firstIdOfPiece(number) + place.row;
    return isDrawnId(id) ? id + drawnLater : id;
  };
  const stores = {
    ...(elsewhere?.table && { table: elsewhere.table }),
    ...(elsewhere?.named && { named: elsewhere.named }),
  };
  const known = new Map<string, NewIds>();
  const played = (part: Part): Iterable<number> => elsewhere?.idsOf(part).played ?? [];
  function idsOf(part: Part): NewIds {
    const there = known.get(part.id);
    if (there) return there;
    const made: NewIds = { ...stores, of: direct };
    known.set(part.id, made);
    const mixed = elsewhere ? mixedIds(part, elsewhere) : new Map<number, number>();
    if (mixed.size > 0) made.of = (id) => mixed.get(id) ?? direct(id);
    return made;
  }
  /**
   * What comes through a piece of another part is known by a mix of the piece's number and its id there: both are
   * others now.
   */
  function mixedIds(part: Part, { idsOf: idsThere }: Elsewhere): Map<number, number> {
    const mixed = new Map<number, number>();
    for (const { source, number } of piecesOf(part)) {
      const other = 'part' in source ? itemOf(from.parts, source.part) : undefined;
      if (!other) continue;
      const cleaned = afterSteps(other);
      const [was, is] = [new Set<number>(), new Set<number>()];
      for (const id of idsThere(other).cleaned) {
        const [former, now] = [
          mixIds(number, id, was),
          mixIds(numbers.get(number) ?? number, cleaned(id), is),
        ];
        was.add(former);
        is.add(now);
        mixed.set(former, now);
      }
    }
    return mixed;
  }
  const afterSteps = (part: Part): ((id: number) => number) =>
    renamedLine(listOf(part.steps), idsOf(part), () => played(part)).ids.of;
  let last = to.nextPiece + numbers.size;
  return {
    number: (former) => numbers.get(former) ?? former,
    next: () => last++,
    idsOf,
    known: played,
  };
}

interface Translation {
  from: Session;
  to: Session;
  newIds: ReadonlyMap<string, string>;
  renaming: Renaming;
}

function translated(part: Part, { from, to, newIds, renaming }: Translation): Part {
  // Seconds are the same length in every session.
  const scale = part.lockedTo === 'seconds' ? 1 : tickScale(from, to);
  const until = (tick: number | null) => (tick === null ? null : tick * scale);
  const source = <S extends Pick<Piece, 'source'>>(item: S): S =>
    'part' in item.source
      ? { ...item, source: { part: newIds.get(item.source.part) ?? item.source.part } }
      : item;
  const moved = movedPart(part, {
    piece: (piece) => [
      source({
        ...piece,
        id: `piece${renaming.next()}`,
        number: renaming.number(piece.number),
        from: piece.from * scale,
        to: until(piece.to),
        at: piece.at * scale,
        // What chance gives a note goes by what it was known by.
        ...('take' in piece.source && {
          formerFirst: piece.formerFirst ?? firstIdOfPiece(piece.number),
        }),
      }),
    ],
    take: (take) =>
      source({
        ...take,
        number: renaming.number(take.number),
        from: take.from * scale,
        to: until(take.to),
        slide: take.slide * scale,
      }),
    placing: placingBetween(from, to, part.lockedTo),
    ids: { new: renaming.idsOf(part), known: () => renaming.known(part) },
    step: (step) => withReferences(step, from, newIds),
  });
  return { ...moved, id: newIds.get(part.id) ?? part.id };
}

/**
 * A step that listens to the part that came along in place of the one it listened to; one that did not come is meant
 * by its name.
 */
function withReferences(step: Step, from: Session, newIds: ReadonlyMap<string, string>): Step {
  const { reference, withReference } = kindOf(step.kind);
  if (!reference || !withReference) return step;
  const named = reference(step);
  return withReference(step, newIds.get(named) ?? itemOf(from.parts, named)?.name ?? named);
}
