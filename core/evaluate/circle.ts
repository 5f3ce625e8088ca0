import { OrdleError } from '../errors';
import { itemOf, listOf, namedBy, type Part, type Session } from '../session';
import { kindOf } from '../steps';
import { partNamed } from './evaluatePart';
import { waitingFor, type Waiting } from './waiting';

/** What a part is made of; parts never change, and every edit of a session asks for all of them. */
const sources = new WeakMap<Part, readonly string[]>();

function sourcesOf(part: Part): readonly string[] {
  const found = sources.get(part) ?? [...namedBy(part).parts];
  sources.set(part, found);
  return found;
}

/** The parts one waits for by id, and why. */
function neededBy(part: Part, session: Session): [id: string, why: Waiting['why']][] {
  const aligned = listOf(part.steps).flatMap(({ step }) => {
    const name = step.on ? kindOf(step.kind).reference?.(step) : undefined;
    const other = name === undefined ? undefined : partNamed(session, name);
    return other ? [other.id] : [];
  });
  return [
    ...sourcesOf(part).map((id): [string, Waiting['why']] => [id, 'made of']),
    ...aligned.map((id): [string, Waiting['why']] => [id, 'aligned to']),
  ];
}

/**
 * Why parts of a session could never be worked out, since they wait for each other: made of each other, or aligned to
 * one another. Null where they do not. Parts that are gone are passed over.
 */
export function circleIn(session: Session): OrdleError | null {
  const done = new Set<string>();
  const look = (part: Part, waiting: readonly Waiting[]): OrdleError | null => {
    for (const [id, why] of done.has(part.id) ? [] : neededBy(part, session)) {
      if (!Object.hasOwn(session.parts.byId, id)) continue;
      try {
        const next = waitingFor(part, id, why, waiting, session);
        const found = look(next.part, next.waiting);
        if (found) return found;
      } catch (error) {
        if (error instanceof OrdleError) return error;
        throw error;
      }
    }
    done.add(part.id);
    return null;
  };
  for (const part of listOf(session.parts)) {
    const found = look(part, []);
    if (found) return found;
  }
  return null;
}

/** Whether a part waits for another, through however many: made of it or aligned to it. */
export function waitsFor(part: Part, id: string, session: Session): boolean {
  const seen = new Set<string>();
  const look = (own: Part): boolean =>
    neededBy(own, session).some(([needed]) => {
      if (needed === id) return true;
      if (seen.has(needed)) return false;
      seen.add(needed);
      const next = itemOf(session.parts, needed);
      return next !== undefined && look(next);
    });
  return look(part);
}
