import { itemOf, mapItems, movedPart, namedBy, type Part, type Session } from '../session';
import { keptInTime } from '../steps';
import { secondsToTicks, ticksToSeconds, type Timeline } from '../time';

/**
 * A part whose pieces lie by seconds, or by ticks again, where they lie under this map; what it was made of before
 * steps were made permanent likewise.
 */
export function lockedPart(part: Part, lockedTo: Part['lockedTo'], { tempo }: Timeline): Part {
  if (part.lockedTo === lockedTo) return part;
  const place = (at: number) =>
    lockedTo === 'seconds' ? ticksToSeconds(tempo, at) : secondsToTicks(tempo, at);
  // A slide is a distance: from the place it starts at.
  const slid = (from: number, slide: number) => place(Math.max(0, from + slide)) - place(from);
  const until = (to: number | null) => (to === null ? null : place(to));
  return {
    ...movedPart(part, {
      piece: (piece) => [{ ...piece, from: place(piece.from), to: until(piece.to), at: place(piece.at) }],
      take: (take) => ({
        ...take,
        from: place(take.from),
        to: until(take.to),
        slide: slid(take.from, take.slide),
      }),
    }),
    lockedTo,
  };
}

/**
 * A session with a part locked, and with it the parts it is made of, which it could not stay in real time without.
 * Let go to the beats it takes along those that are set aside and that no other part in real time is made of. Nothing
 * moves at that moment.
 */
export function lockedIn(
  session: Session,
  partId: string,
  lockedTo: Part['lockedTo'],
  timeline: Timeline,
): Session {
  const part = itemOf(session.parts, partId);
  if (!part) return session;
  const one = put(session, lockedPart(part, lockedTo, timeline));
  if (lockedTo === 'seconds') return sourcesLocked(one, timeline);
  const held = sourcesOfLocked(one);
  return sourcesIn(session, [partId]).reduce((made, id) => {
    const source = itemOf(made.parts, id);
    if (!source?.setAside || held.has(id)) return made;
    return put(made, lockedPart(source, lockedTo, timeline));
  }, one);
}

const put = (session: Session, part: Part): Session => ({
  ...session,
  parts: { ...session.parts, byId: { ...session.parts.byId, [part.id]: part } },
});

/** All parts that some are made of, through however many, by id. */
function sourcesIn(session: Session, ids: readonly string[]): string[] {
  const found = new Set<string>();
  const visit = (id: string) => {
    const part = itemOf(session.parts, id);
    for (const source of part ? namedBy(part).parts : []) {
      if (found.has(source)) continue;
      found.add(source);
      visit(source);
    }
  };
  ids.forEach(visit);
  return [...found];
}

const sourcesOfLocked = (session: Session): Set<string> =>
  new Set(
    sourcesIn(
      session,
      session.parts.order.filter((id) => session.parts.byId[id].lockedTo === 'seconds'),
    ),
  );

/** A session in which everything that parts in real time are made of is in real time too. */
export function sourcesLocked(session: Session, timeline: Timeline): Session {
  const sources = [...sourcesOfLocked(session)].flatMap((id) => {
    const part = itemOf(session.parts, id);
    return part?.lockedTo === 'beats' ? [part] : [];
  });
  return sources.reduce((made, part) => put(made, lockedPart(part, 'seconds', timeline)), session);
}

/**
 * The session under another tempo map and meter: parts locked to beats go along, those locked to seconds stay where
 * they were in real time, with all they are made of and all that was done to them by hand.
 */
export function underMap(
  session: Session,
  maps: Pick<Session, 'tempos' | 'meters'>,
  from: Timeline,
  to: Timeline,
): Session {
  const isSame = JSON.stringify(session.tempos) === JSON.stringify(maps.tempos);
  const { tempos, meters } = maps;
  if (isSame) return { ...session, tempos, meters };
  const placing = keptInTime(from, to);
  const locked = sourcesLocked(session, from);
  const parts = mapItems(locked.parts, (part) =>
    part.lockedTo === 'seconds' ? movedPart(part, { placing }) : part,
  );
  return { ...locked, tempos, meters, parts };
}
