import {
  bpmOf,
  createTimeline,
  effectiveMeters,
  effectiveTempos,
  ticksToSeconds,
  type MeterChange,
} from '../time';
import { META, META_TRACK_NAME, payloadOf, type EventColumns } from './events';
import type { MidiFile, MidiTrack, Repair } from './file';
import { pairNotes } from './pairNotes';
import type { MidiReading } from './readMidi';
import { collectTempoAndMeter } from './tempoAndMeter';
import { decodeText } from './text';

/**
 * What is in a file, in plain figures. Channels 1-16, programs 0-127 as stored, bpm to three decimals.
 *
 * @public
 */
export interface FileReport {
  format: number;
  /** Ticks a quarter note, or the film frames and ticks a frame of an SMPTE division. */
  division: number | { framesPerSecond: number; ticksPerFrame: number };
  durationSeconds: number;
  tempos: { tick: number; bpm: number }[];
  meters: MeterChange[];
  tracks: TrackReport[];
  notes: number;
  repairs: Repair[];
}

export interface TrackReport {
  index: number;
  name: string;
  channels: number[];
  program: number | null;
  notes: number;
  controllers: Record<string, number>;
}

/**
 * Describes a file as read. The duration runs to the latest end of track, by the tempo map in force.
 *
 * @public
 */
export function inspectMidi({ file, repairs }: MidiReading): FileReport {
  const { tempos, meters } = collectTempoAndMeter(file.format === 2 ? file.tracks.slice(0, 1) : file.tracks);
  const tracks = file.tracks.map(trackReport);
  const { division } = file;
  return {
    format: file.format,
    division:
      division.kind === 'metrical'
        ? division.ticksPerQuarter
        : { framesPerSecond: division.framesPerSecond, ticksPerFrame: division.ticksPerFrame },
    durationSeconds: Number(durationOf(file).toFixed(6)),
    tempos: effectiveTempos(tempos).map(({ tick, microsecondsPerQuarter }) => ({
      tick,
      bpm: Number(bpmOf(microsecondsPerQuarter).toFixed(3)),
    })),
    meters: effectiveMeters(meters).map(({ tick, numerator, denominator }) => ({
      tick,
      numerator,
      denominator,
    })),
    tracks,
    notes: tracks.reduce((sum, track) => sum + track.notes, 0),
    repairs,
  };
}

function durationOf(file: MidiFile): number {
  const spans = file.format === 2 ? file.tracks.map((track) => [track]) : [file.tracks];
  return spans.reduce((longest, tracks) => {
    const { tempos, meters } = collectTempoAndMeter(tracks);
    const { tempo } = createTimeline(file.division, tempos, meters);
    const end = tracks.reduce((latest, track) => Math.max(latest, track.endTick), 0);
    return Math.max(longest, ticksToSeconds(tempo, end));
  }, 0);
}

function trackReport({ events }: MidiTrack, index: number): TrackReport {
  const channels = new Set<number>();
  const controllers: Record<string, number> = {};
  let program: number | null = null;
  const count = (name: string) => (controllers[name] = (controllers[name] ?? 0) + 1);
  for (let row = 0; row < events.length; row++) {
    const status = events.status[row];
    if (status >= 0xf0) continue;
    channels.add((status & 15) + 1);
    const kind = status >> 4;
    if (kind === 0xa) count('keyPressure');
    else if (kind === 0xb) count(`cc${events.data1[row]}`);
    else if (kind === 0xc) program ??= events.data1[row];
    else if (kind === 0xd) count('pressure');
    else if (kind === 0xe) count('bend');
  }
  return {
    index,
    name: trackName(events),
    channels: [...channels].sort((a, b) => a - b),
    program,
    notes: pairNotes(events).on.length,
    controllers,
  };
}

/** The first track name event's text, or an empty string. */
export function trackName(events: EventColumns): string {
  for (let row = 0; row < events.length; row++) {
    if (events.status[row] === META && events.data1[row] === META_TRACK_NAME) {
      return decodeText(payloadOf(events, row));
    }
  }
  return '';
}
