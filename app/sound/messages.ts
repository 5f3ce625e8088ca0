import type { LiveMessage } from '@ordle/sound';
import type { CountIn, Score } from '@ordle/sound';

/** From the page to the audio thread. */
export type ToSynth =
  | { type: 'bank'; bytes: ArrayBuffer }
  | { type: 'score'; score: Score }
  | { type: 'play'; second: number; countIn: CountIn | null; number: number }
  | { type: 'rate'; rate: number }
  | ({ type: 'live' } & LiveMessage)
  | { type: 'letGo' }
  /** Whether the music goes out as messages in place of sounding here. */
  | { type: 'output'; on: boolean }
  | { type: 'stop'; number: number }
  | { type: 'loop'; range: { from: number; to: number } | null }
  | { type: 'click'; level: number }
  | { type: 'strike'; program: number; drums: boolean; pitch: number; velocity: number };

/**
 * From the audio thread to the page. `time` is the audio clock when the position was true; `unrolled` counts on through
 * loops. `number` is that of the last message to play or stop that was heard.
 */
export type FromSynth =
  | { type: 'ready' }
  | { type: 'failed'; message: string }
  /** A message that goes out: the voice of its part, and when by the audio clock. */
  | { type: 'out'; voice: number; message: [number, number, number]; time: number }
  | {
      type: 'position';
      second: number;
      unrolled: number;
      playing: boolean;
      counting: boolean;
      ended: boolean;
      time: number;
      number: number;
    };
