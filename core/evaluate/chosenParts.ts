import { assemble, type Assembly } from '../assembly';
import { OrdleError } from '../errors';
import type { Material } from '../model';
import { emptyPart, layerOf, listOf, orderedOf, timelineOf, type Part, type Session } from '../session';
import { barNumbered, type Timeline } from '../time';
import type { Evaluator } from './evaluatePart';

/** Which parts are handed on, by id, and as they are cleaned or as they were played. */
export interface PartsChoice {
  version: 'cleaned' | 'played';
  /** Ids; they are taken in the session's order. */
  parts: readonly string[];
}

/** A part as it is handed on: what is laid, as it was played, and as it is written. */
export interface ChosenPart {
  part: Part;
  assembly: Assembly;
  played: Material;
  material: Material;
}

/**
 * The parts that are handed on, worked out once whatever they are written as. In ticks of the session, where the music
 * lies in it.
 */
export interface Chosen {
  session: Session;
  timeline: Timeline;
  version: PartsChoice['version'];
  parts: readonly ChosenPart[];
  /**
   * Where only some bars are taken: these, the second not counted, from where to where they last, in ticks, and what
   * they were cut out of.
   */
  excerpt: { bars: readonly [from: number, to: number]; from: number; to: number; whole: Chosen } | null;
}

/** Works out the parts that were chosen. Throws `nothing-to-export` when none is named, and as evaluating does. */
export function chosenParts(
  session: Session,
  { parts, version }: PartsChoice,
  evaluator: Pick<Evaluator, 'evaluate'>,
): Chosen {
  const timeline = timelineOf(session);
  const wanted = listOf(session.parts).filter(({ id }) => parts.includes(id));
  if (wanted.length === 0)
    throw new OrdleError(
      'nothing-to-export',
      session.parts.order.length === 0
        ? 'There is nothing to export: this music has no notes, and no other parts.'
        : 'No part is chosen, so there is nothing to export. Choose at least one part.',
    );
  return {
    session,
    timeline,
    version,
    parts: wanted.map((part) => {
      const { assembly, stages } = evaluator.evaluate(part, session, timeline);
      const material = version === 'played' ? stages[0] : stages[stages.length - 1];
      return { part, assembly, played: stages[0], material };
    }),
    excerpt: null,
  };
}

/** Where the chosen parts end, in ticks. */
export const endOfChosen = ({ parts }: Chosen): number =>
  parts.reduce(
    (latest, { material: { notes } }) => notes.end.reduce((most, end) => Math.max(most, end), latest),
    0,
  );

/** Some of the parts that were chosen. */
export const onlyParts = (chosen: Chosen, ids: readonly string[]): Chosen => ({
  ...chosen,
  parts: chosen.parts.filter(({ part }) => ids.includes(part.id)),
});

/**
 * Some bars of what was chosen (from the first up to, not including, the second), where they lie. Cut as pieces of
 * parts are: a note played ahead of the bar line belongs to the bar it means, controllers begin as they stand there,
 * and nothing sounds on over the end. Throws `bars` where there are none such.
 */
export function excerptOf(chosen: Chosen, bars: readonly [from: number, to: number]): Chosen {
  const { timeline } = chosen;
  const [first, last] = bars;
  if (!(first >= 1 && last > first))
    throw new OrdleError('bars', `There are no bars ${first} to ${last - 1}: they are counted from 1.`);
  const from = barNumbered(timeline.meter, first).start;
  const to = barNumbered(timeline.meter, last).start;
  return {
    ...chosen,
    excerpt: { bars, from, to, whole: chosen },
    parts: chosen.parts.map((own) => {
      const assembly = cut(own, own.material, [from, to], timeline);
      const { material } = assembly;
      const played =
        own.played === own.material ? material : cut(own, own.played, [from, to], timeline).material;
      // What no step touched stays the same object: that tells that it is as it was played.
      const notes = own.played.notes === own.material.notes ? material.notes : played.notes;
      const events = own.played.events === own.material.events ? material.events : played.events;
      return { ...own, assembly, material, played: { ...played, notes, events } };
    }),
  };
}

/** Material cut out of a part at two ticks, as a part that is made of that stretch of it is. */
function cut({ part }: ChosenPart, material: Material, [from, to]: [number, number], timeline: Timeline) {
  const { id, name, ink, channel, sound } = part;
  const piece = { id: 'piece', number: 0, source: { part: id }, from, to, at: from, rest: 'all' as const };
  const layer = { ...layerOf([]), pieces: orderedOf([piece]) };
  const made: Part = {
    ...emptyPart({ id, name, ink, channel, sound: { ...sound, chosen: false }, layers: orderedOf([layer]) }),
    seams: { held: 'cut', by: 'music' },
  };
  return assemble(made, timeline, { take: noTake, part: () => material });
}

function noTake(): never {
  throw new OrdleError('take-missing', 'A stretch of a part lays no take.');
}
