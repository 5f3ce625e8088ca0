import { OrdleError } from '../errors';
import { META, META_END_OF_TRACK, createEventBuilder, type EventColumns } from './events';
import type { MidiTrack, Repair, RepairCode } from './file';

/** A track as read, with the byte each event current (for repairs that are found later) and where reading stopped. */
export interface TrackReading {
  track: MidiTrack;
  eventByte: Uint32Array;
  /** First byte not read. */
  stop: number;
  ended: 'end-of-track' | 'out-of-bytes' | 'unreadable';
}

/** At most this many repairs are listed one by one for a track; a hopeless file must not list a million. */
const MOST_REPAIRS = 200;

/** Data bytes of system common and realtime messages, which do not belong in a file. */
function systemDataBytes(status: number): number {
  if (status === 0xf2) return 2;
  return status === 0xf1 || status === 0xf3 ? 1 : 0;
}

/**
 * Reads a variable-length quantity (SMF 1.0: at most four bytes). Value and length come back in one number, value x 8 +
 * length, so that the hot loop allocates nothing; -1 out of bytes, -2 too long.
 */
function readQuantity(bytes: Uint8Array, position: number, limit: number): number {
  let value = 0;
  for (let length = 1; length <= 4; length++) {
    if (position >= limit) return -1;
    const byte = bytes[position++];
    value = (value << 7) | (byte & 0x7f);
    if (byte < 0x80) return value * 8 + length;
  }
  return -2;
}

/** Columns being filled; `rows` of room in each. */
interface Columns {
  rows: number;
  tick: Float64Array;
  status: Uint8Array;
  data1: Uint8Array;
  data2: Uint8Array;
  payload: Uint32Array;
  eventByte: Uint32Array;
}

function createColumns(rows: number): Columns {
  return {
    rows,
    tick: new Float64Array(rows),
    status: new Uint8Array(rows),
    data1: new Uint8Array(rows),
    data2: new Uint8Array(rows),
    payload: new Uint32Array(rows),
    eventByte: new Uint32Array(rows),
  };
}

function grown(columns: Columns): Columns {
  const larger = createColumns(columns.rows * 2);
  larger.tick.set(columns.tick);
  larger.status.set(columns.status);
  larger.data1.set(columns.data1);
  larger.data2.set(columns.data2);
  larger.payload.set(columns.payload);
  larger.eventByte.set(columns.eventByte);
  return larger;
}

/** Reads a track of a file: events from `start` up to `limit` (byte offsets); repairs are put on `repairs`. */
export type ReadTrack = (start: number, limit: number, trackIndex: number, repairs: Repair[]) => TrackReading;

/**
 * Reads the tracks of one file. Their columns are filled in one room that all of them share, so that a file of many
 * tracks, each of which claims the rest of the file, asks for that much only once.
 */
export function createTrackReader(bytes: Uint8Array): ReadTrack {
  let room = createColumns(16);
  return (start, limit, trackIndex, repairs) => {
    const wanted = Math.min(Math.ceil((limit - start) / 3), 1 << 22);
    if (wanted > room.rows) room = createColumns(wanted);
    const { reading, columns } = readTrack(bytes, start, limit, trackIndex, repairs, room);
    room = columns;
    return reading;
  };
}

/**
 * Reads events from `start` up to `limit` (both byte offsets). Stops at end of track, at the limit, or at an event
 * that cannot be made sense of; everything before that is kept and each repair is put on `repairs`. Room grows with
 * what is read, never with what a length claims. The loop is long because it is hot: nothing in it is captured by a
 * closure, and it allocates nothing for a channel message.
 */
function readTrack(
  bytes: Uint8Array,
  start: number,
  limit: number,
  trackIndex: number,
  repairs: Repair[],
  room: Columns,
): { reading: TrackReading; columns: Columns } {
  let columns = room;
  let { tick: ticks, status: statuses, data1: firsts, data2: seconds, eventByte } = columns;
  const payloads: Uint8Array[] = [];
  const report = createReport(repairs, trackIndex);
  let count = 0;
  let position = start;
  let tick = 0;
  let status = 0;
  let afterMeta = false;
  let ended: TrackReading['ended'] = 'out-of-bytes';

  while (position < limit) {
    const eventStart = position;
    let delta = bytes[position];
    if (delta < 0x80) position++;
    else {
      const quantity = readQuantity(bytes, position, limit);
      if (quantity < 0) {
        if (quantity === -2) {
          report(
            'unreadable-event',
            eventStart,
            `The delta time at byte ${eventStart} is longer than four bytes; the track was read up to there.`,
          );
          ended = 'unreadable';
        }
        break;
      }
      delta = Math.floor(quantity / 8);
      position += quantity & 7;
    }
    if (position >= limit) {
      position = eventStart;
      break;
    }
    tick += delta;
    if (tick > Number.MAX_SAFE_INTEGER) throw tooLate(trackIndex, eventStart);
    if (count === columns.rows) {
      columns = grown(columns);
      ({ tick: ticks, status: statuses, data1: firsts, data2: seconds, eventByte } = columns);
    }
    const lead = bytes[position];

    if (lead >= 0xf0) {
      const special = readSpecial(bytes, position, limit);
      afterMeta = status !== 0;
      if (special.kind === 'event') {
        payloads.push(bytes.subarray(special.from, special.next));
        ticks[count] = tick;
        statuses[count] = lead;
        firsts[count] = special.type;
        columns.payload[count] = payloads.length;
        eventByte[count] = position;
        count++;
        if (special.type > 127) {
          report(
            'bad-meta-type',
            position,
            `A meta event of type ${special.type} at byte ${position}, which the standard does not allow, was kept as it is.`,
          );
        }
      } else if (special.kind === 'stray') {
        report(
          'stray-system-message',
          position,
          `A system message (0x${lead.toString(16)}) that does not belong in a file was left out at byte ${position}.`,
        );
      } else if (special.kind === 'false-end') {
        const goesOn = special.goesOn >= 0;
        report(
          'end-of-track-length',
          position,
          `The end of track at byte ${position} has a wrong length; ${goesOn ? 'the events after it were read on' : 'the track was ended there'}.`,
        );
        if (!goesOn) {
          ended = 'end-of-track';
          position = special.next;
          break;
        }
        // What follows must name its own status: it was never meant to be read as running on.
        status = 0;
        position = special.goesOn;
        continue;
      } else {
        ended = special.kind;
        position = special.kind === 'end-of-track' ? special.next : eventStart;
        break;
      }
      position = special.next;
      continue;
    }

    if (lead >= 0x80) {
      status = lead;
      afterMeta = false;
      position++;
    } else if (status === 0) {
      report(
        'unreadable-event',
        position,
        `A data byte stands where an event should begin at byte ${position}; the track was read up to there.`,
      );
      position = eventStart;
      ended = 'unreadable';
      break;
    } else if (afterMeta) {
      report(
        'running-status-after-meta',
        position,
        `Running status was used after a meta or system exclusive event at byte ${position}; the status before it was taken.`,
      );
      afterMeta = false;
    }
    const size = status >= 0xc0 && status < 0xe0 ? 1 : 2;
    if (position + size > limit) {
      position = eventStart;
      break;
    }
    let first = bytes[position];
    let second = size === 2 ? bytes[position + 1] : 0;
    if ((first | second) > 127) {
      report(
        'data-byte-above-127',
        position,
        `A data byte of ${Math.max(first, second)} at byte ${position} was lowered to 127.`,
      );
      first = Math.min(first, 127);
      second = Math.min(second, 127);
    }
    ticks[count] = tick;
    statuses[count] = status;
    firsts[count] = first;
    seconds[count] = second;
    eventByte[count] = lead >= 0x80 ? position - 1 : position;
    count++;
    position += size;
  }

  const events = finish(columns, count, payloads);
  return {
    reading: {
      track: { events, endTick: tick },
      eventByte: columns.eventByte.slice(0, count),
      stop: position,
      ended,
    },
    columns,
  };
}

/** A meta or system exclusive event with its payload, a message to leave out, or the reason to stop. */
type Special =
  | { kind: 'event'; type: number; from: number; next: number }
  | { kind: 'stray'; next: number }
  | { kind: 'end-of-track'; next: number }
  /** An end of track whose length is not 0; `goesOn` is where an event stands all the same, -1 if none does. */
  | { kind: 'false-end'; goesOn: number; next: number }
  | { kind: 'out-of-bytes' | 'unreadable'; next: number };

function readSpecial(bytes: Uint8Array, start: number, limit: number): Special {
  const lead = bytes[start];
  if (lead !== META && lead !== 0xf0 && lead !== 0xf7)
    return { kind: 'stray', next: start + 1 + systemDataBytes(lead) };
  const type = lead === META ? bytes[start + 1] : 0;
  const sizeAt = start + (lead === META ? 2 : 1);
  const quantity = sizeAt <= limit ? readQuantity(bytes, sizeAt, limit) : -1;
  const from = sizeAt + (quantity & 7);
  const next = from + Math.floor(quantity / 8);
  if (lead === META && type === META_END_OF_TRACK && sizeAt <= limit) {
    // One that lacks its length is an end of track all the same.
    if (sizeAt === limit || next === from) return { kind: 'end-of-track', next: Math.min(from, limit) };
    let after = sizeAt;
    while (after < limit && bytes[after] >= 0x80) after++;
    after = Math.min(after + 1, limit);
    const goesOn = [after, next].find((at) => isPlainEvent(bytes, at, limit)) ?? -1;
    return { kind: 'false-end', goesOn, next: after };
  }
  if (quantity < 0 || next > limit)
    return { kind: quantity === -2 ? 'unreadable' : 'out-of-bytes', next: start };
  return { kind: 'event', type, from, next };
}

/** Whether a whole event that names its status stands at `position`. Looks at that one event only. */
export function isPlainEvent(bytes: Uint8Array, position: number, limit: number): boolean {
  const delta = readQuantity(bytes, position, limit);
  if (delta < 0) return false;
  const at = position + (delta & 7);
  const status = bytes[at];
  if (at >= limit || status < 0x80) return false;
  if (status < 0xf0) {
    const size = status >= 0xc0 && status < 0xe0 ? 1 : 2;
    return at + size < limit && bytes[at + 1] < 0x80 && (size === 1 || bytes[at + 2] < 0x80);
  }
  if (status !== META && status !== 0xf0 && status !== 0xf7) return false;
  const sizeAt = at + (status === META ? 2 : 1);
  const size = readQuantity(bytes, sizeAt, limit);
  return size >= 0 && sizeAt + (size & 7) + Math.floor(size / 8) <= limit;
}

function createReport(repairs: Repair[], track: number) {
  let left = MOST_REPAIRS;
  return (code: RepairCode, byte: number, message: string) => {
    if (left-- > 0) repairs.push({ code, message, track, byte });
  };
}

function tooLate(track: number, byte: number): OrdleError {
  return new OrdleError(
    'time-too-large',
    `The times of track ${track + 1} add up beyond what can be counted (byte ${byte}); the file was not opened.`,
    { track, byte },
  );
}

const NO_EVENTS = createEventBuilder().build();

/**
 * Copies the rows out of the room, and leaves it as the next track needs it: only these two columns are not written
 * by every event.
 */
function finish(columns: Columns, length: number, payloads: Uint8Array[]): EventColumns {
  // A file may hold 65,535 tracks of nothing; they share these columns.
  if (length === 0) return NO_EVENTS;
  const payloadStart = new Uint32Array(payloads.length + 1);
  payloads.forEach((body, index) => {
    payloadStart[index + 1] = payloadStart[index] + body.length;
  });
  const joined = new Uint8Array(payloadStart[payloads.length]);
  payloads.forEach((body, index) => joined.set(body, payloadStart[index]));
  const data2 = columns.data2.slice(0, length);
  const payload = columns.payload.slice(0, length);
  columns.data2.fill(0, 0, length);
  columns.payload.fill(0, 0, length);
  return {
    length,
    tick: columns.tick.slice(0, length),
    status: columns.status.slice(0, length),
    data1: columns.data1.slice(0, length),
    data2,
    payload,
    payloadStart,
    bytes: joined,
  };
}
