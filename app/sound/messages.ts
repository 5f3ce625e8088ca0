import type { Score } from './player';

/** From the page to the audio thread. */
export type ToSynth =
  | { type: 'bank'; bytes: ArrayBuffer }
  | { type: 'score'; score: Score }
  | { type: 'play'; second: number }
  | { type: 'stop' }
  | { type: 'loop'; range: { from: number; to: number } | null }
  | { type: 'click'; on: boolean }
  | { type: 'strike'; program: number; drums: boolean; pitch: number; velocity: number };

/** From the audio thread to the page. `time` is the audio clock when the position was true. */
export type FromSynth =
  | { type: 'ready' }
  | { type: 'failed'; message: string }
  | { type: 'position'; second: number; playing: boolean; ended: boolean; time: number };
