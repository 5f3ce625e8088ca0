import type { EventColumns } from '../midi';
import { indexIds, type Material, type NoteTable } from '../model';
import { channelEvents } from '../steps';
import { ticksToSeconds, type TempoMap } from '../time';

/**
 * A part as it is to be heard, as columns. Notes in order of start: seconds, pitch, velocity 1-127, and their id.
 * Channel events (controllers, programs, pressure, bend) in order of time, as raw MIDI without the channel.
 */
export interface PlaybackPart {
  noteId: Float64Array;
  noteStart: Float64Array;
  noteEnd: Float64Array;
  notePitch: Uint8Array;
  noteVelocity: Uint8Array;
  eventTime: Float64Array;
  eventKind: Uint8Array;
  eventData1: Uint8Array;
  eventData2: Uint8Array;
}

/**
 * What to play of a part when the blend stands between as played (0) and cleaned (1). A note on both sides is heard between its
 * two places; one on a single side is heard on its side of the middle. `beside` are the events of other parts on its channel, which hold for it too.
 */
export function blendedPlayback(
  played: Material,
  cleaned: Material,
  blend: number,
  tempo: TempoMap,
  beside: readonly EventColumns[] = [],
): PlaybackPart {
  const notes =
    blend >= 1 ? cleaned.notes : blend <= 0 ? played.notes : blendNotes(played.notes, cleaned.notes, blend);
  const events = channelEvents((blend >= 0.5 ? cleaned : played).events, beside);
  const order = new Uint32Array(notes.length);
  for (let row = 0; row < order.length; row++) order[row] = row;
  const ascending = notes.start.every((tick, row) => row === 0 || notes.start[row - 1] <= tick);
  if (!ascending) order.sort((a, b) => notes.start[a] - notes.start[b] || a - b);
  const seconds = (column: Float64Array) =>
    Float64Array.from(order, (row) => ticksToSeconds(tempo, Math.max(0, column[row])));
  return {
    noteId: Float64Array.from(order, (row) => notes.id[row]),
    noteStart: seconds(notes.start),
    noteEnd: seconds(notes.end),
    notePitch: Uint8Array.from(order, (row) => notes.pitch[row]),
    noteVelocity: Uint8Array.from(order, (row) =>
      Math.min(127, Math.max(1, Math.round(notes.velocity[row]))),
    ),
    ...heardEvents(events, tempo),
  };
}

function blendNotes(played: NoteTable, cleaned: NoteTable, blend: number): NoteTable {
  const before = indexIds(played.id);
  const mix = (a: number, b: number) => a + (b - a) * blend;
  const start = cleaned.start.slice();
  const end = cleaned.end.slice();
  const velocity = cleaned.velocity.slice();
  for (let row = 0; row < cleaned.length; row++) {
    const other = before.rowOf(cleaned.id[row]);
    if (other < 0) continue;
    start[row] = mix(played.start[other], cleaned.start[row]);
    end[row] = mix(played.end[other], cleaned.end[row]);
    velocity[row] = mix(played.velocity[other], cleaned.velocity[row]);
  }
  return { ...cleaned, start, end, velocity };
}

function heardEvents(events: EventColumns, tempo: TempoMap) {
  const rows: number[] = [];
  for (let row = 0; row < events.length; row++) {
    const kind = events.status[row] >> 4;
    if (kind >= 0xa && kind <= 0xe) rows.push(row);
  }
  return {
    eventTime: Float64Array.from(rows, (row) => ticksToSeconds(tempo, Math.max(0, events.tick[row]))),
    eventKind: Uint8Array.from(rows, (row) => events.status[row] & 0xf0),
    eventData1: Uint8Array.from(rows, (row) => events.data1[row]),
    eventData2: Uint8Array.from(rows, (row) => events.data2[row]),
  };
}
