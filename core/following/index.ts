/** A performance laid beside what is written: which note is which, where it jumps, what is wrong, missing, extra. */
export * from './score';
export type { PlayedNotes } from './chords';
export type { Said } from './jumps';
export { barsPlayed, secondsAt, type Clock, type Passage, type PlayedBar } from './passages';
export type { Occurrence } from './match';
export * from './follow';
export { createRememberedFollow, type Follow } from './remembered';
export * from './reference';
export { beginningOf } from './beginning';
export { scoreTake } from './scoreTake';
