import { parseArgs, type ParseArgsConfig } from 'node:util';
import { OrdleError } from '@ordle/core';

/** Parses a command's arguments; a mistake becomes an OrdleError `usage` in a plain sentence. */
export function readArguments<T extends NonNullable<ParseArgsConfig['options']>>(
  args: readonly string[],
  options: T,
) {
  try {
    return parseArgs({ args: [...args], options, allowPositionals: true, strict: true });
  } catch (error) {
    throw new OrdleError(
      'usage',
      `${error instanceof Error ? error.message : String(error)} (see "ordle help")`,
    );
  }
}

/** A number given as an option. Throws OrdleError `usage` naming the option and its range. */
export function numberOf(name: string, given: unknown, low: number, high: number): number {
  const value = Number(given);
  if (String(given).trim() === '' || !(value >= low && value <= high))
    throw new OrdleError(
      'usage',
      `--${name} must be a number from ${low} to ${high}, not "${String(given)}".`,
    );
  return value;
}
