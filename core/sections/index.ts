/** Markers and the sections they begin, and what becomes of them when time is put in or taken out. */
export * from './sections';
export * from './timeChange';
export * from './within';
