import { strToU8 } from 'fflate';
/** What a spreadsheet would take for a formula when a text begins with it. */
const FORMULA = /^[=+\-@\t\r]/;

/** A person's text as a field: never a formula, in quotes where it has to be (RFC 4180). */
export const textField = (text: string): string => quoted(FORMULA.test(text) ? `'${text}` : text);

const quoted = (text: string): string => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

/** Rows that are put together before they are handed on. */
const ROWS_AT_ONCE = 4096;

/** A table as RFC 4180 has it, in UTF-8: a header line, then rows of fields, each line ended by CR and LF. */
export function* csvOf(header: readonly string[], rows: Iterable<string>): Generator<Uint8Array> {
  let lines = [header.join(',')];
  for (const row of rows) {
    if (lines.length === ROWS_AT_ONCE) {
      yield strToU8(`${lines.join('\r\n')}\r\n`);
      lines = [];
    }
    lines.push(row);
  }
  if (lines.length > 0) yield strToU8(`${lines.join('\r\n')}\r\n`);
}
