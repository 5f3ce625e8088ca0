import {
  META,
  META_TEMPO,
  META_TIME_SIGNATURE,
  createEventBuilder,
  meterOf,
  tempoOf,
  type MidiFile,
  type MidiTrack,
} from '../midi';
import type { StoredTake } from './take';

/**
 * A take as a file of its own, under the tempo and meter it was captured under: the take's events as they are, and before them a track
 * of tempo and meter where the take holds none itself.
 */
export function fileOfTake(take: StoredTake): MidiFile {
  const { events, endTick, division } = take;
  const track = { events, endTick };
  const rows = Array.from({ length: events.length }, (_, row) => row);
  const holdsTime = rows.some((row) => tempoOf(events, row) !== null || meterOf(events, row) !== null);
  if (holdsTime || take.tempos.length + take.meters.length === 0)
    return { format: 0, division, tracks: [track] };
  return { format: 1, division, tracks: [timeTrack(take), track] };
}

function timeTrack({ tempos, meters }: StoredTake): MidiTrack {
  const changes = [
    ...tempos.map(({ tick, microsecondsPerQuarter: us }) => ({
      tick,
      type: META_TEMPO,
      body: [us >> 16, (us >> 8) & 0xff, us & 0xff],
    })),
    ...meters.map(({ tick, numerator, denominator }) => ({
      tick,
      type: META_TIME_SIGNATURE,
      // 24 MIDI clocks a click and 8 thirty-seconds a quarter: the standard's usual values.
      body: [numerator, Math.round(Math.log2(denominator)), 24, 8],
    })),
  ].sort((a, b) => a.tick - b.tick);
  const builder = createEventBuilder(changes.length);
  for (const { tick, type, body } of changes) builder.add(tick, META, type, 0, Uint8Array.from(body));
  return { events: builder.build(), endTick: changes.at(-1)?.tick ?? 0 };
}
