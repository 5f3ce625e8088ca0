import { OrdleError } from '../errors';
import type { Division } from '../time';
import { findChunk, isChunkType } from './chunks';
import type { MidiFile, Repair } from './file';
import { readTracks } from './readTracks';
import { checkTempoAndMeter } from './tempoAndMeter';

/**
 * What reading gives: the file, and everything that had to be repaired on the way (empty for a sound file).
 *
 * @public
 */
export interface MidiReading {
  file: MidiFile;
  repairs: Repair[];
}

const HEADER = 0x4d546864; // "MThd"

/**
 * Reads a Standard MIDI File (MIDI Association RP-001), formats 0, 1 and 2. Damaged files are opened as far as they
 * make sense, and `repairs` of what is given say what was put right. Throws OrdleError `empty-file`, `not-midi`,
 * `bad-division`, `no-tracks` or `time-too-large` for the rest.
 *
 * @public
 */
export function readMidi(bytes: Uint8Array): MidiReading {
  const repairs: Repair[] = [];
  const header = readHeader(bytes, repairs);
  const tracks = readTracks(bytes, header.next, header.division, repairs);
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
