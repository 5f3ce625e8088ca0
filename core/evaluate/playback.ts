import type { EventColumns } from '../midi';
import type { Assembly } from '../assembly';
import { indexIds, mergeOrder, type Material, type NoteTable } from '../model';
import { ticksToSeconds, type TempoMap } from '../time';
import { eventPlaces, notePlaces, wholeTick } from './eventPlaces';

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
  /**
   * Where strokes, releases and messages come among what stands at one tick, by row, as they are written; without it
   * releases come first, then messages, then strokes.
   */
  places?: { on: Float64Array; off: Float64Array; event: Float64Array };
}

/**
 * A channel message as it is heard, and where it comes at its tick; NaN for one of another part, which comes before
 * the strokes.
 */
interface Heard {
  tick: number;
  status: number;
  data1: number;
  data2: number;
  place: number;
}

/**
 * What to play of a part when the blend stands between as played (0) and cleaned (1). A note on both sides is heard
 * between its two places; one on a single side is heard on its side of the middle. `beside` are the events of other
 * parts on its channel, which hold for it too. With its `assembly` what is heard on either side is what a file has:
 * on whole ticks, and what stands at one tick in the order in which it is written.
 */
export function blendedPlayback(
  played: Material,
  cleaned: Material,
  blend: number,
  tempo: TempoMap,
  beside: readonly EventColumns[] = [],
  assembly?: Assembly,
): PlaybackPart {
  const side = blend >= 0.5 ? cleaned : played;
  const isBetween = blend > 0 && blend < 1;
  const notes = isBetween ? blendNotes(played.notes, cleaned.notes, blend) : side.notes;
  const written =
    assembly && !isBetween
      ? { notes: notePlaces(assembly, notes), events: eventPlaces(assembly, side) }
      : null;
  const { start, end } = written?.notes ?? notes;
  const ascending = start.every((tick, row) => row === 0 || start[row - 1] <= tick);
  const rows = ascending
    ? Uint32Array.from(notes.id.keys())
    : mergeOrder(notes.length, (a, b) => start[a] - start[b]);
  const heard = heardMessages(side.events, written?.events ?? null, beside);
  const seconds = (ticks: ArrayLike<number>) =>
    Float64Array.from(ticks, (tick) => ticksToSeconds(tempo, Math.max(0, tick)));
  return {
    noteId: Float64Array.from(rows, (row) => notes.id[row]),
    noteStart: seconds(Float64Array.from(rows, (row) => start[row])),
    noteEnd: seconds(Float64Array.from(rows, (row) => end[row])),
    notePitch: Uint8Array.from(rows, (row) => notes.pitch[row]),
    noteVelocity: Uint8Array.from(rows, (row) => Math.min(127, Math.max(1, Math.round(notes.velocity[row])))),
    eventTime: seconds(heard.map(({ tick }) => tick)),
    eventKind: Uint8Array.from(heard, ({ status }) => status & 0xf0),
    eventData1: Uint8Array.from(heard, ({ data1 }) => data1),
    eventData2: Uint8Array.from(heard, ({ data2 }) => data2),
    ...(written && {
      places: {
        on: Float64Array.from(rows, (row) => written.notes.on[row]),
        off: Float64Array.from(rows, (row) => written.notes.off[row]),
        event: Float64Array.from(heard, ({ place }) => place),
      },
    }),
  };
}

/**
 * The channel messages of a part and of those beside it in order of time; the part's own come last at a tick, so that
 * they count.
 */
function heardMessages(
  own: EventColumns,
  places: Float64Array | null,
  beside: readonly EventColumns[],
): Heard[] {
  const list: Heard[] = [];
  for (const events of [...beside, own])
    for (let row = 0; row < events.length; row++) {
      const status = events.status[row];
      if (status < 0xa0 || status >= 0xf0) continue;
      list.push({
        tick: places ? wholeTick(events.tick[row]) : events.tick[row],
        status,
        data1: events.data1[row],
        data2: events.data2[row],
        place: places && events === own ? places[row] : NaN,
      });
    }
  return beside.length === 0 ? list : list.sort((a, b) => a.tick - b.tick);
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
