/** Several performances made into one, one into several, and how to choose among them. */
export * from './barCosts';
export * from './tightest';
export * from './lineAfter';
export * from './mergeFiles';
export * from './separateFile';
