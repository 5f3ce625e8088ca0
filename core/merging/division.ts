import type { MidiFile } from '../midi';
import { collectTempoAndMeter } from '../midi';
import { ticksPerQuarter, type Division } from '../time';

const quarterOf = (file: MidiFile): number =>
  ticksPerQuarter(
    file.division,
    collectTempoAndMeter(file.tracks).tempos[0]?.microsecondsPerQuarter ?? 500000,
  );

/**
 * A file in the finest division of several, laid by its quarters; the very same where its own is the finest. Ticks
 * are not rounded here: that happens once, on writing. A division of film frames counts by the quarters of its first
 * tempo.
 */
export function inFinestDivision(file: MidiFile, all: readonly MidiFile[]): MidiFile {
  const own = quarterOf(file);
  const finest = Math.min(0x7fff, Math.max(...all.map(quarterOf)));
  if (finest <= own) return file;
  const scale = Math.round(finest) / own;
  const division: Division = { kind: 'metrical', ticksPerQuarter: Math.round(finest) };
  return {
    ...file,
    division,
    tracks: file.tracks.map(({ events, endTick }) => ({
      events: { ...events, tick: events.tick.map((tick) => tick * scale) },
      endTick: endTick * scale,
    })),
  };
}
