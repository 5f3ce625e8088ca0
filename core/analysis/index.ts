/** Measurements: how early, late and spread the notes are, before and after. */
export * from './readings';
export * from './valueReading';
export * from './question';
export * from './key';
export * from './partFacts';
export * from './startingStep';
export * from './likelyGrid';
export * from './overlaps';
export * from './trouble';
export * from './changeReading';
export * from './partReading';
export * from './measured';
export * from './charts';
export * from './suggestion';
export * from './gridReadings';
export { chordName, likeliestChord, type Chord } from './chordNames';
export * from './harmonyAlong';
export * from './compareNotes';
