import { sharesInOrder } from '../assembly';
import {
  PLAIN_DOUBLES,
  PLAIN_SEAMS,
  layerOf,
  listOf,
  orderedOf,
  type Doubles,
  type Part,
  type Piece,
  type Split,
} from '../session';
import type { PieceNumbers } from '../takes';

/** How parts are merged into one. */
export interface PartMerge {
  mode: 'layer' | 'join' | 'bars';
  doubles: Doubles;
  /** The part whose channel and sound the new one has, and whose controllers count where several have them. */
  lead: string;
  /** Whether everything goes on the lead's channel; else each part keeps its own. */
  oneChannel: boolean;
  name: string;
}

function newPart(like: Part, id: string, name: string, layers: Part['layers']): Part {
  return {
    id,
    name,
    ink: like.ink,
    channel: like.channel,
    sound: { ...like.sound },
    rechannel: like.rechannel,
    lockedTo: like.lockedTo,
    layers,
    doubles: PLAIN_DOUBLES,
    seams: PLAIN_SEAMS,
    steps: orderedOf([]),
    folded: [],
    setAside: false,
    muted: false,
    soloed: false,
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
 * Several parts as one that lives on them: in layers that sound together, one after the other, or as takes to choose from bar by bar (the lead everywhere at
 * first). `begins` has the place of each part, in the order given, for joining them. The sources are to be set aside.
 */
export function mergedPart(
  parts: readonly Part[],
  { mode, doubles, lead, oneChannel, name }: PartMerge,
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
  return { ...made, doubles, rechannel: leader.rechannel || oneChannel, ...(takes && { takes }) };
}

const numberOfFirst = (part: Part): number => listOf(listOf(part.layers)[0].pieces)[0].number;

/** A part divided: one part for each share, which together are it exactly. The source is to be set aside. */
export function separatedParts(
  part: Part,
  by: Split['by'],
  labels: readonly string[],
  newId: () => string,
  numbers: PieceNumbers,
): Part[] {
  return sharesInOrder(by, labels).map((label, index) => {
    const piece = pieceOf(part, 0, numbers, { by, label });
    const words = label.replaceAll('-', ' ');
    // A piece of a kit says enough by its own name.
    const name = by === 'drum' ? words.charAt(0).toUpperCase() + words.slice(1) : `${part.name}, ${words}`;
    const made = newPart(part, newId(), name, orderedOf([layerOf([piece])]));
    return { ...made, ink: index === 0 ? part.ink : (part.ink + index) % 8 };
  });
}
