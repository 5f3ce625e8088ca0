import { itemOf, listOf, orderedOf, type Part, type PartTake, type Piece, type Session } from '../session';

/** How much later than in its source a piece lies. */
const slideOf = (piece: Piece): number => piece.at - piece.from;

type Sourced = Pick<Piece, 'source' | 'split'>;

/** Compared field by field: this is asked for every piece and take at every choice. */
function isSameSource({ source, split }: Sourced, other: Sourced): boolean {
  const isSame =
    'take' in source
      ? 'take' in other.source && source.take === other.source.take
      : 'part' in other.source && source.part === other.source.part;
  return isSame && JSON.stringify(split) === JSON.stringify(other.split);
}

/** Whether a piece lays a take of the part. */
export const isOfTake = (piece: Piece, take: PartTake): boolean =>
  isSameSource(piece, take) &&
  Math.abs(slideOf(piece) - take.slide) < 1e-6 &&
  piece.from >= take.from - 1e-6 &&
  (take.to === null || piece.from < take.to);

/** What a source is called: a take by its name, another part by its own. */
function nameOf(source: PartTake['source'], session: Session): string {
  const name =
    'take' in source ? itemOf(session.takes, source.take)?.name : itemOf(session.parts, source.part)?.name;
  return name?.trim() ?? '';
}

/**
 * The performances a part can choose from: those it names, and before any were named those its pieces are of, in the
 * order they come. Takes of one name are numbered.
 */
export function takesOfPart(part: Part, session: Session): readonly PartTake[] {
  if (part.takes) return listOf(part.takes);
  const found: PartTake[] = [];
  for (const { pieces } of listOf(part.layers))
    for (const piece of listOf(pieces)) {
      const { source, split, number } = piece;
      if (found.some((take) => isOfTake(piece, take))) continue;
      const own = { source, ...(split && { split }), from: 0, to: null, slide: slideOf(piece) };
      found.push({ id: `take${number}`, name: nameOf(source, session), number, ...own });
    }
  const isNamed =
    found.every(({ name }) => name !== '') && new Set(found.map(({ name }) => name)).size === found.length;
  return isNamed ? found : found.map((take, index) => ({ ...take, name: `Take ${index + 1}` }));
}

/** A stretch of the part in its own unit, ticks or seconds; `to` may be infinite. */
export interface Stretch {
  from: number;
  to: number;
}

/** Where a piece ends, in the part's unit; infinite where nothing ends it. */
export const endOf = ({ from, to, at }: Piece): number => (to === null ? Infinity : at + to - from);

/** Counts up pieces of a session. */
export interface PieceNumbers {
  next: number;
}

/** The number by which a layer's pieces of a take are known: its own, unless another layer uses it. */
function numberIn(part: Part, layerId: string, take: PartTake, numbers: PieceNumbers): number {
  const layers = listOf(part.layers);
  const own = layers
    .filter(({ id }) => id === layerId)
    .flatMap(({ pieces }) => listOf(pieces))
    .find((piece) => isOfTake(piece, take));
  if (own) return own.number;
  const isElsewhere = layers.some(
    ({ id, pieces }) => id !== layerId && listOf(pieces).some(({ number }) => number === take.number),
  );
  return isElsewhere ? numbers.next++ : take.number;
}

function withoutHeld(piece: Piece): Piece {
  const rest = { ...piece };
  delete rest.held;
  return rest;
}

/**
 * Pieces without a stretch: those that reach into it end or begin at its ends. Both sides of a piece that is cut in
 * two go on being known by its number.
 */
function without(pieces: readonly Piece[], { from, to }: Stretch, numbers: PieceNumbers): Piece[] {
  return pieces.flatMap((piece) => {
    const end = endOf(piece);
    if (end <= from || piece.at >= to) return [piece];
    const left = piece.at < from ? [{ ...piece, to: piece.from + from - piece.at }] : [];
    if (end <= to) return left;
    const right = { ...withoutHeld(piece), from: piece.from + to - piece.at, at: to };
    // The piece itself where only its start goes; else a new one for what comes after.
    return [...left, left.length === 0 ? right : { ...right, id: `piece${numbers.next++}` }];
  });
}

/** Neighbours that lay one take on and on as one piece. */
function joined(pieces: readonly Piece[]): Piece[] {
  const made: Piece[] = [];
  for (const piece of pieces.toSorted((a, b) => a.at - b.at)) {
    const last = made.at(-1);
    const goesOn =
      last !== undefined &&
      last.number === piece.number &&
      isSameSource(last, piece) &&
      last.brings?.toString() === piece.brings?.toString() &&
      Math.abs(slideOf(last) - slideOf(piece)) < 1e-6 &&
      Math.abs(endOf(last) - piece.at) < 1e-6;
    if (goesOn) made[made.length - 1] = { ...last, to: piece.to };
    else made.push(piece);
  }
  return made;
}

/** The piece that lays a take over a stretch, as far as the take reaches; null where it does not. */
function pieceFor(take: PartTake, { from, to }: Stretch, number: number, id: string): Piece | null {
  const first = Math.max(from, take.from + take.slide, 0);
  const last = Math.min(to, take.to === null ? Infinity : take.to + take.slide);
  const start = Math.max(first, take.slide);
  if (start >= last) return null;
  return {
    id,
    number,
    source: take.source,
    ...(take.split && { split: take.split }),
    from: start - take.slide,
    to: last === Infinity ? null : last - take.slide,
    at: start,
    rest: 'untimed',
  };
}

/** Numbers a session does not use yet, for the pieces of one change. */
export const numbersOf = (session: Session): PieceNumbers => ({ next: session.nextPiece });

/**
 * A part in which one layer lays `take` over a stretch (null: nothing), whatever it laid there before. Notes of a
 * take keep their identity however often it is chosen and given up, and so hand edits and wheres by note find them
 * again.
 */
export function choose(
  part: Part,
  layerId: string,
  stretch: Stretch,
  take: PartTake | null,
  numbers: PieceNumbers,
): Part {
  const layer = itemOf(part.layers, layerId);
  if (!layer) return part;
  const before = listOf(layer.pieces);
  const isThere = take
    ? before.some((piece) => piece.at <= stretch.from && endOf(piece) >= stretch.to && isOfTake(piece, take))
    : !before.some((piece) => piece.at < stretch.to && endOf(piece) > stretch.from);
  // The very same part where it is so already.
  if (isThere) return part;
  const rest = without(before, stretch, numbers);
  const piece =
    take && pieceFor(take, stretch, numberIn(part, layerId, take, numbers), `piece${numbers.next++}`);
  // What belongs to no channel (texts, system messages) comes along as it did.
  const came = before.find(({ number }) => number === piece?.number)?.rest;
  const pieces = joined([...rest, ...(piece ? [{ ...piece, rest: came ?? piece.rest }] : [])]);
  const layers = {
    ...part.layers,
    byId: { ...part.layers.byId, [layerId]: { ...layer, pieces: orderedOf(pieces) } },
  };
  return { ...part, layers };
}

/**
 * A take over a stretch added to what sounds there, in the first layer that is free, or taken away where a layer lays
 * it. New layers come at the end; those that are left empty go, but for the first.
 */
export function toggle(part: Part, stretch: Stretch, take: PartTake, numbers: PieceNumbers): Part {
  const reaches = (piece: Piece) => piece.at < stretch.to && endOf(piece) > stretch.from;
  const layers = listOf(part.layers);
  const own = layers.find(({ pieces }) =>
    listOf(pieces).some((piece) => reaches(piece) && isOfTake(piece, take)),
  );
  if (own) return withoutEmptyLayers(choose(part, own.id, stretch, null, numbers));
  const free = layers.find(({ pieces }) => !listOf(pieces).some(reaches));
  if (free) return choose(part, free.id, stretch, take, numbers);
  const id = `layer${numbers.next++}`;
  const more = orderedOf([
    ...layers,
    { id, name: `Layer ${layers.length + 1}`, pieces: orderedOf<Piece>([]) },
  ]);
  return choose({ ...part, layers: more }, id, stretch, take, numbers);
}

function withoutEmptyLayers(part: Part): Part {
  const layers = listOf(part.layers);
  const kept = layers.filter(({ pieces }, index) => index === 0 || pieces.order.length > 0);
  return kept.length === layers.length ? part : { ...part, layers: orderedOf(kept) };
}

/** The part with its takes named, as they are before they are changed. */
export function withTakes(part: Part, takes: readonly PartTake[]): Part {
  if (part.takes && takes === listOf(part.takes)) return part;
  return { ...part, takes: orderedOf(takes) };
}

/**
 * A take slid to lie `slide` later than in its source: its pieces stay over the same bars and lay what lies there
 * now.
 */
export function slideTake(part: Part, take: PartTake, slide: number): Part {
  const moved = { ...take, slide };
  const layers = orderedOf(
    listOf(part.layers).map((layer) => ({
      ...layer,
      pieces: orderedOf(
        listOf(layer.pieces).flatMap((piece) => {
          if (!isOfTake(piece, take)) return [piece];
          const made = pieceFor(moved, { from: piece.at, to: endOf(piece) }, piece.number, piece.id);
          return made ? [{ ...made, rest: piece.rest, ...(piece.held && { held: piece.held }) }] : [];
        }),
      ),
    })),
  );
  const { takes } = part;
  return {
    ...part,
    layers,
    ...(takes && { takes: { ...takes, byId: { ...takes.byId, [take.id]: moved } } }),
  };
}

/**
 * A take no longer offered: in the first layer `instead` is laid where it was (null: nothing), in the others nothing
 * is.
 */
export function withoutTake(
  part: Part,
  take: PartTake,
  takes: readonly PartTake[],
  numbers: PieceNumbers,
  instead: PartTake | null = null,
): Part {
  let cleared = part;
  listOf(part.layers).forEach(({ id, pieces }, layer) => {
    for (const piece of listOf(pieces))
      if (isOfTake(piece, take))
        cleared = choose(
          cleared,
          id,
          { from: piece.at, to: endOf(piece) },
          layer === 0 ? instead : null,
          numbers,
        );
  });
  return withTakes(
    withoutEmptyLayers(cleared),
    takes.filter(({ id }) => id !== take.id),
  );
}

/**
 * Which take each layer lays over each stretch, by its place among `takes`: -1 for none. A stretch belongs to the
 * piece that lies over its middle.
 */
export function chosenIn(
  part: Part,
  takes: readonly PartTake[],
  stretches: readonly Stretch[],
): Int32Array[] {
  return listOf(part.layers).map(({ pieces }) => {
    const list = listOf(pieces).toSorted((a, b) => a.at - b.at);
    const owners = list.map((piece) => takes.findIndex((take) => isOfTake(piece, take)));
    let at = 0;
    return Int32Array.from(stretches, ({ from, to }) => {
      const middle = to === Infinity ? from : (from + to) / 2;
      while (at < list.length && endOf(list[at]) <= middle) at++;
      return at < list.length && list[at].at <= middle ? owners[at] : -1;
    });
  });
}

/** Where one layer goes from one piece to another, in the part's unit. */
export interface Seam {
  at: number;
  layerId: string;
  /** The piece that begins there, and the one before it where that reaches up to here. */
  piece: Piece;
  before: Piece | null;
}

/** The seams of all layers, in order of time; the start of the first piece is none. */
export function seamsIn(part: Part): Seam[] {
  return listOf(part.layers)
    .flatMap(({ id, pieces }) => {
      const list = listOf(pieces).toSorted((a, b) => a.at - b.at);
      return list.slice(1).map((piece, index): Seam => {
        const before = list[index];
        return { at: piece.at, layerId: id, piece, before: endOf(before) >= piece.at ? before : null };
      });
    })
    .sort((a, b) => a.at - b.at);
}

/** A seam with its own rule for held notes; null goes by the part again. */
export function withHeld(part: Part, { layerId, piece }: Seam, held: Piece['held'] | null): Part {
  const layer = itemOf(part.layers, layerId);
  if (!layer || !itemOf(layer.pieces, piece.id)) return part;
  const next: Piece = held ? { ...piece, held } : withoutHeld(piece);
  const pieces = { ...layer.pieces, byId: { ...layer.pieces.byId, [piece.id]: next } };
  return {
    ...part,
    layers: { ...part.layers, byId: { ...part.layers.byId, [layerId]: { ...layer, pieces } } },
  };
}
