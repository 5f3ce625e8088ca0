import { meterOf, tempoOf, timeEvents, type MidiFile, type MidiTrack } from '../midi';
import type { StoredTake } from './take';

/**
 * A take as a file of its own, under the tempo and meter it was captured under: the take's events as they are, and
 * before them a track of tempo and meter where the take holds none itself.
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
  const events = timeEvents(tempos, meters);
  return { events, endTick: events.tick[events.length - 1] ?? 0 };
}
