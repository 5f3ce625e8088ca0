import type { z } from 'zod';
import { OrdleError } from '../errors';

/** What clipboard text holds. Throws `clipboard` with a sentence when it is not of the kind wanted, JSON or not. */
export function readClipboard<T>(schema: z.ZodType<T>, text: string, sentence: string): T {
  let value: unknown = null;
  try {
    value = JSON.parse(text);
  } catch {
    // Other text on the clipboard: the same sentence as for other JSON.
  }
  const parsed = schema.safeParse(value);
  if (!parsed.success) throw new OrdleError('clipboard', sentence);
  return parsed.data;
}
