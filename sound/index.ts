/** Synth, player and click as one source of samples: the same in the audio thread, in files and in the tests. */
export { BLOCK, createRenderer, type Renderer } from './renderer';
export { instrumentsOf } from './instruments';
export { createPlayer, type CountIn, type Player, type Score, type ScorePart, type Strike } from './player';
export type { LiveMessage } from './live';
export type { Sink } from './sink';
