/** The shapes of the music: note table, take, part, session. */
export * from './noteTable';
export * from './hands';
export * from './noteIds';
export * from './material';
export * from './joinEvents';
export * from './extent';
export * from './pairClosest';
export * from './heap';
export * from './take';
export * from './contentKey';
export * from './fileOfTake';
export * from './checkTake';
export { createSha256 } from './sha256';
