/** What is read of whole parts that were evaluated: figures and charts, harmony, the beats they were played by. */
export * from './rulers';
export * from './partReadings';
export * from './harmonyOfParts';
export * from './playedBeats';
