/** What a hand does to notes, as edits: pure functions from notes to the settings of an `edits` step. */
export * from './mergeEdits';
export * from './operations';
export * from './clipboard';
export * from './curveOperations';
export * from './drawnLines';
export * from './pointOperations';
export * from './pressOperations';
export * from './pointsClipboard';
export * from './along';
export * from './laneClips';
export * from './feel';
export * from './pasting';
export * from './collisions';
