import { z } from 'zod';

/** Things by id with a list of their order, so that a patch names what it means wherever that has moved to. */
export interface Ordered<T extends { id: string }> {
  order: string[];
  byId: Record<string, T>;
}

/** The schema of things by id: each is listed once in the order, under its own id. */
export function orderedSchema<S extends z.ZodType<{ id: string }>>(item: S) {
  return z
    .strictObject({ order: z.array(z.string()), byId: z.record(z.string(), item) })
    .refine(
      ({ order, byId }) =>
        order.length === Object.keys(byId).length &&
        new Set(order).size === order.length &&
        order.every((id) => Object.hasOwn(byId, id) && byId[id].id === id),
      { message: 'the order and what it orders do not agree' },
    );
}

export function orderedOf<T extends { id: string }>(list: readonly T[]): Ordered<T> {
  return { order: list.map(({ id }) => id), byId: Object.fromEntries(list.map((item) => [item.id, item])) };
}

/** Lists of frozen documents, so that a list that has not changed is the same one. */
const lists = new WeakMap<object, readonly unknown[]>();

/** The things in their order. */
export function listOf<T extends { id: string }>(ordered: Ordered<T>): readonly T[] {
  if (!Object.isFrozen(ordered)) return ordered.order.map((id) => ordered.byId[id]);
  const known = lists.get(ordered);
  if (known) return known as readonly T[];
  const list = ordered.order.map((id) => ordered.byId[id]);
  lists.set(ordered, list);
  return list;
}

/** The thing with an id, if it is there. */
export function itemOf<T extends { id: string }>(
  ordered: Ordered<T>,
  id: string | null | undefined,
): T | undefined {
  return id !== null && id !== undefined && Object.hasOwn(ordered.byId, id) ? ordered.byId[id] : undefined;
}

/**
 * Puts things in at a place (at the end without one). Changes `ordered`; those already there stay where they are,
 * with the new content.
 */
export function insertItems<T extends { id: string }>(
  ordered: Ordered<T>,
  items: readonly T[],
  at?: number,
): void {
  const fresh = items.filter(({ id }) => !Object.hasOwn(ordered.byId, id));
  for (const item of items) ordered.byId[item.id] = item;
  ordered.order.splice(at ?? ordered.order.length, 0, ...fresh.map(({ id }) => id));
}

/** Takes a thing out. Changes `ordered`. */
export function removeItem<T extends { id: string }>(ordered: Ordered<T>, id: string): void {
  const at = ordered.order.indexOf(id);
  if (at < 0) return;
  ordered.order.splice(at, 1);
  delete ordered.byId[id];
}

/** Moves a thing to a place in the order. Changes `ordered`. */
export function moveItem<T extends { id: string }>(ordered: Ordered<T>, id: string, to: number): void {
  const at = ordered.order.indexOf(id);
  if (at < 0 || at === to) return;
  ordered.order.splice(at, 1);
  ordered.order.splice(to, 0, id);
}

/** The same order with every thing made into another with the same id. */
export function mapItems<T extends { id: string }, U extends { id: string }>(
  ordered: Ordered<T>,
  made: (item: T) => U,
): Ordered<U> {
  return {
    order: ordered.order,
    byId: Object.fromEntries(ordered.order.map((id) => [id, made(ordered.byId[id])])),
  };
}
