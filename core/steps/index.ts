/** The clean-up operations: one file a kind, and the registry that knows them all. */
export * from './where';
export * from './stepKind';
export * from './registry';
export { createPull, gridsOf, type QuantizeStep, type Pull } from './quantize';
export { editsWithoutNote, type AddedNote, type EditsStep, type NoteChange, type NoteEdits } from './edits';
export { strokesOf, type AlignStep } from './align';
export { patternOf, stackedGroove, type GrooveStep, type StackedGroove } from './groove';
export * from './groovePattern';
export type { HumanizeStep } from './humanize';
export type { LengthStep } from './length';
export type { NudgeStep } from './nudge';
export type { RemoveStep } from './remove';
export type { StretchStep } from './stretch';
export { intervalInWords, keyOf, moveByDegrees, type TransposeStep } from './transpose';
export * from './sections';
export type { VelocityStep } from './velocity';
export { noteValueSchema } from './settings';
