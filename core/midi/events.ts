/**
 * The events of one track as columns, one row an event, in file order (ticks never descend). The end-of-track event
 * is not a row: the writer adds it.
 *
 * `status` is the full status byte: 0x80-0xEF channel messages (kind and channel), 0xFF meta (then `data1` is the
 * meta type, 0-255), 0xF0 / 0xF7 system exclusive. Other `data1`, `data2` are 0-127. `payload` is 0 for channel
 * messages, else 1 + the number of the payload: bytes `payloadStart[n] .. payloadStart[n + 1]` of `bytes`.
 */
export interface EventColumns {
  readonly length: number;
  readonly tick: Float64Array;
  readonly status: Uint8Array;
  readonly data1: Uint8Array;
  readonly data2: Uint8Array;
  readonly payload: Uint32Array;
  readonly payloadStart: Uint32Array;
  readonly bytes: Uint8Array;
}

export const META = 0xff;
export const META_TEXT = 0x01;
export const META_TRACK_NAME = 0x03;
export const META_LYRIC = 0x05;
export const META_MARKER = 0x06;
/** The port a track goes out by: one data byte. Widely used, though not in the standard. */
export const META_PORT = 0x21;
export const META_END_OF_TRACK = 0x2f;
export const META_TEMPO = 0x51;
export const META_TIME_SIGNATURE = 0x58;

const NO_BYTES = new Uint8Array(0);

/** The bytes of an event's payload (a view, not a copy); empty for channel messages. */
export function payloadOf(events: EventColumns, row: number): Uint8Array {
  const number = events.payload[row];
  if (number === 0) return NO_BYTES;
  return events.bytes.subarray(events.payloadStart[number - 1], events.payloadStart[number]);
}

/** Grows columns of events; used where events are made or woven rather than read. */
export interface EventBuilder {
  add(tick: number, status: number, data1: number, data2: number, payload?: Uint8Array): void;
  build(): EventColumns;
}

export function createEventBuilder(capacity = 64): EventBuilder {
  let room = Math.max(capacity, 4);
  let tick = new Float64Array(room);
  let status = new Uint8Array(room);
  let data1 = new Uint8Array(room);
  let data2 = new Uint8Array(room);
  let payload = new Uint32Array(room);
  const chunks: Uint8Array[] = [];
  const starts = [0];
  let length = 0;

  function grow() {
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
  }

  return {
    add(at, kind, first, second, bytes) {
      if (length === room) grow();
      tick[length] = at;
      status[length] = kind;
      data1[length] = first;
      data2[length] = second;
      if (kind >= 0xf0) {
        const body = bytes ?? NO_BYTES;
        chunks.push(body);
        starts.push(starts[starts.length - 1] + body.length);
        payload[length] = chunks.length;
      }
      length++;
    },
    build() {
      const bytes = new Uint8Array(starts[starts.length - 1]);
      chunks.forEach((chunk, index) => bytes.set(chunk, starts[index]));
      return {
        length,
        tick: tick.slice(0, length),
        status: status.slice(0, length),
        data1: data1.slice(0, length),
        data2: data2.slice(0, length),
        payload: payload.slice(0, length),
        payloadStart: Uint32Array.from(starts),
        bytes,
      };
    },
  };
}

/** The rows named by `rows`, in that order; payload bytes are shared, not copied. `ticks` replaces the ticks. */
export function pickEvents(
  events: EventColumns,
  rows: ArrayLike<number>,
  ticks?: Float64Array,
): EventColumns {
  const length = rows.length;
  const picked = {
    length,
    tick: ticks ?? new Float64Array(length),
    status: new Uint8Array(length),
    data1: new Uint8Array(length),
    data2: new Uint8Array(length),
    payload: new Uint32Array(length),
    payloadStart: events.payloadStart,
    bytes: events.bytes,
  };
  for (let index = 0; index < length; index++) {
    const row = rows[index];
    if (!ticks) picked.tick[index] = events.tick[row];
    picked.status[index] = events.status[row];
    picked.data1[index] = events.data1[row];
    picked.data2[index] = events.data2[row];
    picked.payload[index] = events.payload[row];
  }
  return picked;
}
