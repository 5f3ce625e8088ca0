/** Standard MIDI Files: reading, writing, repairing, and the names of General MIDI. */
export * from './events';
export * from './file';
export * from './readMidi';
export * from './writeMidi';
export * from './pairNotes';
export * from './tempoAndMeter';
export * from './text';
export * from './generalMidi';
export * from './drumFamilies';
export * from './pitchNames';
export * from './inspect';
export * from './controllerNames';
