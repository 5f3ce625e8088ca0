import type { Database } from './database';
import { summaryOf, type SessionSummary } from './summary';

/** All stored sessions by their summaries, so that no document is read to show the shelf. */
export async function summariesIn(database: Database): Promise<SessionSummary[]> {
  const transaction = database.transaction(['summaries', 'sessions']);
  const [summaries, ids] = await Promise.all([
    transaction.objectStore('summaries').getAll(),
    transaction.objectStore('sessions').getAllKeys(),
  ]);
  const known = new Map(summaries.map((summary) => [summary.id, summary]));
  return Promise.all(
    ids.map(async (id): Promise<SessionSummary> => {
      const summary = known.get(id);
      if (summary) return { broken: null, unsaved: null, ...summary };
      // Without a summary the session itself is looked at; where the browser cannot give it back, that costs only
      // itself.
      return summaryOf((await database.get('sessions', id).catch(() => undefined)) ?? { id });
    }),
  );
}
