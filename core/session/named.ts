import { kindOf } from '../steps';
import { itemOf, listOf } from './ordered';
import type { Part, Session } from './session';

/** What a part or a session refers to, by key or id. */
export interface Named {
  takes: Set<string>;
  parts: Set<string>;
  /** Hand edits of many notes, kept as columns. */
  tables: Set<string>;
  /** Scores laid beside it, kept as takes. */
  scores: Set<string>;
}

type Sourced = { source: { take: string } | { part: string } };

/**
 * Everything a part itself names: what it is made of and, with `everything`, what it can choose from and what it was
 * made of before steps were made permanent.
 */
export function namedBy(part: Part, everything = false): Named {
  const named: Named = { takes: new Set(), parts: new Set(), tables: new Set(), scores: new Set() };
  if (part.reference) named.scores.add(part.reference.score);
  const source = ({ source: own }: Sourced) =>
    'take' in own ? named.takes.add(own.take) : named.parts.add(own.part);
  for (const { layers, steps } of everything ? [part, ...part.folded] : [part]) {
    for (const { pieces } of listOf(layers)) listOf(pieces).forEach(source);
    for (const { step } of listOf(steps)) {
      const table = kindOf(step.kind).table?.(step);
      if (table !== undefined) named.tables.add(table);
    }
  }
  if (!everything) return named;
  for (const { take } of part.folded) named.takes.add(take);
  if (part.takes) listOf(part.takes).forEach(source);
  return named;
}

/**
 * Some parts and all parts they are made of, in the session's order; with `everything` also what they could be made
 * of. Parts that are gone are passed over.
 */
export function withSources(session: Session, ids: Iterable<string>, everything = false): Part[] {
  const wanted = new Set<string>();
  const want = (id: string) => {
    const part = itemOf(session.parts, id);
    if (!part || wanted.has(id)) return;
    wanted.add(id);
    namedBy(part, everything).parts.forEach(want);
  };
  for (const id of ids) want(id);
  return listOf(session.parts).filter(({ id }) => wanted.has(id));
}

/** Everything a session refers to, also in what was made permanent. */
export function namedIn(session: Session): Named {
  const all = listOf(session.parts).map((part) => namedBy(part, true));
  return {
    takes: new Set([
      ...session.takes.order,
      ...(session.conductor ? [session.conductor.take] : []),
      ...all.flatMap(({ takes, scores }) => [...takes, ...scores]),
    ]),
    parts: new Set(all.flatMap(({ parts }) => [...parts])),
    tables: new Set(all.flatMap(({ tables }) => [...tables])),
    scores: new Set(all.flatMap(({ scores }) => [...scores])),
  };
}
