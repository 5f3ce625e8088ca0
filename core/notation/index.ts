/** A cleaned part as notation, and notation as MusicXML. */
export { notate, type NotationInput } from './notate';
export { DEFAULT_NOTATION, type Mark, type NotationOptions } from './options';
export { QUARTER as UNITS_PER_QUARTER } from './units';
export { barInWords } from './inWords';
export * from './written';
