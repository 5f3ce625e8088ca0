import { OrdleError } from '../errors';
import {
  collectTempoAndMeter,
  meterOf,
  pickEvents,
  tempoOf,
  timeEvents,
  type MidiFile,
  type MidiTrack,
} from '../midi';
import { joinEvents } from '../model';
import {
  createTimeline,
  secondsToTicks,
  ticksToSeconds,
  type MeterChange,
  type TempoChange,
  type TempoMap,
} from '../time';
import { medianGap, type FoundBeats } from './findBeats';

/** A tick lasts no longer than this, so that rounding to ticks is not heard. */
const LONGEST_TICK = 0.001;
const MOST_DIVISION = 0x7fff;
/** A first beat that comes sooner than this, in seconds, counts as at the start. */
const SOON = 0.0005;

/** A tempo map and meters under which found beats lie on the beats of bars. */
export interface FoundMap {
  ticksPerQuarter: number;
  tempos: TempoChange[];
  meters: MeterChange[];
}

/** The beats of a performance as they are to lie on bars; what `findBeats` gives, or a person corrected. */
export type PlacedBeats = Pick<FoundBeats, 'beats' | 'downbeats' | 'beatsPerBar' | 'division' | 'firstBar'>;

const quartersOfBeat = ({ division }: Pick<FoundBeats, 'division'>): number =>
  division === 'ternary' ? 1.5 : 1;

/**
 * How many beats stand before the first found one: as many of its period as fit, one at least; none where it begins
 * at 0. Where the first bar is said to be of a number, as many whole bars more or fewer as make it so.
 */
function leadOf({ beats, downbeats, beatsPerBar, firstBar }: PlacedBeats): number {
  if (beats.length === 0 || beats[0] < SOON) return 0;
  const period = beats.length > 1 ? medianGap(beats) : 0.5;
  const lead = Math.max(1, Math.round(beats[0] / period));
  if (firstBar === undefined) return lead;
  const upbeat = downbeats[0] ?? 0;
  const missing = firstBar - (Math.ceil((upbeat + lead) / beatsPerBar) + 1);
  const wanted = lead + missing * beatsPerBar;
  // Where that leaves none, the first bar is shorter.
  return wanted >= 1 ? wanted : Math.max(1, (firstBar - 1) * beatsPerBar - upbeat);
}

/** Beats that are as long as each other to less than this, in seconds, are of one tempo. */
const ALIKE = 1e-7;

/**
 * From which beat on all are as long as each other, and so have one tempo that is rounded once: the first or the
 * second, since the first may have been taken to the start; Infinity where they are not.
 */
function evenBeatsFrom(beats: Float64Array): number {
  const period = medianGap(beats);
  const isEven = (beat: number) => Math.abs(beats[beat] - beats[beat - 1] - period) < ALIKE;
  for (let beat = beats.length - 1; beat > 0; beat--) if (!isEven(beat)) return beat === 1 ? 1 : Infinity;
  return 0;
}

/**
 * The map of some beats: each lies on a whole quarter (a dotted quarter where beats are divided in three), one tempo
 * a beat, the first downbeat on a bar line. What rounding to whole microseconds takes from a beat the next one gives
 * back. Bars of another number of beats have a meter of their own. `least` is the division to start from; it is
 * doubled until a tick lasts a millisecond at most, unless it `stays`. Throws `no-beats` without two beats.
 */
export function mapOfBeats(placed: PlacedBeats, least: number, stays = false): FoundMap {
  const { beats, downbeats, beatsPerBar } = placed;
  if (beats.length < 2)
    throw new OrdleError('no-beats', 'Fewer than two beats were found, so there is no tempo to write.');
  const lead = leadOf(placed);
  const quarters = quartersOfBeat(placed);
  const times = [...Array.from({ length: lead }, (_, beat) => (beats[0] * beat) / lead), ...beats];
  const evenFrom = lead + evenBeatsFrom(beats);
  const period = medianGap(beats);
  const perQuarter: number[] = [];
  let reached = 0;
  for (let beat = 0; beat + 1 < times.length; beat++) {
    const even = beat < lead ? beats[0] / lead : period;
    const isEven = evenFrom < Infinity && (beat < lead || beat >= evenFrom);
    const wanted = Math.round((1e6 * (isEven ? even : times[beat + 1] - reached)) / quarters);
    perQuarter.push(Math.min(0xffffff, Math.max(1, wanted)));
    reached += (perQuarter[beat] * quarters) / 1e6;
  }
  let ticksPerQuarter = least;
  const slowest = perQuarter.reduce((most, each) => Math.max(most, each), 1) / 1e6;
  while (!stays && slowest / ticksPerQuarter > LONGEST_TICK && ticksPerQuarter * 2 <= MOST_DIVISION)
    ticksPerQuarter *= 2;
  // A dotted quarter is to be whole ticks.
  if (!stays && quarters === 1.5 && ticksPerQuarter % 2 === 1) ticksPerQuarter *= 2;
  const beatTicks = ticksPerQuarter * quarters;
  const tempos = perQuarter
    .map((microsecondsPerQuarter, beat) => ({ tick: beat * beatTicks, microsecondsPerQuarter }))
    .filter(({ microsecondsPerQuarter }, at) => at === 0 || microsecondsPerQuarter !== perQuarter[at - 1]);
  return { ticksPerQuarter, tempos, meters: metersOf({ lead, downbeats, beatsPerBar }, quarters, beatTicks) };
}

/** Meters that put every downbeat on a bar line: the first bar may be shorter, and so may others be. */
function metersOf(
  { lead, downbeats, beatsPerBar }: { lead: number; downbeats: readonly number[]; beatsPerBar: number },
  quarters: number,
  beatTicks: number,
): MeterChange[] {
  const meterOfBeats = (count: number) =>
    quarters === 1.5 ? { numerator: 3 * count, denominator: 8 } : { numerator: count, denominator: 4 };
  const meters: MeterChange[] = [];
  let held = 0;
  const put = (beat: number, count: number) => {
    if (count === held) return;
    meters.push({ tick: beat * beatTicks, ...meterOfBeats(count) });
    held = count;
  };
  const first = (downbeats[0] ?? 0) + lead;
  const pickUp = first % beatsPerBar;
  put(0, pickUp > 0 ? pickUp : beatsPerBar);
  if (pickUp > 0) put(pickUp, beatsPerBar);
  downbeats.forEach((beat, bar) => {
    const next = downbeats.at(bar + 1);
    put(beat + lead, bar + 1 < downbeats.length && next !== undefined ? next - beat : beatsPerBar);
  });
  return meters;
}

/**
 * The same performance under the map of its found beats, in real time as it was: every start and end within a
 * millisecond.
 *
 * @public
 */
export function underFoundMap(file: MidiFile, placed: PlacedBeats): MidiFile {
  const { division, tracks } = file;
  const shared = collectTempoAndMeter(tracks);
  const least = division.kind === 'metrical' ? division.ticksPerQuarter : 480;
  const map = mapOfBeats(placed, least);
  const target = { kind: 'metrical', ticksPerQuarter: map.ticksPerQuarter } as const;
  const to = createTimeline(target, map.tempos, map.meters).tempo;
  const moved = tracks.map((track): MidiTrack => {
    const time = file.format === 2 ? collectTempoAndMeter([track]) : shared;
    const from = createTimeline(division, time.tempos, time.meters).tempo;
    const rows: number[] = [];
    for (let row = 0; row < track.events.length; row++)
      if (tempoOf(track.events, row) === null && meterOf(track.events, row) === null) rows.push(row);
    const events = pickEvents(track.events, rows);
    const tick = events.tick.map((at) => placeIn(to, from, at));
    return { events: { ...events, tick }, endTick: placeIn(to, from, track.endTick) };
  });
  const conducting = moved.map((track, index) =>
    index === 0 || file.format === 2 ? withMap(track, map) : track,
  );
  return { ...file, division: target, tracks: conducting };
}

const placeIn = (to: TempoMap, from: TempoMap, tick: number): number =>
  Math.max(0, Math.round(secondsToTicks(to, ticksToSeconds(from, tick))));

function withMap(track: MidiTrack, { tempos, meters }: FoundMap): MidiTrack {
  const written = timeEvents(tempos, meters);
  const { events } = joinEvents([
    { events: written, order: Float64Array.from(written.tick.keys(), (at) => at - written.length) },
    { events: track.events, order: Float64Array.from(track.events.tick, (_, row) => row) },
  ]);
  return { events, endTick: Math.max(track.endTick, written.tick[written.length - 1] ?? 0) };
}
