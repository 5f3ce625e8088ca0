import type { Database, SessionRecord } from './database';

/** What the shelf shows of a session. */
export interface SessionSummary {
  id: string;
  name: string;
  parts: number;
  notes: number;
  changedAt: number;
  /** Why it cannot be opened, as far as a glance at it tells; null for a sound one. */
  broken: string | null;
  /** Why its newest state is not stored yet; null when it is. */
  unsaved: string | null;
}

/** All stored sessions, the broken ones among them. */
export async function summariesIn(database: Database): Promise<SessionSummary[]> {
  return (await recordsOf(database)).map(summaryOf);
}

/** Reads all at once; where the browser cannot give one of them back, one by one, so that it costs only itself. */
async function recordsOf(database: Database): Promise<(Partial<SessionRecord> & { id: string })[]> {
  try {
    return await database.getAll('sessions');
  } catch {
    const ids = await database.getAllKeys('sessions');
    return Promise.all(
      ids.map((id) =>
        database.get('sessions', id).then(
          (record) => record ?? { id },
          () => ({ id }),
        ),
      ),
    );
  }
}

export function summaryOf(record: Partial<SessionRecord> & { id: string }): SessionSummary {
  const document: unknown = record.document;
  const fields =
    typeof document === 'object' && document !== null ? (document as Record<string, unknown>) : {};
  const { name } = fields;
  const [takes, parts] = [listed(fields.takes), listed(fields.parts)];
  const sound =
    typeof name === 'string' &&
    parts !== null &&
    takes !== null &&
    takes.every((take: unknown) => typeof (take as { noteCount?: unknown } | null)?.noteCount === 'number');
  return {
    id: record.id,
    name: typeof name === 'string' && name !== '' ? name : 'A session without a name',
    parts: parts?.length ?? 0,
    notes: sound
      ? takes.reduce((sum: number, take) => sum + (take as { noteCount: number }).noteCount, 0)
      : 0,
    changedAt: typeof record.changedAt === 'number' ? record.changedAt : 0,
    broken: sound ? null : 'What is stored of it is damaged.',
    unsaved: null,
  };
}

/** What a document lists: by id today, as a plain list in version 1; null where it is neither. */
function listed(value: unknown): unknown[] | null {
  if (Array.isArray(value)) return value;
  if (typeof value !== 'object' || value === null || !('byId' in value)) return null;
  return typeof value.byId === 'object' && value.byId !== null ? Object.values(value.byId) : null;
}
