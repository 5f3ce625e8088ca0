/** The pulse of a performance: beats from note starts, bars, tempo maps of them. */
export { findBeats, bpmOfBeats, steadyBeats, type FoundBeats, type OtherReading } from './findBeats';
export * from './beatsOfFile';
export { onsetEventsOf } from './onsetEvents';
export * from './underFoundMap';
export type { BeatHints } from './beatPath';
export type { Division as BeatDivision } from './beatModel';
export { steadyLine } from './refine';
export * from './settle';
export * from './recording';
export * from './underMap';
export * from './mapEdits';
export * from './ramps';
export * from './beginning';
export * from './byHand';
export * from './toTheClick';
