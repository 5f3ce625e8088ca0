import { OrdleError, fromBase64, toBase64 } from '@ordle/core';
import { z } from 'zod';

/** What a browser keeps beside sessions: values of the database by their keys, and of the local storage. */
const preferencesSchema = z.object({
  marks: z.record(z.string(), z.unknown()),
  local: z.record(z.string(), z.string()),
});
export type Preferences = z.infer<typeof preferencesSchema>;

const headSchema = z.object({
  ordle: z.literal('back-up'),
  version: z.literal(1),
  sessions: z.int().min(0),
  preferences: preferencesSchema,
});
const sessionSchema = z.object({ name: z.string(), file: z.string() });

/** A session in a back-up: its name, and the bytes of its session file. */
export interface BackedUp {
  name: string;
  bytes: Uint8Array;
}

const BEGINNING = '{"ordle":"back-up"';

/** Whether a text or the beginning of one is that of a back-up. */
export const isBackUp = (text: string): boolean => text.startsWith(BEGINNING);

/**
 * A back-up is lines of JSON: what there is, then a line a session, so that whatever becomes of one the others can be
 * read.
 */
export const headOf = (sessions: number, preferences: Preferences): string =>
  `${JSON.stringify({ ordle: 'back-up', version: 1, sessions, preferences })}\n`;
export const lineOf = ({ name, bytes }: BackedUp): string =>
  `${JSON.stringify({ name, file: toBase64(bytes) })}\n`;

/**
 * What is whole in a back-up, and in sentences what is not. Throws OrdleError `back-up` where it is none, and
 * `back-up-newer` where a newer Ordle wrote it.
 */
export function readBackUp(text: string): {
  sessions: BackedUp[];
  preferences: Preferences | null;
  damaged: string[];
} {
  const [first, ...lines] = text.split('\n');
  if (!isBackUp(first)) throw new OrdleError('back-up', 'This file is no back-up of Ordle.');
  const head = headSchema.safeParse(jsonOf(first));
  const version = (jsonOf(first) as { version?: unknown } | null)?.version;
  if (!head.success && typeof version === 'number' && version > 1)
    throw new OrdleError(
      'back-up-newer',
      'This back-up was made by a newer Ordle than this one. Update, then restore it.',
    );
  const damaged: string[] = head.success ? [] : ['Recipes, grooves, keys and settings are damaged.'];
  const sessions: BackedUp[] = [];
  for (const [at, line] of lines.entries()) {
    if (line === '') continue;
    const read = sessionSchema.safeParse(jsonOf(line));
    const bytes = read.success ? bytesOf(read.data.file) : null;
    if (read.success && bytes) sessions.push({ name: read.data.name, bytes });
    else damaged.push(`The ${at + 1}. session is damaged, or it was cut short.`);
  }
  const expected = head.success ? head.data.sessions : 0;
  const missing = expected - lines.filter((line) => line !== '').length;
  if (missing > 0) damaged.push(missing === 1 ? '1 session is missing.' : `${missing} sessions are missing.`);
  return { sessions, preferences: head.success ? head.data.preferences : null, damaged };
}

function jsonOf(line: string): unknown {
  try {
    return JSON.parse(line);
  } catch {
    return null;
  }
}

function bytesOf(text: string): Uint8Array | null {
  try {
    return fromBase64(text);
  } catch {
    return null;
  }
}
