/** The canvas: geometry, painters and gestures of the piano roll. */
export { createRollEditor, type EditorContent, type EditorEvents, type RollEditor } from './rollEditor';
export type { WhereSpan } from './scene';
export type { NoteGesture } from './preview';
export type { OtherPart } from './scene';
