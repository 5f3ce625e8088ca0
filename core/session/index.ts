/**
 * The session document: parts, what they are made of, their steps; how files become sessions, and older sessions
 * today's.
 */
export * from './session';
export * from './inputMap';
export * from './notationSettings';
export * from './reference';
export * from './ordered';
export * from './patches';
export * from './settled';
export * from './migrations';
export * from './importFile';
export * from './otherTempo';
export * from './partNames';
export * from './emptyPart';
export * from './movedPart';
export * from './named';
export * from './buildSession';
