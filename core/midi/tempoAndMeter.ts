import type { MeterChange, TempoChange } from '../time';
import {
  META,
  META_TEMPO,
  META_TIME_SIGNATURE,
  createEventBuilder,
  payloadOf,
  type EventColumns,
} from './events';
import type { MidiTrack, Repair } from './file';

/** Largest power of two a written meter may have below the line: 1/1024 is already beyond all use. */
const MOST_DENOMINATOR_POWER = 10;

/**
 * A tempo event's microseconds a quarter (SMF 1.0: FF 51 03 and three bytes), or null when it is none or makes no
 * sense.
 */
export function tempoOf(events: EventColumns, row: number): number | null {
  if (events.status[row] !== META || events.data1[row] !== META_TEMPO) return null;
  const body = payloadOf(events, row);
  if (body.length < 3) return null;
  const value = (body[0] << 16) | (body[1] << 8) | body[2];
  return value > 0 ? value : null;
}

/** A time signature event (SMF 1.0: FF 58 04 nn dd cc bb), or null when it is none or makes no sense. */
export function meterOf(
  events: EventColumns,
  row: number,
): { numerator: number; denominator: number } | null {
  if (events.status[row] !== META || events.data1[row] !== META_TIME_SIGNATURE) return null;
  const body = payloadOf(events, row);
  if (body.length < 2 || body[0] === 0 || body[1] > MOST_DENOMINATOR_POWER) return null;
  return { numerator: body[0], denominator: 2 ** body[1] };
}

/** A meta message to be written: its type and bytes. */
export interface MetaMessage {
  type: number;
  bytes: Uint8Array;
}

/** The message of a tempo (SMF 1.0: FF 51 03 and three bytes). */
export const tempoMessage = ({
  microsecondsPerQuarter: us,
}: Pick<TempoChange, 'microsecondsPerQuarter'>): MetaMessage => ({
  type: META_TEMPO,
  bytes: Uint8Array.of(us >> 16, (us >> 8) & 255, us & 255),
});

/**
 * The message of a meter (SMF 1.0: FF 58 04 nn dd cc bb), with the standard's usual 24 MIDI clocks a click and 8
 * thirty-seconds a quarter.
 */
export const meterMessage = ({
  numerator,
  denominator,
}: Pick<MeterChange, 'numerator' | 'denominator'>): MetaMessage => ({
  type: META_TIME_SIGNATURE,
  bytes: Uint8Array.of(numerator, Math.round(Math.log2(denominator)), 24, 8),
});

/** A tempo map and meters as events on whole ticks, in order of time; of one tick the meter comes first. */
export function timeEvents(tempos: readonly TempoChange[], meters: readonly MeterChange[]): EventColumns {
  const all = [
    ...meters.map((meter) => ({ tick: meter.tick, ...meterMessage(meter) })),
    ...tempos.map((tempo) => ({ tick: tempo.tick, ...tempoMessage(tempo) })),
  ].sort((a, b) => a.tick - b.tick);
  const builder = createEventBuilder(all.length);
  for (const { tick, type, bytes } of all) builder.add(Math.max(0, Math.round(tick)), META, type, 0, bytes);
  return builder.build();
}

/** All tempo and meter changes of some tracks, in order of tick; the later track wins on the same tick. */
export function collectTempoAndMeter(tracks: readonly MidiTrack[]): {
  tempos: TempoChange[];
  meters: MeterChange[];
} {
  const tempos: TempoChange[] = [];
  const meters: MeterChange[] = [];
  for (const { events } of tracks) {
    for (let row = 0; row < events.length; row++) {
      if (events.status[row] !== META) continue;
      const tempo = tempoOf(events, row);
      if (tempo !== null) tempos.push({ tick: events.tick[row], microsecondsPerQuarter: tempo });
      const meter = meterOf(events, row);
      if (meter) meters.push({ tick: events.tick[row], ...meter });
    }
  }
  tempos.sort((a, b) => a.tick - b.tick);
  meters.sort((a, b) => a.tick - b.tick);
  return { tempos, meters };
}

/** Reports tempo and meter events that make no sense; they are kept in the file but not followed. */
export function checkTempoAndMeter(tracks: readonly MidiTrack[], repairs: Repair[]): void {
  tracks.forEach(({ events }, track) => {
    for (let row = 0; row < events.length; row++) {
      if (events.status[row] !== META) continue;
      const type = events.data1[row];
      if (type === META_TEMPO && tempoOf(events, row) === null) {
        repairs.push({
          code: 'bad-tempo',
          message: `A tempo event at tick ${events.tick[row]} of track ${track + 1} gives no usable tempo; it is kept but not followed.`,
          track,
          byte: -1,
        });
      } else if (type === META_TIME_SIGNATURE && meterOf(events, row) === null) {
        repairs.push({
          code: 'bad-meter',
          message: `A time signature at tick ${events.tick[row]} of track ${track + 1} makes no sense; it is kept but not followed.`,
          track,
          byte: -1,
        });
      }
    }
  });
}

/**
 * Meta types that concern the whole session: sequence number, copyright, marker, cue, tempo, SMPTE offset, meter,
 * key.
 */
const CONDUCTOR_TYPES = new Set([0x00, 0x02, 0x06, 0x07, 0x51, 0x54, 0x58, 0x59]);

/** Whether an event speaks for the whole session rather than for one track. */
export function isConductorEvent(events: EventColumns, row: number): boolean {
  return events.status[row] === META && CONDUCTOR_TYPES.has(events.data1[row]);
}

/**
 * Kinds of meta events that set a track up rather than sound in time: its name, instrument, channel prefix and port.
 */
const SETUP_TYPES = new Set([0x03, 0x04, 0x20, 0x21]);

/**
 * Whether an event belongs to its place in the file whatever is done to the music: it speaks for the session, or sets
 * its track up.
 */
export function staysPut(events: EventColumns, row: number): boolean {
  return (
    events.status[row] === META &&
    (CONDUCTOR_TYPES.has(events.data1[row]) || SETUP_TYPES.has(events.data1[row]))
  );
}
