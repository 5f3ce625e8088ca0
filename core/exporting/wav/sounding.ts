import type { PlaybackPart } from '../../evaluate';

/** A part as it is made to sound. */
export interface SoundingPart {
  program: number;
  drums: boolean;
  /** The channel (0-15) it goes out on, where it sounds elsewhere. */
  channel: number;
  playback: PlaybackPart;
}

/** Left and right of as many frames. */
export type Pair = readonly [left: Float32Array, right: Float32Array];

/** Frames that are rendered in one go: the size of an audio worklet's block, so that samples are the same as heard. */
export const SOUND_BLOCK = 128;

/** Music that sounds from its first frame on, block by block. */
export interface SoundSource {
  /**
   * Adds the next `SOUND_BLOCK` frames: to one pair all of them together, or to as many pairs as there are parts each
   * part to its own.
   */
  render(outputs: readonly Pair[]): void;
}

/** Instruments to play some parts on, which end at a second; what sounds then rings out. */
export type Instruments = (rate: number, parts: readonly SoundingPart[], end: number) => Promise<SoundSource>;

/** Room outside the memory for what is written once and read once. */
export interface Scratch {
  append(bytes: Uint8Array): void;
  /** What was appended, in the pieces in which it was. */
  chunks(): AsyncIterable<Uint8Array> | Iterable<Uint8Array>;
  drop(): void;
}
