import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { createTimeline, joinTables, noteTableOf, readMidi, takesOfFile, ticksToSeconds } from '@ordle/core';
import { FOLDERS } from '../others';
import PIECES from './pieces.json';
import { TICKS_PER_SECOND } from './performances';

/** A piece by others, its time bent, with the beats of its own bars. */
export interface BentPiece {
  name: string;
  notes: ReturnType<typeof noteTableOf>;
  beats: Float64Array;
}

/** Pieces with fewer notes, or shorter ones (seconds), say too little; longer ones are cut there. */
const [LEAST_NOTES, SHORTEST, LONGEST] = [150, 20, 90];

/**
 * Openly licensed pieces that come with packages of the registries, named one by one (pieces.json), so that the row is
 * the same wherever it is measured: sequenced, and so bent in time here, by up to 8 percent, back and forth, each in
 * its own way. Takes that were played freely are left out, since their bars are not where their beats are. `missing`
 * are those that are not installed.
 */
export function bentPieces(): { pieces: BentPiece[]; missing: string[] } {
  const missing: string[] = [];
  const named = Object.entries(PIECES).flatMap(([source, names]) =>
    names.map((name) => ({ name: `${source}/${name}`, file: path.resolve(FOLDERS[source], name) })),
  );
  const pieces = named.flatMap(({ name, file }, index) => {
    if (existsSync(file)) return bent(file, index) ?? [];
    missing.push(name);
    return [];
  });
  return { pieces, missing };
}

function bent(name: string, index: number): BentPiece | null {
  try {
    const { file } = readMidi(readFileSync(name));
    if (file.division.kind !== 'metrical') return null;
    const takes = takesOfFile(file, () => '');
    const notes = joinTables(takes.map((take) => take.notes));
    const [{ tempos, meters }] = takes;
    const { tempo, meter } = createTimeline(file.division, tempos, meters);
    if (notes.length < LEAST_NOTES) return null;
    if (ticksToSeconds(tempo, notes.start[notes.length - 1]) < SHORTEST) return null;
    const bend = (second: number) => second + 0.72 * Math.sin(second / 9 + index);
    const at = (tick: number) => bend(ticksToSeconds(tempo, tick) + 2) - bend(2) + 0.3;
    const rows = Array.from(notes.start.keys()).filter((row) => at(notes.start[row]) < LONGEST);
    const table = noteTableOf(
      rows.map((row) => ({
        id: row,
        start: at(notes.start[row]) * TICKS_PER_SECOND,
        end: at(notes.end[row]) * TICKS_PER_SECOND,
        pitch: notes.pitch[row],
        velocity: notes.velocity[row],
        release: 64,
        channel: notes.channel[row],
      })),
    );
    const quarter = file.division.ticksPerQuarter;
    const isCompound = meter.denominator[0] === 8 && meter.numerator[0] % 3 === 0;
    const step = isCompound ? quarter * 1.5 : (quarter * 4) / meter.denominator[0];
    const last = notes.start[rows[rows.length - 1]];
    const beats = Float64Array.from({ length: Math.floor(last / step) + 1 }, (_, beat) => at(beat * step));
    return { name: path.basename(name), notes: table, beats };
  } catch {
    // Some of these files are broken on purpose.
    return null;
  }
}
