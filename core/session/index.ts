/** The session document: parts, where their takes come from, their steps; and how files become sessions. */
export * from './session';
export * from './formerNames';
export * from './importFile';
export * from './buildSession';
