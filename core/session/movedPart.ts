import {
  gridQuarterAt,
  placeAt,
  placedLine,
  renamedLine,
  type NewIds,
  type Placing,
  type Step,
} from '../steps';
import type { NotationSettings } from './notationSettings';
import type { Reference } from './reference';
import { listOf, mapItems, orderedOf, type Ordered } from './ordered';
import type { Layer, Part, PartTake, Piece, PlacedStep, PulseHints } from './session';

/**
 * What becomes of all that a part says, in whatever it is made of and in what was made permanent. What is left out
 * stays.
 */
export interface PartMove {
  /** A piece as it is laid now: none, one, or several. */
  piece?(piece: Piece): Piece[];
  take?(take: PartTake): PartTake;
  /** Where steps say things of now. */
  placing?: Placing;
  /** Names other things a step names (other parts), after its places. */
  step?(step: Step): Step;
  /** The ids notes have now, and those there are before any step. */
  ids?: { new: NewIds; known(): Iterable<number> };
  /** What is known of the beats. */
  pulse?(pulse: PulseHints): PulseHints;
}

/**
 * The one way anything a part says of places, of notes or of other parts is moved, scaled, carried, brought along or
 * named anew: its layers, the takes to choose from, its steps, and the same of everything it was before steps were
 * made permanent.
 */
export function movedPart(part: Part, move: PartMove): Part {
  const { pulse } = part;
  return {
    ...part,
    layers: movedLayers(part.layers, move),
    ...(part.takes && move.take && { takes: mapItems(part.takes, move.take) }),
    ...(pulse && move.pulse && { pulse: move.pulse(pulse) }),
    ...(part.notation && { notation: movedNotation(part, part.notation, move) }),
    ...(part.reference && move.placing && { reference: movedReference(part.reference, move.placing) }),
    steps: movedSteps(part.steps, move),
    folded: part.folded.map((fold) => ({
      ...fold,
      layers: movedLayers(fold.layers, move),
      steps: movedSteps(fold.steps, move),
    })),
  };
}

/** Where in the playing bars of the score are said to be, and where the music begins in the session. */
function movedReference(reference: Reference, placing: Placing): Reference {
  const { said, beginsAt } = reference;
  return {
    ...reference,
    ...(said && { said: said.map(({ at, bar }) => ({ at: placeAt(placing, at), bar })) }),
    ...(beginsAt !== undefined && { beginsAt: Math.max(0, gridQuarterAt(placing, beginsAt)) }),
  };
}

/** What is said of how single bars and notes are written. */
function movedNotation(
  { steps }: Part,
  notation: NotationSettings,
  { placing, ids }: PartMove,
): NotationSettings {
  const { finestIn, staffOf } = notation;
  // Notes are named as they are after the last step.
  const now = staffOf && ids && renamedLine(listOf(steps), ids.new, ids.known).ids;
  return {
    ...notation,
    ...(finestIn &&
      placing && {
        finestIn: finestIn.flatMap(({ bar, finest }) => {
          const to = placing.bar(bar);
          return to >= 1 ? [{ bar: to, finest }] : [];
        }),
      }),
    ...(now && {
      staffOf: Object.fromEntries(
        Object.entries(staffOf).map(([id, staff]) => [String(now.of(Number(id))), staff]),
      ),
    }),
  };
}

function movedLayers(layers: Ordered<Layer>, { piece }: PartMove): Ordered<Layer> {
  if (!piece) return layers;
  return mapItems(layers, (layer) => ({ ...layer, pieces: orderedOf(listOf(layer.pieces).flatMap(piece)) }));
}

function movedSteps(steps: Ordered<PlacedStep>, { placing, step, ids }: PartMove): Ordered<PlacedStep> {
  if (!placing && !step && !ids) return steps;
  let line = [...listOf(steps)];
  if (ids) line = renamedLine(line, ids.new, ids.known).line;
  if (placing) line = placedLine(line, placing);
  if (step) line = line.map((placed) => ({ ...placed, step: step(placed.step) }));
  return orderedOf(line);
}
