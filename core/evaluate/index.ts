/** A part -> what it sounds like at every stop of its line, and back into files. */
export * from './evaluatePart';
export * from './circle';
export * from './followedParts';
export * from './standing';
export * from './dependents';
export * from './cleanFile';
export * from './foldSteps';
export * from './exportSession';
export { markersOf } from './conductor';
export * from './weave';
export * from './playback';
export * from './noteStory';
export * from './portOfPart';
export * from './checkExport';
export * from './sourceTracks';
