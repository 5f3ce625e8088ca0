import type { SessionRecord, SummaryRecord } from './database';

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

/** The summary of a stored session, however damaged it is. */
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

/** What is stored of a summary: without what depends on how storing goes. */
export function summaryRecordOf(record: Partial<SessionRecord> & { id: string }): SummaryRecord {
  const { id, name, parts, notes, changedAt } = summaryOf(record);
  return { id, name, parts, notes, changedAt };
}
