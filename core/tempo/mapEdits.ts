import { OrdleError } from '../errors';
import { collectTempoAndMeter, type MidiFile } from '../midi';
import {
  barAt,
  bpmOf,
  createMeterMap,
  effectiveMeters,
  effectiveTempos,
  microsecondsOf,
  type MeterChange,
  type TempoChange,
} from '../time';
import { medianGap } from './findBeats';

/** Tempos a person may mean, in quarters a minute. */
export const USUAL_BPM = { least: 4, most: 1000 } as const;

const microseconds = (bpm: number) => Math.min(0xffffff, Math.max(1, microsecondsOf(bpm)));
const byTick = (one: { tick: number }, other: { tick: number }) => one.tick - other.tick;

/** Changes with one at a tick, in place of one that is there; it holds until the next. */
function withChange<C extends { tick: number }>(changes: readonly C[], change: C): C[] {
  return [...changes.filter(({ tick }) => tick !== change.tick), change].sort(byTick);
}

/** From a tick on the tempo is another, until the next change. */
export const withTempo = (tempos: readonly TempoChange[], tick: number, bpm: number): TempoChange[] =>
  withChange(effectiveTempos(tempos), { tick: Math.round(tick), microsecondsPerQuarter: microseconds(bpm) });

/** The tempo before it goes on where a change is taken out; of the first, the next one holds from the start. */
export function withoutTempo(tempos: readonly TempoChange[], tick: number): TempoChange[] {
  const kept = effectiveTempos(tempos).filter((change) => change.tick !== tick);
  if (kept.length === 0) return effectiveTempos(tempos);
  return kept[0].tick === 0 ? kept : [{ ...kept[0], tick: 0 }, ...kept.slice(1)];
}

/**
 * All tempos from one tick up to another, `factor` times as fast; what holds there at the start is changed from there
 * on, what follows goes on as it was.
 */
export function scaledTempos(
  tempos: readonly TempoChange[],
  factor: number,
  from = 0,
  to = Infinity,
): TempoChange[] {
  const all = effectiveTempos(tempos);
  const heldAt = (tick: number) => all.findLast((change) => change.tick <= tick) ?? all[0];
  const cut = [from, to]
    .filter((tick) => Number.isFinite(tick) && !all.some((change) => change.tick === tick))
    .map((tick) => ({ ...heldAt(tick), tick }));
  return [...all, ...cut]
    .sort(byTick)
    .map((change) =>
      change.tick >= from && change.tick < to
        ? { ...change, microsecondsPerQuarter: microseconds(bpmOf(change.microsecondsPerQuarter) * factor) }
        : change,
    );
}

/**
 * Tempos to a whole number or so many decimals of bpm; changes that then change nothing are left out, but for those at
 * `kept` ticks.
 */
export function roundedTempos(
  tempos: readonly TempoChange[],
  decimals: number,
  kept: readonly number[] = [],
): TempoChange[] {
  const scale = 10 ** decimals;
  const rounded = effectiveTempos(tempos).map(({ tick, microsecondsPerQuarter }) => ({
    tick,
    microsecondsPerQuarter: microseconds(
      Math.max(1 / scale, Math.round(bpmOf(microsecondsPerQuarter) * scale) / scale),
    ),
  }));
  return rounded.filter(
    (change, at) =>
      at === 0 ||
      kept.includes(change.tick) ||
      change.microsecondsPerQuarter !== rounded[at - 1].microsecondsPerQuarter,
  );
}

/** Bars from a tick on are of another meter, until the next change; it is taken to the bar line it lies in. */
export function withMeter(
  meters: readonly MeterChange[],
  change: MeterChange,
  ticksPerQuarter: number,
): MeterChange[] {
  const { start } = barAt(createMeterMap(ticksPerQuarter, meters), change.tick);
  return withChange(effectiveMeters(meters), { ...change, tick: Math.round(start) });
}

/** The meter before it goes on where a change is taken out; of the first, the next one holds from the start. */
export function withoutMeter(meters: readonly MeterChange[], tick: number): MeterChange[] {
  const kept = effectiveMeters(meters).filter((change) => change.tick !== tick);
  if (kept.length === 0) return effectiveMeters(meters);
  return kept[0].tick === 0 ? kept : [{ ...kept[0], tick: 0 }, ...kept.slice(1)];
}

/**
 * The tempo map and meter of a file, in ticks of so many a quarter. Throws `smpte-map` for a file that counts frames,
 * which has none.
 */
export function mapOfFile(
  file: MidiFile,
  ticksPerQuarter: number,
): { tempos: TempoChange[]; meters: MeterChange[] } {
  if (file.division.kind !== 'metrical')
    throw new OrdleError(
      'smpte-map',
      'This file counts frames, not beats, so it has no tempo map to take. Choose a file that counts ticks a quarter.',
    );
  const scale = ticksPerQuarter / file.division.ticksPerQuarter;
  const { tempos, meters } = collectTempoAndMeter(file.tracks);
  const placed = <C extends { tick: number }>(change: C): C => ({
    ...change,
    tick: Math.round(change.tick * scale),
  });
  return {
    tempos: effectiveTempos(tempos.map(placed)),
    meters: effectiveMeters(meters.map(placed)),
  };
}

/** The tempo of some taps, in beats a minute: the median of the times between them; null with fewer than three. */
export function bpmOfTaps(seconds: readonly number[]): number | null {
  if (seconds.length < 3) return null;
  const gap = medianGap(seconds);
  return gap > 0 ? 60 / gap : null;
}
