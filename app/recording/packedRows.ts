import { z } from 'zod';

/** Rows of so many numbers as one column: thousands of them are stored in a moment. */
export const packRows = (rows: readonly (readonly number[])[]) => Float64Array.from(rows.flat());

/** Such a column as rows again; what is no such column is refused. */
export const packedRows = (width: number) =>
  z
    .instanceof(Float64Array)
    .refine(({ length }) => length % width === 0, { message: 'must hold whole rows' })
    .transform((column) =>
      Array.from({ length: column.length / width }, (_, row) =>
        Array.from(column.subarray(row * width, (row + 1) * width)),
      ),
    );

/** Whether status and data are those of a channel message. */
export const isMessage = (status: number, data1: number, data2: number): boolean =>
  [status, data1, data2].every(Number.isInteger) &&
  status >= 0x80 &&
  status < 0xf0 &&
  Math.min(data1, data2) >= 0 &&
  Math.max(data1, data2) < 128;
