// Made once: to make a format costs some ten milliseconds, which every key press would pay.
const format = new Intl.NumberFormat('en');

/** A number as it is written: 12,345. */
export const figures = (value: number): string => format.format(value);

/** "1 note", "3 notes", "12,345 notes". */
export const counted = (count: number, one: string, many = `${one}s`): string =>
  count === 1 ? `1 ${one}` : `${figures(count)} ${many}`;

/** Bytes as people say them: "12,345 bytes", "71.0 MB". */
export const sizeInWords = (bytes: number): string =>
  bytes < 1e6 ? counted(bytes, 'byte') : `${figures(Math.round(bytes / 1e5) / 10)} MB`;

/** Milliseconds as a figure: with a tenth below ten. */
export const msInWords = (ms: number): string => (ms < 9.95 ? ms.toFixed(1) : ms.toFixed(0));

/** "bar 3", "bars 3 to 5"; the last counts. */
export const barsInWords = (first: number, last: number): string =>
  first === last ? `bar ${first}` : `bars ${first} to ${last}`;
