import { existsSync } from 'node:fs';
import path from 'node:path';
import {
  OrdleError,
  beatsOfFile,
  bpmOfBeats,
  readMusic,
  sentenceOf,
  underFoundMap,
  writeMidi,
  type FoundBeats,
} from '@ordle/core';
import { readArguments } from '../arguments';
import { writeWhole } from '../cleaning/partialFiles';
import { EXIT_SOME_FAILED, EXIT_UNUSABLE, readInput, withName, type Surroundings } from '../surroundings';

/** What is printed of a file as JSON. Seconds, and beats a minute. */
interface TempoReport {
  bpm: number;
  confidence: number;
  beats: number[];
  downbeats: number[];
  meter: string;
  map: { seconds: number; bpm: number }[];
}

/**
 * `ordle tempo FILE... [--steady] [--json] [--write OUT.mid]`: the beats of a performance, from its note starts
 * alone. Returns 0; 1 when some files of several failed; 2 when none could be used.
 */
export function tempo(args: readonly string[], surroundings: Surroundings): number {
  const { values, positionals } = readArguments(args, {
    steady: { type: 'boolean', default: false },
    write: { type: 'string' },
    overwrite: { type: 'boolean', default: false },
    json: { type: 'boolean', default: false },
  });
  if (positionals.length === 0)
    throw new OrdleError(
      'usage',
      'Name the files: ordle tempo FILE... [--steady] [--json], or ordle tempo FILE --write OUT.mid',
    );
  if (values.write !== undefined && positionals.length > 1)
    throw new OrdleError('usage', '--write goes with one file; name one at a time.');
  const target = values.write === undefined ? null : path.resolve(surroundings.directory, values.write);
  if (target !== null && existsSync(target) && !values.overwrite)
    throw new OrdleError(
      'out-file',
      `${values.write ?? ''} is already there; give --overwrite to replace it.`,
    );
  const done: { file: string; report: TempoReport }[] = [];
  for (const name of positionals) {
    try {
      const { file } = readMusic(readInput(name, surroundings));
      const found = beatsOfFile(file, values.steady);
      if (target !== null) writeWhole(target, writeMidi(underFoundMap(file, found)));
      const report = reportOf(found, values.steady);
      done.push({ file: name, report });
      if (!values.json)
        surroundings.print(
          `${name}: ${report.bpm.toFixed(2)} bpm, ${report.meter}, ${report.beats.length} beats, confidence ${report.confidence.toFixed(2)}${values.write === undefined ? '' : `, written to ${values.write}`}`,
        );
    } catch (error) {
      surroundings.complain(withName(name, sentenceOf(error)));
    }
  }
  if (values.json && done.length > 0) {
    const files = done.map(({ file, report }) => ({ file, ...report }));
    surroundings.print(JSON.stringify(positionals.length === 1 ? done[0].report : { files }));
  }
  if (done.length === positionals.length) return 0;
  return done.length === 0 ? EXIT_UNUSABLE : EXIT_SOME_FAILED;
}

function reportOf(found: FoundBeats, isSteady: boolean): TempoReport {
  const { beats, downbeats, beatsPerBar, division, confidence } = found;
  const bpm = bpmOfBeats(beats);
  const gaps = Array.from(beats.subarray(1), (at, beat) => ({
    seconds: beat === 0 ? 0 : beats[beat],
    bpm: 60 / (at - beats[beat]),
  }));
  return {
    bpm,
    confidence,
    beats: [...beats],
    downbeats: downbeats.map((beat) => beats[beat]),
    meter: division === 'ternary' ? `${3 * beatsPerBar}/8` : `${beatsPerBar}/4`,
    map: isSteady ? [{ seconds: 0, bpm }] : gaps,
  };
}
