import {
  OrdleError,
  noteValueSchema,
  readMusic,
  readingsOfFile,
  sentenceOf,
  type NamedReading,
} from '@ordle/core';
import { readArguments } from '../arguments';
import { EXIT_SOME_FAILED, EXIT_UNUSABLE, readInput, withName, type Surroundings } from '../surroundings';

/**
 * `ordle readings FILE... [--grid 1/16] [--json]`: what can be measured of each part with notes. Returns 0; 1 when
 * some files of several failed; 2 when none could be used.
 */
export function readings(args: readonly string[], surroundings: Surroundings): number {
  const { values, positionals } = readArguments(args, {
    grid: { type: 'string', default: '1/16' },
    json: { type: 'boolean', default: false },
  });
  if (positionals.length === 0)
    throw new OrdleError('usage', 'Name the files to measure: ordle readings FILE... [--grid 1/16] [--json]');
  const grid = noteValueSchema.safeParse(values.grid);
  if (!grid.success)
    throw new OrdleError('usage', `--grid must be a note value such as 1/16 or 1/8T, not "${values.grid}".`);
  const done: { file: string; parts: NamedReading[] }[] = [];
  for (const name of positionals) {
    try {
      const parts = readingsOfFile(readMusic(readInput(name, surroundings)).file, grid.data);
      done.push({ file: name, parts });
      if (!values.json) tell(name, parts, surroundings);
    } catch (error) {
      surroundings.complain(withName(name, sentenceOf(error)));
    }
  }
  if (values.json && done.length > 0)
    surroundings.print(JSON.stringify(positionals.length === 1 ? { parts: done[0].parts } : { files: done }));
  if (done.length === positionals.length) return 0;
  return done.length === 0 ? EXIT_UNUSABLE : EXIT_SOME_FAILED;
}

function tell(name: string, parts: readonly NamedReading[], { print }: Surroundings) {
  const ms = (value: number | null) => (value === null ? 'none' : `${value.toFixed(1)} ms`);
  print(`${name}: ${parts.length} parts with notes`);
  for (const part of parts) {
    const best = part.grids.reduce((most, grid) => (grid.fit > most.fit ? grid : most), part.grids[0]);
    print(
      `  ${part.name || 'without a name'}, channel ${part.channel}, ${part.notes} notes: bias ${ms(part.biasMs)}, spread ${ms(part.spreadMs)}, off ${ms(part.offMs)}, ${part.swing === null ? 'no swing' : `swing ${part.swing.toFixed(1)} %`}, ${part.key ?? 'no key'}, best grid ${best.grid}`,
    );
  }
}
