import type { Division } from '../time';
import type { EventColumns } from './events';

/** One track of a file: its events without end of track, and the tick where it ends. */
export interface MidiTrack {
  events: EventColumns;
  endTick: number;
}

/**
 * A Standard MIDI File as read or to be written. Each track has its events as columns: ticks whole and ascending,
 * status with the channel, two data bytes, and the bytes of meta and system exclusive events.
 *
 * @public
 */
export interface MidiFile {
  format: 0 | 1 | 2;
  division: Division;
  tracks: MidiTrack[];
}

/**
 * Something in a damaged file that was put right or given up, and where: track from 0 (-1 for the header), byte in
 * the file.
 *
 * @public
 */
export interface Repair {
  code: RepairCode;
  message: string;
  track: number;
  byte: number;
}

export type RepairCode =
  | 'junk-before-header'
  | 'header-length'
  | 'format'
  | 'track-count'
  | 'frame-rate'
  | 'junk-between-chunks'
  | 'unknown-chunk'
  | 'chunk-length'
  | 'truncated-chunk'
  | 'missing-end-of-track'
  | 'data-after-end-of-track'
  | 'end-of-track-length'
  | 'bad-meta-type'
  | 'running-status-after-meta'
  | 'data-byte-above-127'
  | 'stray-system-message'
  | 'unreadable-event'
  | 'bad-tempo'
  | 'bad-meter'
  | 'stuck-note'
  | 'left-out';
