import { z } from 'zod';
import {
  checkExport,
  onlyParts,
  ticksWritten,
  weaveFile,
  type ExportCheck,
  type MidiLayout,
} from '../../evaluate';
import { writeMidi } from '../../midi';
import type { Session } from '../../session';
import { effectiveTempos } from '../../time';
import type { FormatKind, PlannedFile, Portion } from '../formatKind';

export const midiOptions = z.strictObject({
  /** As the music came; a track for each part (format 1); or all in one track (format 0). */
  layout: z.enum(['came', 'parts', 'one']).default('came'),
  /** Ticks of a quarter; null as they are in the session. */
  division: z.int().min(1).max(0x7fff).nullable().default(null),
  /** A file for each part. */
  apart: z.boolean().default(false),
  overlaps: z.enum(['keep', 'cut']).default('keep'),
  /** Whether bank selection and program changes are written, and the names of tracks. */
  programs: z.boolean().default(true),
  names: z.boolean().default(true),
});
export type MidiOptions = z.infer<typeof midiOptions>;

/** How these options lay a file out. */
export function layoutOf(session: Session, options: MidiOptions): MidiLayout {
  const { layout, division, overlaps, programs, names } = options;
  const came = layout === 'came';
  return {
    format: layout === 'one' || (came && session.sourceFormat === 0) ? 0 : 1,
    tracks: came ? 'source' : 'parts',
    ...(division !== null && { division }),
    overlaps,
    leaves: { programs: !programs, names: !names },
  };
}

/** What there is to know before such files are written. */
export const checkMidi = ({ chosen, source }: Portion, options: MidiOptions): ExportCheck =>
  checkExport(chosen, layoutOf(chosen.session, options), source.evaluator, source.takeOf);

/** Standard MIDI File 1.0. */
export const midi: FormatKind<MidiOptions> = {
  id: 'mid',
  title: 'Standard MIDI File',
  tells: 'the notes and all that belongs to them',
  options: midiOptions,
  isCut: true,
  cannotHold: ({ programs, names }) => [
    'Takes, steps and what was played stay here: it holds the outcome.',
    ...(programs ? [] : ['Which sounds the parts have is left out.']),
    ...(names ? [] : ['Names of the parts are left out.']),
  ],
  check({ chosen, source }, { division }) {
    const { division: own, tempos } = chosen.session;
    if (division === null || own.kind !== 'metrical' || division % own.ticksPerQuarter === 0) return [];
    // Half a tick either way, at the slowest tempo there is.
    const slowest = effectiveTempos(tempos).reduce(
      (most, { microsecondsPerQuarter }) => Math.max(most, microsecondsPerQuarter),
      0,
    );
    const farthest =
      slowest / 1000 / ticksWritten(chosen, { division }, source.takeOf) / own.ticksPerQuarter / 2;
    return [`Its ticks are others than the session's: notes move by up to ${farthest.toFixed(1)} ms.`];
  },
  files(portion, options) {
    const { chosen, source } = portion;
    const layout = layoutOf(chosen.session, options);
    const fileOf = (part: string, of: typeof chosen, words: string): PlannedFile => ({
      part,
      extension: 'mid',
      words,
      *chunks() {
        yield writeMidi(weaveFile(of, layout, source.takeOf));
      },
    });
    const { parts } = chosen;
    if (!options.apart) return [fileOf('', chosen, `${countOf(parts.length)}, format ${layout.format}`)];
    return parts.map(({ part }) =>
      fileOf(part.name, onlyParts(chosen, [part.id]), `format ${layout.format}`),
    );
  },
};

export const countOf = (parts: number): string => (parts === 1 ? '1 part' : `${parts} parts`);
