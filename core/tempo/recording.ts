import { listOf, type Part, type Session } from '../session';

/** The parts that were recorded together with one, itself among them, in the session's order. */
export function recordedWith(part: Part, session: Session): Part[] {
  return listOf(session.parts).filter(({ recording }) => recording === part.recording);
}

const standsOnTakes = ({ layers }: Part): boolean =>
  listOf(layers).some(({ pieces }) => pieces.order.length > 0) &&
  listOf(layers).every(({ pieces }) => listOf(pieces).every(({ source }) => 'take' in source));

/**
 * The parts whose playing is the pulse of a recording: of those recorded together the ones that stand on takes. Parts
 * made of them go along with them by themselves. The part itself where there are none.
 */
export function playersOf(part: Part, session: Session): Part[] {
  const players = recordedWith(part, session).filter(standsOnTakes);
  return players.length > 0 ? players : [part];
}

/** The part that keeps what is said of the beats of a recording: the first that has something said, else the first. */
export function pulseKeeper(part: Part, session: Session): Part {
  const all = recordedWith(part, session);
  return all.find(({ pulse }) => pulse !== undefined) ?? all.at(0) ?? part;
}

/**
 * The session with a part in another recording, or by itself (null). What was said of the beats stays with those that
 * are left, and comes along with a part that leaves.
 */
export function movedToRecording(session: Session, part: Part, recording: { of: Part } | null): Session {
  const { pulse } = pulseKeeper(part, session);
  const left = recordedWith(part, session).filter(({ id }) => id !== part.id);
  const byId = { ...session.parts.byId };
  const put = (own: Part, change: Partial<Part>) => {
    const made: Part = { ...own, ...change };
    for (const key of ['pulse', 'recording'] as const)
      if (made[key] === undefined) Reflect.deleteProperty(made, key);
    byId[own.id] = made;
  };
  const heir = left.at(0);
  if (heir && part.pulse && !left.some((own) => own.pulse)) put(heir, { pulse: part.pulse });
  if (recording === null) put(part, { recording: part.id, pulse });
  else put(part, { recording: recording.of.recording, pulse: undefined });
  return { ...session, parts: { ...session.parts, byId } };
}
