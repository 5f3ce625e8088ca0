import { OrdleError, inspectMidi, readMusic, sentenceOf, type FileReport } from '@ordle/core';
import { readArguments } from '../arguments';
import { EXIT_SOME_FAILED, EXIT_UNUSABLE, readInput, withName, type Surroundings } from '../surroundings';

/**
 * `ordle inspect FILE... [--json]`: what is in each file. One JSON object a file, one a line when there are several.
 * Returns 0; 1 when some files of several failed; 2 when none could be read.
 */
export function inspect(args: readonly string[], surroundings: Surroundings): number {
  const { values, positionals } = readArguments(args, { json: { type: 'boolean', default: false } });
  if (positionals.length === 0)
    throw new OrdleError('usage', 'Name the file to inspect: ordle inspect FILE --json');
  let failed = 0;
  for (const name of positionals) {
    try {
      const report = inspectMidi(readMusic(readInput(name, surroundings)));
      if (values.json) surroundings.print(JSON.stringify({ file: name, ...report }));
      else printReport(name, report, surroundings);
    } catch (error) {
      surroundings.complain(withName(name, sentenceOf(error)));
      failed++;
    }
  }
  if (failed === 0) return 0;
  return failed === positionals.length ? EXIT_UNUSABLE : EXIT_SOME_FAILED;
}

function printReport(name: string, report: FileReport, { print }: Surroundings) {
  const division =
    typeof report.division === 'number'
      ? `${report.division} ticks a quarter`
      : `${report.division.framesPerSecond} frames of ${report.division.ticksPerFrame} ticks`;
  print(
    `${name}: format ${report.format}, ${division}, ${report.durationSeconds.toFixed(2)} s, ${report.notes} notes`,
  );
  print(
    `  tempo ${report.tempos
      .slice(0, 4)
      .map(({ tick, bpm }) => `${bpm} bpm at ${tick}`)
      .join(', ')}${report.tempos.length > 4 ? ', ...' : ''}`,
  );
  print(
    `  meter ${report.meters
      .slice(0, 4)
      .map(({ tick, numerator, denominator }) => `${numerator}/${denominator} at ${tick}`)
      .join(', ')}${report.meters.length > 4 ? ', ...' : ''}`,
  );
  for (const track of report.tracks) {
    const controllers = Object.entries(track.controllers)
      .map(([lane, count]) => `${lane} ${count}`)
      .join(', ');
    print(
      `  track ${track.index + 1} "${track.name}": ${track.notes} notes, channels ${track.channels.join(' ') || 'none'}${controllers ? `, ${controllers}` : ''}`,
    );
  }
  for (const repair of report.repairs) print(`  repaired: ${repair.message}`);
}
