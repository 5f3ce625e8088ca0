/** The clean-up operations: one file a kind, and the registry that knows them all. */
export * from './where';
export * from './stepKind';
export * from './registry';
export { createPull, gridsOf, type QuantizeStep, type Pull } from './quantize';
export { editsWithoutNote, type AddedNote, type EditsStep, type NoteChange, type NoteEdits } from './edits';
export { noteValueSchema } from './settings';
