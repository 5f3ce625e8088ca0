import { z } from 'zod';
import { OrdleError, sentenceOf } from '../errors';
import type { EventColumns } from '../midi';
import { faultOfTake, keepsItsKey, type StoredTake } from '../model';
import {
  divisionSchema,
  isOfUnknownKey,
  itemOf,
  metersSchema,
  namedIn,
  readDocument,
  temposSchema,
  toStore,
  type Session,
} from '../session';
import { faultOfColumns, keyOfColumns, type EditTable } from '../steps';
import { fromBase64, toBase64 } from './base64';

/**
 * A session with all it refers to, as one file holds it.
 *
 * @public
 */
export interface SessionFile {
  session: Session;
  takes: StoredTake[];
  tables: EditTable[];
  /** What was done and undone, as whoever keeps histories has it; not looked into here. */
  history?: unknown;
}

/**
 * The columns of events and of hand edits, with the kind of number each holds; in a file their bytes, the least
 * significant first, as base64.
 */
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

/** Version of the file around the document, which has one of its own. */
const FILE_VERSION = 1;

const fileSchema = z.strictObject({
  ordle: z.literal('session file'),
  version: z.literal(FILE_VERSION),
  session: z.unknown(),
  takes: z.array(
    z.strictObject({
      key: z.string().max(500),
      name: z.string(),
      division: divisionSchema,
      tempos: temposSchema,
      meters: metersSchema,
      endTick: z.number(),
      events: columnsSchema(EVENTS),
      releases: z.string().optional(),
    }),
  ),
  tables: z.array(z.strictObject({ key: z.string(), columns: columnsSchema(EDITS) })),
  history: z.unknown().optional(),
});

/**
 * A session with its takes and large hand edits as text (JSON), with its history where that is given. Throws OrdleError
 * `session-file` where something it names is not given: it could not be read again.
 *
 * @public
 */
export function writeSessionFile({ session, takes, tables, history }: SessionFile): string {
  checkNames(session, new Set(takes.map(({ key }) => key)), tables);
  return JSON.stringify({
    ordle: 'session file',
    version: FILE_VERSION,
    // As it is read: what is read again and written is the same to the byte.
    session: toStore(readDocument(toStore(session))),
    takes: takes.map(({ key, name, division, tempos, meters, endTick, events, releases }) => ({
      key,
      name,
      division,
      tempos,
      meters,
      endTick,
      events: packed(EVENTS, events),
      ...(releases && { releases: packed({ releases: Uint32Array }, { releases }).releases }),
    })),
    tables: tables.map((table) => ({ key: table.key, columns: packed(EDITS, table) })),
    ...(history !== undefined && { history }),
  });
}

/** Where takes and large hand edits are found by their keys; null where one is not there. */
export interface KeptContent {
  take(key: string): StoredTake | null | Promise<StoredTake | null>;
  table(key: string): EditTable | null | Promise<EditTable | null>;
}

/** How a content key looks in any text. */
const KEY = /(?:\d+:)?[0-9a-f]{64}/g;

/** Every content key something mentions, however deep, in the order in which it does. */
export const keysIn = (record: unknown): string[] => JSON.stringify(record ?? null).match(KEY) ?? [];

/**
 * A session with all it refers to, always in the same order; with a history also what only that mentions and is still
 * there, so that it can be brought back. Throws OrdleError `take-missing` where something of the session is not.
 */
export async function collectSessionFile(
  session: Session,
  kept: KeptContent,
  history?: unknown,
): Promise<SessionFile> {
  const named = namedIn(session);
  const takes = new Map<string, StoredTake>();
  const tables = new Map<string, EditTable>();
  const missing = () =>
    new OrdleError(
      'take-missing',
      'Something this session is made of is no longer here, so it cannot be written.',
    );
  for (const key of named.takes) {
    const take = await kept.take(key);
    if (!take) throw missing();
    takes.set(key, take);
  }
  for (const key of named.tables) {
    const table = await kept.table(key);
    if (!table) throw missing();
    tables.set(key, table);
  }
  for (const key of new Set(history === undefined ? [] : keysIn(history))) {
    if (takes.has(key) || tables.has(key)) continue;
    const take = await kept.take(key);
    if (take) takes.set(key, take);
    const table = take ? null : await kept.table(key);
    if (table) tables.set(key, table);
  }
  return {
    session,
    takes: [...takes.values()],
    tables: [...tables.values()],
    ...(history !== undefined && { history }),
  };
}

/**
 * Reads such a text; sessions of earlier versions become today's. Everything in it is checked before anything of it
 * is given back: columns, keys, and that all that is named is there. Throws OrdleError `session-file` where it is
 * none or is damaged, with what and where, `session-newer` where it holds what this program does not know yet, and as
 * `readDocument` does.
 *
 * @public
 */
export function readSessionFile(text: string): SessionFile {
  const value = jsonOf(text);
  const parsed = fileSchema.safeParse(value);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    const isNewer =
      isOurs(value) && (value.version > FILE_VERSION || parsed.error.issues.some(isOfUnknownKey));
    if (isNewer)
      throw new OrdleError(
        'session-newer',
        'This session file was saved by a newer Ordle than this one. Update, then open it again.',
      );
    throw new OrdleError(
      'session-file',
      `This is no session file, or a damaged one: ${issue.path.join('.') || 'its start'}: ${issue.message}.`,
    );
  }
  const { data } = parsed;
  const session = readDocument(data.session);
  const takes = data.takes.map(readTake);
  const tables = data.tables.map(readTable);
  checkNames(session, new Set(takes.map(({ key }) => key)), tables);
  return { session, takes, tables, ...(data.history !== undefined && { history: data.history }) };
}

/** Whether something calls itself a session file, of whatever version. */
const isOurs = (value: unknown): value is { version: number } =>
  typeof value === 'object' &&
  value !== null &&
  'ordle' in value &&
  value.ordle === 'session file' &&
  'version' in value &&
  typeof value.version === 'number';

type FileContent = z.infer<typeof fileSchema>;

function readTake({ events, releases, ...take }: FileContent['takes'][number]): StoredTake {
  const damaged = (why: string) =>
    new OrdleError('session-file', `The take “${take.name}” in this session file is damaged${why}.`);
  const made: StoredTake = {
    ...take,
    events: eventsOf(events, take.name),
    ...(releases !== undefined && {
      releases: unpacked({ releases: Uint32Array }, { releases }).releases as Uint32Array,
    }),
  };
  // What it says comes before what it is called by: a key fits whatever it was made of.
  const fault = faultOfTake(made);
  if (fault) throw damaged(`: ${fault}`);
  if (!keepsItsKey(made)) throw damaged('');
  return made;
}

function readTable({ key, columns }: FileContent['tables'][number]): EditTable {
  const table = { key, ...unpacked(EDITS, columns) } as unknown as EditTable;
  const fault =
    faultOfColumns(table) ?? (keyOfColumns(table) === key ? null : 'its content is not what its key says');
  if (fault) throw new OrdleError('session-file', `Hand edits in this session file are damaged: ${fault}.`);
  return table;
}

/** Everything a document names has to be there: takes, hand edits of many notes, and parts. */
function checkNames(session: Session, takes: ReadonlySet<string>, tables: readonly EditTable[]): void {
  const named = namedIn(session);
  const missing = (what: string) => new OrdleError('session-file', `${what} missing in this session file.`);
  for (const key of named.takes)
    if (!takes.has(key))
      throw missing(`The take “${itemOf(session.takes, key)?.name ?? key.slice(0, 20)}” is`);
  const there = new Set(tables.map(({ key }) => key));
  for (const key of named.tables) if (!there.has(key)) throw missing('Hand edits of many notes are');
  for (const id of named.parts)
    if (!itemOf(session.parts, id)) throw missing('A part that another one is made of is');
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
