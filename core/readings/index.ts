/**
 * What is read of whole parts that were evaluated, as the places show it: figures and charts, harmony, beats, a part at
 * a stop, its takes and seams, what it is compared with.
 */
export * from './rulers';
export * from './partReadings';
export * from './harmonyOfParts';
export * from './playedBeats';
export * from './partView';
export * from './viewOfPart';
export * from './laidNotes';
export * from './takesReading';
export * from './assembledReading';
export * from './comparisonOfParts';
export * from './partRows';
export * from './sharesOfPart';
export * from './timingPicture';
export * from './partsAsWritten';
export * from './scorePage';
export * from './scoreReadings';
export * from './beatsByScore';
export * from './findingsByScore';
export * from './readingsOfFile';
