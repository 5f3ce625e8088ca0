import { OrdleError } from '../errors';
import { META, META_END_OF_TRACK, type EventColumns } from './events';
import type { MidiTrack, Repair, RepairCode } from './file';

/** A track as read, with the byte each event stood at (for repairs that are found later) and where reading stopped. */
export interface TrackReading {
  track: MidiTrack;
  eventByte: Uint32Array;
  /** First byte not read. */
  stop: number;
  ended: 'end-of-track' | 'out-of-bytes' | 'unreadable';
}

/** At most this many repairs are listed one by one for a track; a hopeless file must not list a million. */
const MOST_REPAIRS = 200;

/** Number of data bytes of a channel message by its kind (status >> 4), 8-14. */
const DATA_BYTES = [0, 0, 0, 0, 0, 0, 0, 0, 2, 2, 2, 2, 1, 1, 2, 0];

/** Data bytes of system common and realtime messages, which do not belong in a file. */
function systemDataBytes(status: number): number {
  if (status === 0xf2) return 2;
  return status === 0xf1 || status === 0xf3 ? 1 : 0;
}

/**
 * Reads events from `start` up to `limit` (both byte offsets). Stops at end of track, at the limit, or at an event
 * that cannot be made sense of; everything before that is kept and each repair is put on `repairs`.
 */
export function readTrack(
  bytes: Uint8Array,
  start: number,
  limit: number,
  trackIndex: number,
  repairs: Repair[],
): TrackReading {
  const store = createStore(limit - start);
  const firstRepair = repairs.length;
  let position = start;
  let tick = 0;
  let status = 0;
  let afterMeta = false;
  let ended: TrackReading['ended'] = 'out-of-bytes';

  const repair = (code: RepairCode, byte: number, message: string) => {
    if (repairs.length - firstRepair < MOST_REPAIRS) repairs.push({ code, message, track: trackIndex, byte });
  };
  /** Reads a variable-length quantity (SMF 1.0: at most four bytes); -1 out of bytes, -2 too long. */
  const quantity = () => {
    let value = 0;
    for (let count = 0; count < 4; count++) {
      if (position >= limit) return -1;
      const byte = bytes[position++];
      value = (value << 7) | (byte & 0x7f);
      if (byte < 0x80) return value;
    }
    return -2;
  };

  reading: while (position < limit) {
    const eventStart = position;
    const delta = bytes[position] < 0x80 ? bytes[position++] : quantity();
    if (delta < 0 || position >= limit) {
      position = eventStart;
      if (delta === -2) {
        repair(
          'unreadable-event',
          eventStart,
          `The delta time at byte ${eventStart} is longer than four bytes; the track was read up to there.`,
        );
        ended = 'unreadable';
      }
      break;
    }
    tick += delta;
    if (tick > Number.MAX_SAFE_INTEGER) {
      throw new OrdleError(
        'time-too-large',
        `The times of track ${trackIndex + 1} add up beyond what can be counted (byte ${eventStart}); the file was not opened.`,
        { track: trackIndex, byte: eventStart },
      );
    }
    const lead = bytes[position];

    if (lead >= 0xf0) {
      const messageStart = position++;
      if (lead === META || lead === 0xf0 || lead === 0xf7) {
        const type = lead === META ? bytes[position++] : 0;
        const length = position <= limit ? quantity() : -1;
        if (length < 0 || position + length > limit) {
          if (type === META_END_OF_TRACK && lead === META) {
            ended = 'end-of-track';
            position = limit;
          } else {
            if (length === -2) ended = 'unreadable';
            position = eventStart;
          }
          break;
        }
        if (lead === META && type === META_END_OF_TRACK) {
          position += length;
          ended = 'end-of-track';
          break;
        }
        store.special(tick, lead, type & 0x7f, bytes.subarray(position, position + length), messageStart);
        position += length;
        afterMeta = status !== 0;
      } else {
        repair(
          'stray-system-message',
          messageStart,
          `A system message (0x${lead.toString(16)}) that does not belong in a file was left out at byte ${messageStart}.`,
        );
        position += systemDataBytes(lead);
        afterMeta = status !== 0;
      }
      continue;
    }

    if (lead >= 0x80) {
      status = lead;
      afterMeta = false;
      position++;
    } else if (status === 0) {
      repair(
        'unreadable-event',
        position,
        `A data byte stands where an event should begin at byte ${position}; the track was read up to there.`,
      );
      position = eventStart;
      ended = 'unreadable';
      break;
    } else if (afterMeta) {
      repair(
        'running-status-after-meta',
        position,
        `Running status was used after a meta or system exclusive event at byte ${position}; the status before it was taken.`,
      );
      afterMeta = false;
    }

    const count = DATA_BYTES[status >> 4];
    if (position + count > limit) {
      position = eventStart;
      break reading;
    }
    let data1 = bytes[position];
    let data2 = count === 2 ? bytes[position + 1] : 0;
    if (data1 > 127 || data2 > 127) {
      const value = Math.max(data1, data2);
      repair(
        'data-byte-above-127',
        position,
        `A data byte of ${value} at byte ${position} was lowered to 127.`,
      );
      data1 = Math.min(data1, 127);
      data2 = Math.min(data2, 127);
    }
    store.channel(tick, status, data1, data2, lead >= 0x80 ? position - 1 : position);
    position += count;
  }

  const { events, eventByte } = store.finish();
  return { track: { events, endTick: tick }, eventByte, stop: position, ended };
}

/**
 * Columns with room for what the bytes at hand can hold at most (an event takes at least two bytes), never for what a
 * length claims; trimmed at the end.
 */
function createStore(byteCount: number) {
  let room = Math.min(Math.max(byteCount >> 2, 16), 1 << 20);
  let tick = new Float64Array(room);
  let status = new Uint8Array(room);
  let data1 = new Uint8Array(room);
  let data2 = new Uint8Array(room);
  let payload = new Uint32Array(room);
  let eventByte = new Uint32Array(room);
  const payloads: Uint8Array[] = [];
  let length = 0;

  const grow = () => {
    room *= 2;
    const longer = <T extends Float64Array | Uint8Array | Uint32Array>(old: T, next: T) => {
      next.set(old);
      return next;
    };
    tick = longer(tick, new Float64Array(room));
    status = longer(status, new Uint8Array(room));
    data1 = longer(data1, new Uint8Array(room));
    data2 = longer(data2, new Uint8Array(room));
    payload = longer(payload, new Uint32Array(room));
    eventByte = longer(eventByte, new Uint32Array(room));
  };

  return {
    channel(at: number, kind: number, first: number, second: number, byte: number) {
      if (length === room) grow();
      tick[length] = at;
      status[length] = kind;
      data1[length] = first;
      data2[length] = second;
      eventByte[length] = byte;
      length++;
    },
    special(at: number, kind: number, type: number, body: Uint8Array, byte: number) {
      if (length === room) grow();
      payloads.push(body);
      tick[length] = at;
      status[length] = kind;
      data1[length] = type;
      payload[length] = payloads.length;
      eventByte[length] = byte;
      length++;
    },
    finish(): { events: EventColumns; eventByte: Uint32Array } {
      const payloadStart = new Uint32Array(payloads.length + 1);
      payloads.forEach((body, index) => {
        payloadStart[index + 1] = payloadStart[index] + body.length;
      });
      const joined = new Uint8Array(payloadStart[payloads.length]);
      payloads.forEach((body, index) => joined.set(body, payloadStart[index]));
      const events: EventColumns = {
        length,
        tick: tick.slice(0, length),
        status: status.slice(0, length),
        data1: data1.slice(0, length),
        data2: data2.slice(0, length),
        payload: payload.slice(0, length),
        payloadStart,
        bytes: joined,
      };
      return { events, eventByte: eventByte.slice(0, length) };
    },
  };
}
