import type { SessionSummary } from '@/storage/summary';

/** What the shelf can be put in order by. */
export type Order = 'changed' | 'name' | 'notes';

export const ORDERS: readonly { order: Order; words: string }[] = [
  { order: 'changed', words: 'last changed first' },
  { order: 'name', words: 'by name' },
  { order: 'notes', words: 'most notes first' },
];

/** The sessions whose names hold all words of a search, in order; broken ones are found by name too. */
export function listed(sessions: readonly SessionSummary[], search: string, order: Order): SessionSummary[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const found = sessions.filter(({ name }) => words.every((word) => name.toLowerCase().includes(word)));
  const compare = {
    changed: (a: SessionSummary, b: SessionSummary) => b.changedAt - a.changedAt,
    name: (a: SessionSummary, b: SessionSummary) => a.name.localeCompare(b.name, 'en', { numeric: true }),
    notes: (a: SessionSummary, b: SessionSummary) => b.notes - a.notes,
  }[order];
  return found.sort(compare);
}
