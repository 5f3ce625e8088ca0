/**
 * Recording: what arrives becomes takes. Messages, input maps, clocks, the open take, memory, and the practice player.
 */
export * from './message';
export * from './mapInput';
export * from './clock';
export * from './latency';
export * from './run';
export * from './openTake';
export * from './recordedPart';
export * from './recording';
export * from './memory';
export * from './practice';
