import { barAt, createTimeline, type Division, type MeterMap } from '../time';
import { TRACK, findChunk, isChunkEnd, isChunkType, trackLimit } from './chunks';
import type { MidiTrack, Repair } from './file';
import { createTrackReader, isPlainEvent, type ReadTrack, type TrackReading } from './readTrack';
import { releaseStuckNotes } from './releaseStuckNotes';
import { collectTempoAndMeter } from './tempoAndMeter';

/**
 * Tracks read a second time at most, to find out whether "MTrk" inside them begins another: more would cost quadratic
 * time.
 */
const MOST_SECOND_READINGS = 64;

/** Chunks passed over that are listed one by one. */
const MOST_PASSED_OVER = 200;

/** Reads every track from byte `from` on; what had to be repaired or given up is put on `repairs`. */
export function readTracks(
  bytes: Uint8Array,
  from: number,
  division: Division,
  repairs: Repair[],
): MidiTrack[] {
  const tracks: MidiTrack[] = [];
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const readTrack = createTrackReader(bytes);
  const budget = { secondReadings: MOST_SECOND_READINGS };
  let passedOver = 0;
  let position = from;
  while (position < bytes.length) {
    const isTrack = position + 8 <= bytes.length && view.getUint32(position) === TRACK;
    if (!isTrack) {
      position = passOver(bytes, view, position, passedOver++ < MOST_PASSED_OVER ? repairs : []);
      continue;
    }
    const index = tracks.length;
    const body = position + 8;
    const claimedEnd = body + view.getUint32(position + 4);
    const trusted = claimedEnd <= bytes.length && isChunkEnd(bytes, claimedEnd);
    const limit = trusted ? claimedEnd : trackLimit(bytes, body);
    const { reading, swallowed, own } = trusted
      ? readBelieved(bytes, view, { body, claimedEnd, index }, readTrack, budget)
      : readOnce(readTrack, body, limit, index);
    const firstRepair = repairs.length;
    repairs.push(...own);
    const endsItself = !trusted && reading.ended === 'end-of-track';
    const end = swallowed >= 0 ? swallowed : endsItself ? reading.stop : limit;
    reportEnd(reading, { index, body, end, claimedEnd, trusted: trusted && swallowed < 0 }, bytes, repairs);
    position = end;
    // The meter stands in this track or in one before it, where a file has one at all.
    let meter: MeterMap | null = null;
    const barOf = (tick: number) => {
      meter ??= createTimeline(division, [], collectTempoAndMeter([...tracks, reading.track]).meters).meter;
      return barAt(meter, tick).number;
    };
    tracks.push(releaseStuckNotes(reading, index, repairs, firstRepair, barOf));
  }
  if (passedOver > MOST_PASSED_OVER) {
    repairs.push({
      code: 'junk-between-chunks',
      message: `${passedOver - MOST_PASSED_OVER} more places between the tracks were passed over.`,
      track: -1,
      byte: -1,
    });
  }
  return tracks;
}

/** A track as read, its own repairs, and where in it another track begins (-1: nowhere). */
interface Attempt {
  reading: TrackReading;
  own: Repair[];
  swallowed: number;
}

function readOnce(read: ReadTrack, body: number, limit: number, index: number): Attempt {
  const own: Repair[] = [];
  return { reading: read(body, limit, index, own), own, swallowed: -1 };
}

/**
 * Reads a track whose length fits the file. A length can fit and be wrong all the same: when it covers the next track
 * too. "MTrk" inside is another track when it stands where an event should begin and its own length ends well, or
 * when the track makes no sense read across it. Inside a text it stays text.
 */
function readBelieved(
  bytes: Uint8Array,
  view: DataView,
  { body, claimedEnd, index }: { body: number; claimedEnd: number; index: number },
  read: ReadTrack,
  budget: { secondReadings: number },
): Attempt {
  const hit = findChunk(bytes, TRACK, body, claimedEnd - 7);
  if (hit < 0) return readOnce(read, body, claimedEnd, index);
  const upTo = { ...readOnce(read, body, hit, index), swallowed: hit };
  if (upTo.reading.ended === 'end-of-track') return upTo;
  const endsWell = isWholeTrack(bytes, view, hit);
  const standsBetweenEvents = upTo.reading.ended === 'out-of-bytes' && upTo.reading.stop === hit;
  if (standsBetweenEvents && endsWell) return upTo;
  if (budget.secondReadings-- <= 0) return endsWell ? upTo : readOnce(read, body, claimedEnd, index);
  const across = readOnce(read, body, claimedEnd, index);
  const isSound =
    across.reading.ended === 'end-of-track' && across.reading.stop === claimedEnd && across.own.length === 0;
  return isSound || !(endsWell || standsBetweenEvents) ? across : upTo;
}

/** Whether the chunk at `position` begins with an event, and ends where a chunk may end, with an end of track. */
function isWholeTrack(bytes: Uint8Array, view: DataView, position: number): boolean {
  const end = position + 8 + view.getUint32(position + 4);
  return (
    end <= bytes.length &&
    isChunkEnd(bytes, end) &&
    isPlainEvent(bytes, position + 8, end) &&
    bytes[end - 3] === 0xff &&
    bytes[end - 2] === 0x2f &&
    bytes[end - 1] === 0
  );
}

interface ChunkSpan {
  index: number;
  body: number;
  /** Where what belongs to the track ends. */
  end: number;
  claimedEnd: number;
  /** Whether `end` is where the chunk says it ends. */
  trusted: boolean;
}

function reportEnd(reading: TrackReading, span: ChunkSpan, bytes: Uint8Array, repairs: Repair[]) {
  const { index, body } = span;
  const add = (code: Repair['code'], byte: number, message: string) =>
    repairs.push({ code, message, track: index, byte });
  const name = `Track ${index + 1}`;
  if (!span.trusted && span.claimedEnd > bytes.length && reading.ended !== 'end-of-track') {
    add(
      'truncated-chunk',
      span.end,
      `${name} is cut off: its chunk should hold ${span.claimedEnd - body} bytes and ${span.end - body} are there.`,
    );
  } else if (!span.trusted) {
    add(
      'chunk-length',
      body - 4,
      `${name} says it holds ${span.claimedEnd - body} bytes, which is wrong; ${reading.stop - body} were read.`,
    );
  }
  if (reading.ended === 'out-of-bytes') {
    if (reading.stop < span.end && span.trusted) {
      add(
        'unreadable-event',
        reading.stop,
        `The last event of track ${index + 1} is cut off at byte ${reading.stop} and was left out.`,
      );
    }
    add(
      'missing-end-of-track',
      reading.stop,
      `${name} has no end-of-track event; it was ended after its last event.`,
    );
  } else if (reading.ended === 'unreadable') {
    add(
      'missing-end-of-track',
      reading.stop,
      `${name} could be read only up to byte ${reading.stop}; ${span.end - reading.stop} bytes after it were lost.`,
    );
  } else if (reading.stop < span.end) {
    add(
      'data-after-end-of-track',
      reading.stop,
      `${span.end - reading.stop} bytes after the end of track ${index + 1} were passed over.`,
    );
  }
}

/** Steps over something that is not a track: a chunk of another type, or junk up to the next track. */
function passOver(bytes: Uint8Array, view: DataView, position: number, repairs: Repair[]): number {
  if (position + 8 <= bytes.length && isChunkType(bytes, position)) {
    const end = position + 8 + view.getUint32(position + 4);
    if (end <= bytes.length && isChunkEnd(bytes, end)) {
      const type = String.fromCharCode(...bytes.subarray(position, position + 4));
      repairs.push({
        code: 'unknown-chunk',
        message: `A chunk of unknown type "${type}" (${end - position} bytes) was passed over.`,
        track: -1,
        byte: position,
      });
      return end;
    }
  }
  const next = findChunk(bytes, TRACK, position + 1, bytes.length);
  const end = next < 0 ? bytes.length : next;
  repairs.push({
    code: 'junk-between-chunks',
    message: `${end - position} bytes of junk were passed over at byte ${position}.`,
    track: -1,
    byte: position,
  });
  return end;
}
