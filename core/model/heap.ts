/** Things of which the one that comes first is at hand (a binary heap). */
export interface Heap<T> {
  readonly size: number;
  add(item: T): void;
  first(): T | undefined;
  /** Takes the first one out. */
  take(): T | undefined;
}

export function createHeap<T>(isBefore: (one: T, other: T) => boolean): Heap<T> {
  const items: T[] = [];
  return {
    get size() {
      return items.length;
    },
    add(item) {
      let at = items.push(item) - 1;
      for (let up = (at - 1) >> 1; at > 0 && isBefore(item, items[up]); up = (at - 1) >> 1) {
        items[at] = items[up];
        at = up;
      }
      items[at] = item;
    },
    first: () => items[0] as T | undefined,
    take() {
      const first = items[0] as T | undefined;
      const last = items.pop();
      if (last === undefined || items.length === 0) return first;
      let at = 0;
      for (;;) {
        let child = 2 * at + 1;
        if (child + 1 < items.length && isBefore(items[child + 1], items[child])) child++;
        if (child >= items.length || !isBefore(items[child], last)) break;
        items[at] = items[child];
        at = child;
      }
      items[at] = last;
      return first;
    },
  };
}
