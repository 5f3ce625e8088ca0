import { sharesInOrder, shiftInBar } from '../assembly';
import {
  emptyPart,
  layerOf,
  listOf,
  mapItems,
  orderedOf,
  type Doubles,
  type HandLine,
  type Part,
  type Piece,
  type Session,
  type Split,
} from '../session';
import type { PieceNumbers } from '../takes';

/** How parts are merged into one. */
export interface PartMerge {
  mode: 'layer' | 'join' | 'bars';
  doubles: Doubles;
  /** The part whose channel and sound the new one has, and whose controllers count where several have them. */
  lead: string;
  /** Whether everything goes on the lead's channel, as far as drum kits allow; else each part keeps its own. */
  oneChannel: boolean;
  name: string;
  /** In layers: by lane, the part whose counts instead of the first that has it. */
  lanes?: Readonly<Record<string, string>>;
}

function newPart(like: Part, id: string, name: string, layers: Part['layers']): Part {
  const { ink, channel, sound, rechannel, lockedTo, recording } = like;
  return {
    ...emptyPart({ id, name, ink, channel, sound: { ...sound }, layers }),
    rechannel,
    lockedTo,
    ...(recording !== undefined && { recording }),
  };
}

function pieceOf(part: Part, at: number, numbers: PieceNumbers, split?: Split): Piece {
  const number = numbers.next++;
  return {
    id: `piece${number}`,
    number,
    source: { part: part.id },
    ...(split && { split }),
    from: 0,
    to: null,
    at,
    rest: 'all',
  };
}

/**
 * Whether merged parts may go on one channel: a drum kit is one only on the channel it is on, and other notes would be
 * strokes of a kit there.
 */
export const mayShareChannel = (parts: readonly Part[]): boolean =>
  new Set(parts.map(({ channel, sound }) => (sound.drums ? channel : 0))).size === 1;

/**
 * Several parts as one that lives on them: in layers that sound together, one after the other, or as takes to choose
 * from bar by bar (the lead everywhere at first). `begins` has the place of each part, in the order given, for
 * joining them. The sources are to be set aside.
 */
export function mergedPart(
  parts: readonly Part[],
  { mode, doubles, lead, oneChannel, name, lanes = {} }: PartMerge,
  begins: readonly number[],
  id: string,
  numbers: PieceNumbers,
): Part {
  const leader = parts.find((part) => part.id === lead) ?? parts[0];
  // The first layer's controllers count: that is the lead.
  const inOrder = mode === 'join' ? parts : [leader, ...parts.filter((part) => part !== leader)];
  const layers =
    mode === 'layer'
      ? inOrder.map((part, index) => ({ ...layerOf([pieceOf(part, 0, numbers)], index), name: part.name }))
      : mode === 'join'
        ? [layerOf(inOrder.map((part, index) => pieceOf(part, begins[index], numbers)))]
        : [layerOf([pieceOf(leader, 0, numbers)])];
  const made = newPart(leader, id, name, orderedOf(layers));
  const takes =
    mode === 'bars'
      ? orderedOf(
          inOrder.map((part, index) => {
            const number = index === 0 ? numberOfFirst(made) : numbers.next++;
            return {
              id: `take${number}`,
              name: part.name,
              number,
              source: { part: part.id },
              from: 0,
              to: null,
              slide: 0,
            };
          }),
        )
      : undefined;
  const owners = Object.entries(mode === 'layer' ? lanes : {}).flatMap(([lane, part]) => {
    const at = inOrder.findIndex((each) => each.id === part);
    return at < 0 ? [] : [[lane, layers[at].id] as const];
  });
  const isOneChannel = oneChannel && mayShareChannel(parts);
  // What is chosen of the lead holds for what is on its channel; the others have theirs from where they come.
  const chosen =
    leader.sound.chosen && (isOneChannel || parts.every(({ channel }) => channel === leader.channel));
  return {
    ...made,
    sound: { ...made.sound, chosen },
    doubles,
    rechannel: isOneChannel,
    ...(owners.length > 0 && { lanes: Object.fromEntries(owners) }),
    ...(takes && { takes }),
  };
}

const numberOfFirst = (part: Part): number => listOf(listOf(part.layers)[0].pieces)[0].number;

/** A part divided: one part for each share, which together are it exactly. The source is to be set aside. */
export function separatedParts(
  part: Part,
  by: Split['by'],
  labels: readonly string[],
  newId: () => string,
  numbers: PieceNumbers,
  line: HandLine = [],
): Part[] {
  return sharesInOrder(by, labels).map((label, index) => {
    const piece = pieceOf(part, 0, numbers, { by, label, ...(line.length > 0 && { line: [...line] }) });
    const words = label.replaceAll('-', ' ');
    // A piece of a kit says enough by its own name.
    const name = by === 'drum' ? words.charAt(0).toUpperCase() + words.slice(1) : `${part.name}, ${words}`;
    const made = newPart(part, newId(), name, orderedOf([layerOf([piece])]));
    return { ...made, ink: index === 0 ? part.ink : (part.ink + index) % 8 };
  });
}

/** The line by which a source is divided by hand, where some part is a share of it so. */
export function handLineOfShares(parts: Session['parts'], source: string): HandLine | null {
  for (const part of listOf(parts))
    for (const { pieces } of listOf(part.layers))
      for (const piece of listOf(pieces)) if (isHandShare(piece, source)) return piece.split?.line ?? [];
  return null;
}

const isHandShare = ({ source, split }: Piece, of: string): boolean =>
  'part' in source && source.part === of && split?.by === 'hand';

/**
 * Divides a source by another line, in all parts that are shares of it by hand; they go on being it exactly together.
 */
export function withHandLine(parts: Session['parts'], source: string, line: HandLine): Session['parts'] {
  return mapItems(parts, (part) => {
    const isShare = listOf(part.layers).some(({ pieces }) =>
      listOf(pieces).some((piece) => isHandShare(piece, source)),
    );
    if (!isShare) return part;
    const layers = mapItems(part.layers, (layer) => ({
      ...layer,
      pieces: mapItems(layer.pieces, (piece) => {
        if (!isHandShare(piece, source) || !piece.split) return piece;
        const { by, label } = piece.split;
        return { ...piece, split: { by, label, ...(line.length > 0 && { line: [...line] }) } };
      }),
    }));
    return { ...part, layers };
  });
}

/**
 * A line moved by some semitones in some bars, from the first up to, not including, the second; elsewhere as it was.
 */
export function movedLine(line: HandLine, [from, to]: readonly [number, number], by: number): HandLine {
  const bars = [...new Set([...line.map(({ bar }) => bar), from, to])].sort((a, b) => a - b);
  const made = bars.map((bar) => {
    const shift = shiftInBar(line, bar) + (bar >= from && bar < to ? by : 0);
    return { bar, shift: Math.max(-127, Math.min(127, shift)) };
  });
  // What says nothing new is left out.
  return made.filter(({ shift }, at) => shift !== (at === 0 ? 0 : made[at - 1].shift));
}
