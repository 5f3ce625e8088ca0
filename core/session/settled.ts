import { createTimeline, type Timeline } from '../time';
import { insertItems, itemOf, listOf, mapItems } from './ordered';
import type { Part, Session } from './session';

/**
 * The same document with everything that is ordered frozen, so that its lists are remembered (`listOf`). Goes only
 * into what is not frozen yet.
 */
export function settled(session: Session): Session {
  for (const part of Object.values(session.parts.byId)) {
    if (Object.isFrozen(part)) continue;
    for (const layer of Object.values(part.layers.byId)) {
      Object.freeze(layer.pieces);
      Object.freeze(layer);
    }
    for (const list of [part.layers, part.steps]) Object.freeze(list);
    if (part.takes) Object.freeze(part.takes);
    Object.freeze(part);
  }
  for (const list of [session.parts, session.takes]) Object.freeze(list);
  return Object.freeze(session);
}

const timelines = new WeakMap<object, WeakMap<object, Timeline>>();

/**
 * The time of a session: the very same for as long as its tempo and meter are.
 *
 * @public
 */
export function timelineOf({
  division,
  tempos,
  meters,
}: Pick<Session, 'division' | 'tempos' | 'meters'>): Timeline {
  const byMeters = timelines.get(tempos) ?? new WeakMap<object, Timeline>();
  timelines.set(tempos, byMeters);
  const known = byMeters.get(meters);
  if (known && known.division === division) return known;
  const made = createTimeline(division, tempos, meters);
  byMeters.set(meters, made);
  return made;
}

/** The part with an id, or else the first of the session. */
export function activePart(session: Session, id: string | null | undefined): Part | undefined {
  return itemOf(session.parts, id) ?? firstToPlay(session) ?? listOf(session.parts)[0];
}

/** The first part that is made of something with notes, as far as the takes tell. */
const firstToPlay = ({ parts, takes }: Session): Part | undefined =>
  listOf(parts).find(({ layers }) =>
    listOf(layers).some(({ pieces }) =>
      listOf(pieces).some(
        ({ source }) => 'part' in source || (itemOf(takes, source.take)?.noteCount ?? 0) > 0,
      ),
    ),
  );

/**
 * Puts parts of new pieces into a session at its end. Changes `session`. Their pieces are numbered from the session's
 * next number on, whatever was added meanwhile: numbers are never used twice.
 */
export function addParts(session: Session, parts: readonly Part[]): void {
  for (const part of parts) {
    const layers = mapItems(part.layers, (layer) => ({
      ...layer,
      pieces: mapItems(layer.pieces, (piece) => ({ ...piece, number: session.nextPiece++ })),
    }));
    insertItems(session.parts, [{ ...part, layers }]);
  }
}
