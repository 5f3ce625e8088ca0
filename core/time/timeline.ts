import { DEFAULT_MICROSECONDS_PER_QUARTER, ticksPerQuarter, type Division } from './division';
import { createMeterMap, type MeterChange, type MeterMap } from './meterMap';
import { createTempoMap, effectiveTempos, type TempoChange, type TempoMap } from './tempoMap';

/**
 * Everything a step needs to know of time: what a tick is, the tempo map and the bars.
 *
 * @public
 */
export interface Timeline {
  division: Division;
  ticksPerQuarter: number;
  tempo: TempoMap;
  meter: MeterMap;
}

/** Builds the maps from the plain lists a file or a session holds. */
export function createTimeline(
  division: Division,
  tempos: readonly TempoChange[],
  meters: readonly MeterChange[],
): Timeline {
  const first = effectiveTempos(tempos)[0]?.microsecondsPerQuarter ?? DEFAULT_MICROSECONDS_PER_QUARTER;
  const quarter = ticksPerQuarter(division, first);
  return {
    division,
    ticksPerQuarter: quarter,
    tempo: createTempoMap(division, tempos),
    meter: createMeterMap(quarter, meters),
  };
}
