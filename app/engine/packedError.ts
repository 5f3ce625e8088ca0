import { OrdleError } from '@ordle/core';

/** An error as a plain value. `code` is null for errors nobody foresaw. */
export interface PackedError {
  code: string | null;
  message: string;
}

export function packError(error: unknown): PackedError {
  if (error instanceof OrdleError) return { code: error.code, message: error.message };
  return { code: null, message: error instanceof Error ? error.message : String(error) };
}

export function unpackError({ code, message }: PackedError): Error {
  return code === null ? new Error(message) : new OrdleError(code, message);
}
