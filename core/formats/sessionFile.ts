import { z } from 'zod';
import { OrdleError, sentenceOf } from '../errors';
import type { EventColumns } from '../midi';
import { keepsItsKey, type StoredTake } from '../model';
import { divisionSchema, readDocument, type Session } from '../session';
import type { EditTable } from '../steps';
import { fromBase64, toBase64 } from './base64';

/** A session with all it refers to, as one file holds it. */
export interface SessionFile {
  session: Session;
  takes: StoredTake[];
  tables: EditTable[];
}

/** The columns of events and of hand edits, with the kind of number each holds; in a file their bytes, the least significant first, as base64. */
const EVENTS = {
  tick: Float64Array,
  status: Uint8Array,
  data1: Uint8Array,
  data2: Uint8Array,
  payload: Uint32Array,
  payloadStart: Uint32Array,
  bytes: Uint8Array,
} as const;
const EDITS = {
  id: Float64Array,
  fields: Uint8Array,
  start: Float64Array,
  end: Float64Array,
  pitch: Uint8Array,
  velocity: Float64Array,
  channel: Uint8Array,
} as const;

type Columns = Record<string, Float64ArrayConstructor | Uint8ArrayConstructor | Uint32ArrayConstructor>;
type Column = Float64Array | Uint8Array | Uint32Array;

function packed(columns: Columns, source: object): Record<string, string> {
  return Object.fromEntries(
    Object.keys(columns).map((name) => {
      const { buffer, byteOffset, byteLength } = (source as Record<string, Column>)[name];
      return [name, toBase64(new Uint8Array(buffer, byteOffset, byteLength))];
    }),
  );
}

function unpacked(columns: Columns, source: Readonly<Record<string, string>>): Record<string, Column> {
  return Object.fromEntries(
    Object.entries(columns).map(([name, Kind]) => {
      const bytes = fromBase64(source[name] ?? '');
      if (bytes.length % Kind.BYTES_PER_ELEMENT !== 0)
        throw new OrdleError('session-file', 'A column is cut short.');
      return [name, new Kind(bytes.buffer as ArrayBuffer)];
    }),
  );
}

const columnsSchema = (columns: Columns) =>
  z.strictObject(Object.fromEntries(Object.keys(columns).map((name) => [name, z.string()])));

const fileSchema = z.strictObject({
  ordle: z.literal('session file'),
  version: z.literal(1),
  session: z.unknown(),
  takes: z.array(
    z.strictObject({
      key: z.string(),
      name: z.string(),
      division: divisionSchema,
      tempos: z.array(z.strictObject({ tick: z.number(), microsecondsPerQuarter: z.number() })),
      meters: z.array(z.strictObject({ tick: z.number(), numerator: z.number(), denominator: z.number() })),
      endTick: z.number(),
      events: columnsSchema(EVENTS),
    }),
  ),
  tables: z.array(z.strictObject({ key: z.string(), columns: columnsSchema(EDITS) })),
});

/** A session with its takes and large hand edits as text (JSON). Its history is not in it. */
export function writeSessionFile({ session, takes, tables }: SessionFile): string {
  return JSON.stringify({
    ordle: 'session file',
    version: 1,
    session,
    takes: takes.map(({ key, name, division, tempos, meters, endTick, events }) => ({
      key,
      name,
      division,
      tempos,
      meters,
      endTick,
      events: packed(EVENTS, events),
    })),
    tables: tables.map((table) => ({ key: table.key, columns: packed(EDITS, table) })),
  });
}

/**
 * Reads such a text; sessions of earlier versions become today's. Throws OrdleError `session-file` where it is none or is damaged, with what and where, and
 * as `readDocument` does.
 */
export function readSessionFile(text: string): SessionFile {
  const parsed = fileSchema.safeParse(jsonOf(text));
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw new OrdleError(
      'session-file',
      `This is no session file, or a damaged one: ${issue.path.join('.') || 'its start'}: ${issue.message}.`,
    );
  }
  const { data } = parsed;
  const session = readDocument(data.session);
  const takes = data.takes.map(({ events, ...take }): StoredTake => {
    const made = { ...take, events: eventsOf(events, take.name) };
    if (!keepsItsKey(made))
      throw new OrdleError('session-file', `The take “${take.name}” in this session file is damaged.`);
    return made;
  });
  const missing = session.takes.order.find((key) => !takes.some((take) => take.key === key));
  if (missing !== undefined)
    throw new OrdleError(
      'session-file',
      `The take “${session.takes.byId[missing].name}” is missing in this session file.`,
    );
  const tables = data.tables.map(
    ({ key, columns }) => ({ key, ...unpacked(EDITS, columns) }) as unknown as EditTable,
  );
  return { session, takes, tables };
}

function eventsOf(columns: Readonly<Record<string, string>>, name: string): EventColumns {
  try {
    const events = unpacked(EVENTS, columns) as unknown as EventColumns;
    return { ...events, length: events.tick.length };
  } catch (error) {
    throw new OrdleError(
      'session-file',
      `The take “${name}” in this session file is damaged: ${sentenceOf(error)}`,
    );
  }
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new OrdleError('session-file', 'This is no session file: it is not JSON.');
  }
}

/** Whether bytes are those of a compressed session file (gzip, RFC 1952) rather than of a MIDI file. */
export const isCompressed = (bytes: Uint8Array): boolean => bytes[0] === 0x1f && bytes[1] === 0x8b;
