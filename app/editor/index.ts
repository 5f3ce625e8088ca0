/** The canvas: geometry, painters and gestures of the piano roll. */
export { heightAround } from './roll/heightAround';
export { createCurveLane, type CurveLane, type LaneKept } from './lane/curveLane';
export { PEDAL_LANES, pressesIn, readOut } from './lane/laneGeometry';
export { createRollEditor, type RollEditor } from './roll/rollEditor';
export type { EditorContent, EditorEvents } from './roll/editorTypes';
export type { WhereSpan } from './roll/whereSpans';
export type { WhereChange } from './roll/whereGestures';
export type { NoteGesture, Preview } from './roll/preview';
export type { OtherPart } from './roll/scene';
export type { BarsElements, BarsEvents, BarsFace } from './bars/barsEditor';
export { useColours } from './useColours';
export { HEADING } from './bars/barsGeometry';
export { NO_NOTES } from './bars/barsScene';
export { createTakesEditor, type TakesEditor } from './takes/takesEditor';
export type { Cell, SeenTake, TakesContent } from './takes/takesScene';
export { createPartsEditor, type PartsEditor } from './parts/partsEditor';
export { keyOfBlock, type BlocksDrag, type PartsContent, type SeenPart } from './parts/partsScene';
