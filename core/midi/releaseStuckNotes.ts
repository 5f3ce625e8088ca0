import { createEventBuilder, payloadOf, type EventColumns } from './events';
import type { MidiTrack, Repair } from './file';
import { NEVER_RELEASED, pairNotes } from './pairNotes';
import { pitchName } from './pitchNames';
import type { TrackReading } from './readTrack';

/** Most stuck notes reported one by one; the rest are counted in one line. */
const MOST_REPORTED = 100;

/**
 * Gives every note that is never released a note-off at the end of the track (a tick after its start when it
 * starts there), and reports each; `barOf` tells the number of a tick's bar. A sound track comes back as it is.
 */
export function releaseStuckNotes(
  reading: TrackReading,
  trackIndex: number,
  repairs: Repair[],
  firstRepair: number,
  barOf: (tick: number) => number,
): MidiTrack {
  const { track, eventByte } = reading;
  const { tick, status, data1 } = track.events;
  const pairs = pairNotes(track.events);
  const stuck: number[] = [];
  for (let note = 0; note < pairs.on.length; note++) {
    if (pairs.off[note] === NEVER_RELEASED) stuck.push(pairs.on[note]);
  }
  if (stuck.length === 0) return track;
  stuck.slice(0, MOST_REPORTED).forEach((row) => {
    repairs.push({
      code: 'stuck-note',
      message: `${pitchName(data1[row])}, channel ${(status[row] & 15) + 1}, bar ${barOf(tick[row])} is never released; it was ended with the track.`,
      track: trackIndex,
      byte: eventByte[row],
    });
  });
  if (stuck.length > MOST_REPORTED) {
    repairs.push({
      code: 'stuck-note',
      message: `${stuck.length - MOST_REPORTED} more notes of track ${trackIndex + 1} are never released; they were ended with the track.`,
      track: trackIndex,
      byte: eventByte[stuck[MOST_REPORTED]],
    });
  }
  // Found after the track's own repairs were listed; order within a track is by place in the file.
  const own = repairs.splice(firstRepair).sort((a, b) => a.byte - b.byte);
  repairs.push(...own);
  return withReleases(track, stuck);
}

function withReleases(track: MidiTrack, stuck: number[]): MidiTrack {
  const { events } = track;
  const lastStart = stuck.reduce((latest, row) => Math.max(latest, events.tick[row]), 0);
  const endTick = Math.max(track.endTick, lastStart + 1);
  const builder = createEventBuilder(events.length + stuck.length);
  copyEvents(events, builder);
  for (const row of stuck) builder.add(endTick, 0x80 | (events.status[row] & 15), events.data1[row], 64);
  return { events: builder.build(), endTick };
}

function copyEvents(events: EventColumns, builder: ReturnType<typeof createEventBuilder>) {
  for (let row = 0; row < events.length; row++) {
    const payload = events.payload[row] === 0 ? undefined : payloadOf(events, row);
    builder.add(events.tick[row], events.status[row], events.data1[row], events.data2[row], payload);
  }
}
