import { listOf, type Part, type Session } from '../session';

/** A row of the list of parts: the heading of a group, or a part. */
export type ListedRow =
  { kind: 'group'; name: string; parts: Part[]; isFolded: boolean } | { kind: 'part'; part: Part };

/** Parts in the order they are listed: those of a group stand together, where the first of them stands. */
export function listedParts(parts: Session['parts']): Part[] {
  const all = listOf(parts);
  const byGroup = new Map<string, Part[]>();
  for (const part of all)
    if (part.group !== undefined) byGroup.set(part.group, [...(byGroup.get(part.group) ?? []), part]);
  return all.flatMap((part) => {
    if (part.group === undefined) return [part];
    const members = byGroup.get(part.group) ?? [];
    return members[0] === part ? members : [];
  });
}

/** The rows of the list: each group has a heading, and its parts only where it is not folded. */
export function listedRows(parts: Session['parts'], folded: ReadonlySet<string>): ListedRow[] {
  const rows: ListedRow[] = [];
  for (const part of listedParts(parts)) {
    const { group } = part;
    const last = rows.findLast((row) => row.kind === 'group');
    if (group !== undefined && last?.name === group) last.parts.push(part);
    else if (group !== undefined)
      rows.push({ kind: 'group', name: group, parts: [part], isFolded: folded.has(group) });
    if (group === undefined || !folded.has(group)) rows.push({ kind: 'part', part });
  }
  return rows;
}

/** Where parts are put: beside a part, whose group they join, or before or after all of a group. */
export type PartsPlace = { side: 'before' | 'after' } & ({ part: string } | { group: string });

/** The new order of the parts, and the group each of the moved ones then has. Null where nothing changes. */
export interface MovedParts {
  order: string[];
  /** Undefined for none. */
  group: string | undefined;
}

/** Parts moved together to another place of the list, in the order they have there. */
export function movedParts(
  parts: Session['parts'],
  ids: ReadonlySet<string>,
  place: PartsPlace,
): MovedParts | null {
  const listed = listedParts(parts);
  const moving = listed.filter(({ id }) => ids.has(id)).map(({ id }) => id);
  if (moving.length === 0) return null;
  const rest = listed.filter(({ id }) => !ids.has(id));
  let at: number;
  let group: string | undefined;
  if ('part' in place) {
    if (ids.has(place.part)) return null;
    const target = rest.findIndex(({ id }) => id === place.part);
    if (target < 0) return null;
    group = rest[target].group;
    at = target + (place.side === 'after' ? 1 : 0);
  } else {
    const members = rest.flatMap((part, index) => (part.group === place.group ? [index] : []));
    if (members.length === 0) return null;
    at = place.side === 'before' ? members[0] : members[members.length - 1] + 1;
  }
  const order = rest.map(({ id }) => id).toSpliced(at, 0, ...moving);
  const isSame =
    order.every((id, index) => id === parts.order[index]) &&
    moving.every((id) => parts.byId[id].group === group);
  return isSame ? null : { order, group };
}

/**
 * The place one step up (-1) or down (1) of where a part stands: within its group, or past a whole group beside it;
 * null at the ends.
 */
export function placeBeside(parts: Session['parts'], id: string, by: -1 | 1): PartsPlace | null {
  const listed = listedParts(parts);
  const at = listed.findIndex((part) => part.id === id);
  const [own, next] = [listed.at(at), listed.at(at + by)];
  if (at < 0 || at + by < 0 || at + by >= listed.length || !own || !next) return null;
  const side = by < 0 ? 'before' : 'after';
  if (next.group === own.group || next.group === undefined) {
    // The last of a group steps out of it.
    return own.group !== undefined && next.group === undefined
      ? { side, group: own.group }
      : { side, part: next.id };
  }
  return { side, group: next.group };
}
