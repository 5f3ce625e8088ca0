/**
 * What a part is made of, laid into the session's time: pieces of takes and of other parts, their seams, and doubles
 * between layers.
 */
export * from './assemble';
export type { Sources } from './sources';
export * from './shares';
export { layMusically, type WaitingPiece } from './layer';
export type { ContestedLane, LaneGivenWay } from './layerLanes';
export { joinStrands, type Strand } from './strand';
