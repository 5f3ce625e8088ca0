/** The music: no DOM, no React, no Node API. Each folder's index is its face. */
export * from './errors';
export * from './time';
export * from './midi';
export * from './model';
export * from './curves';
export * from './steps';
export * from './session';
export * from './sections';
export * from './assembly';
export * from './evaluate';
export * from './analysis';
export * from './merging';
export * from './takes';
export * from './arranging';
export * from './formats';
export * from './editing';
