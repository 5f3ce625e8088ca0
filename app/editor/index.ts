/** The canvas: geometry, painters and gestures of the piano roll. */
export { HARMONY_HEIGHT } from './harmonyLane';
export { createCurveLane, type CurveLane } from './curveLane';
export { PEDAL_LANES, pressesIn, readOut } from './laneGeometry';
export { createRollEditor, type RollEditor } from './rollEditor';
export type { EditorContent, EditorEvents } from './editorTypes';
export type { WhereSpan } from './whereSpans';
export type { WhereChange } from './whereGestures';
export type { NoteGesture } from './preview';
export type { OtherPart } from './scene';
