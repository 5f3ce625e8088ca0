import { OrdleError } from '../errors';
import type { Division } from '../time';
import type { MidiFile, MidiTrack, Repair } from './file';
import { readTrack, type TrackReading } from './readTrack';
import { releaseStuckNotes } from './releaseStuckNotes';
import { checkTempoAndMeter } from './tempoAndMeter';

/** What reading gives: the file, and everything that had to be repaired on the way (empty for a sound file). */
export interface MidiReading {
  file: MidiFile;
  repairs: Repair[];
}

const HEADER = 0x4d546864; // "MThd"
const TRACK = 0x4d54726b; // "MTrk"

/**
 * Reads a Standard MIDI File (MIDI Association RP-001), formats 0, 1 and 2. Damaged files are opened as far as they make
 * sense. Throws OrdleError `empty-file`, `not-midi`, `bad-division`, `no-tracks` or `time-too-large` for the rest.
 */
export function readMidi(bytes: Uint8Array): MidiReading {
  const repairs: Repair[] = [];
  const header = readHeader(bytes, repairs);
  const tracks = readTracks(bytes, header.next, repairs);
  if (tracks.length === 0) {
    throw new OrdleError(
      'no-tracks',
      'The file has a MIDI header but no track after it; there is nothing to open.',
      { byte: header.next },
    );
  }
  if (tracks.length !== header.trackCount) {
    repairs.push({
      code: 'track-count',
      message: `The header promises ${header.trackCount} tracks; ${tracks.length} were found.`,
      track: -1,
      byte: header.start + 10,
    });
  }
  let format = header.format;
  if (format > 2 || (format === 0 && tracks.length > 1)) {
    repairs.push({
      code: 'format',
      message: `The header says format ${format}, which does not fit ${tracks.length} tracks; read as format 1.`,
      track: -1,
      byte: header.start + 8,
    });
    format = 1;
  }
  checkTempoAndMeter(tracks, repairs);
  return { file: { format: format as 0 | 1 | 2, division: header.division, tracks }, repairs };
}

function readHeader(bytes: Uint8Array, repairs: Repair[]) {
  if (bytes.length === 0) throw new OrdleError('empty-file', 'The file is empty (0 bytes).');
  const start = findChunk(bytes, HEADER, 0, Math.min(bytes.length, 1 << 16));
  if (start < 0) {
    throw new OrdleError('not-midi', 'This is not a Standard MIDI File: it has no "MThd" header.', {
      byte: 0,
    });
  }
  if (bytes.length < start + 14) {
    throw new OrdleError(
      'not-midi',
      `The file stops inside its MIDI header, after ${bytes.length} bytes; nothing could be read.`,
      { byte: bytes.length },
    );
  }
  if (start > 0) {
    repairs.push({
      code: 'junk-before-header',
      message: `${start} bytes before the MIDI header were passed over.`,
      track: -1,
      byte: 0,
    });
  }
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const claimed = view.getUint32(start + 4);
  const next = start + 8 + claimed;
  const plausible =
    claimed >= 6 && next <= bytes.length && (next === bytes.length || isChunkType(bytes, next));
  if (claimed !== 6) {
    repairs.push({
      code: 'header-length',
      message: `The header says it is ${claimed} bytes long instead of 6${plausible ? '; the extra bytes were passed over' : ''}.`,
      track: -1,
      byte: start + 4,
    });
  }
  return {
    start,
    format: view.getUint16(start + 8),
    trackCount: view.getUint16(start + 10),
    division: divisionOf(view.getUint16(start + 12), start + 12, repairs),
    next: plausible ? next : start + 14,
  };
}

function divisionOf(raw: number, byte: number, repairs: Repair[]): Division {
  if (raw & 0x8000) {
    const framesPerSecond = 256 - (raw >> 8);
    const ticksPerFrame = raw & 0xff;
    if (ticksPerFrame === 0) {
      throw new OrdleError(
        'bad-division',
        'The header gives 0 ticks to a film frame, so no time in the file has a meaning; it was not opened.',
        { byte },
      );
    }
    if (![24, 25, 29, 30].includes(framesPerSecond)) {
      repairs.push({
        code: 'frame-rate',
        message: `The header gives ${framesPerSecond} frames a second, which the standard does not know; it was taken as it is.`,
        track: -1,
        byte,
      });
    }
    return { kind: 'smpte', framesPerSecond, ticksPerFrame };
  }
  if (raw === 0) {
    throw new OrdleError(
      'bad-division',
      'The header gives 0 ticks to a quarter note, so no time in the file has a meaning; it was not opened.',
      { byte },
    );
  }
  return { kind: 'metrical', ticksPerQuarter: raw };
}

function readTracks(bytes: Uint8Array, from: number, repairs: Repair[]): MidiTrack[] {
  const tracks: MidiTrack[] = [];
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let position = from;
  while (position < bytes.length) {
    const isTrack = position + 8 <= bytes.length && view.getUint32(position) === TRACK;
    if (!isTrack) {
      position = passOver(bytes, view, position, repairs);
      continue;
    }
    const index = tracks.length;
    const body = position + 8;
    const claimedEnd = body + view.getUint32(position + 4);
    const trusted = claimedEnd <= bytes.length && isChunkEnd(bytes, claimedEnd);
    const limit = trusted ? claimedEnd : trackLimit(bytes, body);
    const firstRepair = repairs.length;
    const reading = readTrack(bytes, body, limit, index, repairs);
    reportEnd(reading, { index, body, limit, claimedEnd, trusted, fileEnd: bytes.length }, repairs);
    position = trusted ? claimedEnd : reading.ended === 'end-of-track' ? reading.stop : limit;
    if (trusted && reading.ended === 'end-of-track' && reading.stop < claimedEnd) {
      // A length that swallowed the next track is wrong even if it happens to end well.
      const hidden = findChunk(bytes, TRACK, reading.stop, claimedEnd);
      if (hidden >= 0) position = hidden;
    }
    tracks.push(releaseStuckNotes(reading, index, repairs, firstRepair));
  }
  return tracks;
}

interface ChunkSpan {
  index: number;
  body: number;
  limit: number;
  claimedEnd: number;
  trusted: boolean;
  fileEnd: number;
}

function reportEnd(reading: TrackReading, span: ChunkSpan, repairs: Repair[]) {
  const { index, body } = span;
  const add = (code: Repair['code'], byte: number, message: string) =>
    repairs.push({ code, message, track: index, byte });
  const name = `Track ${index + 1}`;
  if (!span.trusted && span.claimedEnd > span.fileEnd && reading.ended !== 'end-of-track') {
    add(
      'truncated-chunk',
      span.limit,
      `${name} is cut off: its chunk should hold ${span.claimedEnd - body} bytes and ${span.limit - body} are there.`,
    );
  } else if (!span.trusted) {
    add(
      'chunk-length',
      body - 4,
      `${name} says it holds ${span.claimedEnd - body} bytes, which is wrong; ${reading.stop - body} were read.`,
    );
  }
  if (reading.ended === 'out-of-bytes') {
    if (reading.stop < span.limit && span.trusted) {
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
      `${name} could be read only up to byte ${reading.stop}; ${span.limit - reading.stop} bytes after it were lost.`,
    );
  } else if (span.trusted && reading.stop < span.claimedEnd) {
    add(
      'data-after-end-of-track',
      reading.stop,
      `${span.claimedEnd - reading.stop} bytes after the end of track ${index + 1} were passed over.`,
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

function isChunkEnd(bytes: Uint8Array, position: number): boolean {
  return position === bytes.length || isChunkType(bytes, position);
}

/** Four printable ASCII characters, as every chunk type is. */
function isChunkType(bytes: Uint8Array, position: number): boolean {
  if (position + 8 > bytes.length) return false;
  for (let index = position; index < position + 4; index++) {
    if (bytes[index] < 0x20 || bytes[index] > 0x7e) return false;
  }
  return true;
}

function trackLimit(bytes: Uint8Array, from: number): number {
  const next = findChunk(bytes, TRACK, from, bytes.length);
  return next < 0 ? bytes.length : next;
}

function findChunk(bytes: Uint8Array, type: number, from: number, to: number): number {
  const first = type >>> 24;
  let at = bytes.indexOf(first, from);
  while (at >= 0 && at + 4 <= to) {
    const value = (bytes[at] << 24) | (bytes[at + 1] << 16) | (bytes[at + 2] << 8) | bytes[at + 3];
    if (value === type) return at;
    at = bytes.indexOf(first, at + 1);
  }
  return -1;
}
