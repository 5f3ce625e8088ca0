import { OrdleError } from '../errors';
import type { Division } from '../time';
import { META_END_OF_TRACK, META_TEXT, payloadOf, type EventColumns } from './events';
import type { MidiFile, MidiTrack } from './file';

/** The largest delta a file can write: four bytes of seven bits (SMF 1.0). */
const MOST_DELTA = 0x0fffffff;

/**
 * Gaps of that size a file may bridge, over all tracks: centuries, for which a slip in a setting would write hundreds
 * of megabytes.
 */
const MOST_BRIDGES = 100_000;

/**
 * Writes a Standard MIDI File with running status. Ticks must be whole and ascending. A gap longer than a delta time
 * can hold is bridged by empty text events. Throws `write-tracks` for a format 0 file that does not have one track,
 * `write-time` where bridging would take far more room than the music.
 *
 * @public
 */
export function writeMidi(file: MidiFile): Uint8Array {
  if (file.format === 0 && file.tracks.length !== 1) {
    throw new OrdleError(
      'write-tracks',
      `A format 0 file holds one track; ${file.tracks.length} were given.`,
    );
  }
  if (file.tracks.length > 0xffff) {
    throw new OrdleError(
      'write-tracks',
      `A file holds at most 65,535 tracks; ${file.tracks.length} were given.`,
    );
  }
  const bridges = file.tracks.reduce((sum, track) => sum + bridgesOf(track), 0);
  if (!(bridges <= MOST_BRIDGES)) {
    throw new OrdleError(
      'write-time',
      'Something in the music stands so late that no file can hold it. Look for a note or a point put there by a wrong number.',
    );
  }
  const chunks = file.tracks.map(writeTrack);
  const size = 14 + chunks.reduce((sum, chunk) => sum + 8 + chunk.length, 0);
  const bytes = new Uint8Array(size);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, 0x4d546864);
  view.setUint32(4, 6);
  view.setUint16(8, file.format);
  view.setUint16(10, file.tracks.length);
  view.setUint16(12, divisionWord(file.division));
  let position = 14;
  for (const chunk of chunks) {
    view.setUint32(position, 0x4d54726b);
    view.setUint32(position + 4, chunk.length);
    bytes.set(chunk, position + 8);
    position += 8 + chunk.length;
  }
  return bytes;
}

function divisionWord(division: Division): number {
  return division.kind === 'metrical'
    ? division.ticksPerQuarter
    : ((256 - division.framesPerSecond) << 8) | division.ticksPerFrame;
}

/** How many times the gaps between the events of a track are too long for one delta time. */
function bridgesOf({ events: { tick, length }, endTick }: MidiTrack): number {
  let bridges = 0;
  let now = 0;
  for (let row = 0; row <= length; row++) {
    const to = row < length ? tick[row] : Math.max(endTick, now);
    if (to - now > MOST_DELTA) bridges += Math.floor((to - now) / MOST_DELTA);
    now = to;
  }
  return bridges;
}

/** Upper bound of a track's bytes: a channel event takes at most 4 + 3, others their payload and 4 + 2 + 4 more. */
function roomFor(track: MidiTrack): number {
  const { events } = track;
  const bridges = bridgesOf(track) + 1;
  let payloads = 0;
  for (let row = 0; row < events.length; row++) {
    if (events.payload[row] !== 0) payloads += 4 + payloadOf(events, row).length;
  }
  return events.length * 7 + payloads + bridges * 8 + 16;
}

function writeTrack(track: MidiTrack): Uint8Array {
  const { events } = track;
  const bytes = new Uint8Array(roomFor(track));
  const { tick, status, data1, data2 } = events;
  let position = 0;
  let now = 0;
  let running = 0;
  const delta = (to: number) => {
    let gap = to - now;
    while (gap > MOST_DELTA) {
      position = writeQuantity(bytes, position, MOST_DELTA);
      bytes.set([0xff, META_TEXT, 0], position);
      position += 3;
      gap -= MOST_DELTA;
      running = 0;
    }
    position = gap < 128 ? ((bytes[position] = gap), position + 1) : writeQuantity(bytes, position, gap);
    now = to;
  };
  for (let row = 0; row < events.length; row++) {
    delta(tick[row]);
    const kind = status[row];
    if (kind >= 0xf0) {
      position = writeSpecial(bytes, position, events, row);
      running = 0;
      continue;
    }
    if (kind !== running) bytes[position++] = running = kind;
    bytes[position++] = data1[row];
    if (kind < 0xc0 || kind >= 0xe0) bytes[position++] = data2[row];
  }
  delta(Math.max(track.endTick, now));
  bytes.set([0xff, META_END_OF_TRACK, 0], position);
  return bytes.slice(0, position + 3);
}

function writeSpecial(bytes: Uint8Array, start: number, events: EventColumns, row: number): number {
  const body = payloadOf(events, row);
  let position = start;
  bytes[position++] = events.status[row];
  if (events.status[row] === 0xff) bytes[position++] = events.data1[row];
  position = writeQuantity(bytes, position, body.length);
  bytes.set(body, position);
  return position + body.length;
}

/** Writes a variable-length quantity (0 to 0x0FFFFFFF) at `position`; returns the position after it. */
export function writeQuantity(bytes: Uint8Array, position: number, value: number): number {
  if (value >= 0x200000) bytes[position++] = 0x80 | (value >> 21);
  if (value >= 0x4000) bytes[position++] = 0x80 | ((value >> 14) & 0x7f);
  if (value >= 0x80) bytes[position++] = 0x80 | ((value >> 7) & 0x7f);
  bytes[position++] = value & 0x7f;
  return position;
}
