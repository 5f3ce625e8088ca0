import { OrdleError } from '../errors';
import { itemOf, type Part, type Session } from '../session';

/** A part whose evaluation asked for another, and why. */
export interface Waiting {
  part: Part;
  why: 'made of' | 'aligned to';
}

/**
 * The part that `part` asks for, and those that wait for it. Throws OrdleError `no-part` where it is gone, and
 * `part-circle` or `align-cycle` with the names of the parts where it waits for one of them itself.
 */
export function waitingFor(
  part: Part,
  id: string,
  why: Waiting['why'],
  waiting: readonly Waiting[],
  session: Session,
): { part: Part; waiting: readonly Waiting[] } {
  const found = itemOf(session.parts, id);
  if (!found)
    throw new OrdleError(
      'no-part',
      `“${part.name}” is made of a part that is no longer in the session. Undo its deletion, or take that piece out.`,
    );
  const line: Waiting[] = [...waiting, { part, why }];
  const first = line.findIndex((each) => each.part.id === id);
  if (first < 0) return { part: found, waiting: line };
  const names = [...line.slice(first).map((each) => each.part.name), found.name].join(' > ');
  if (line.slice(first).every((each) => each.why === 'made of'))
    throw new OrdleError(
      'part-circle',
      `These parts are made of each other: ${names}. Let one of them stand on its takes.`,
    );
  throw new OrdleError(
    'align-cycle',
    `These parts wait for each other: ${names}. Let one of them not align to the next.`,
  );
}
