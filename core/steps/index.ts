/** The clean-up operations: one file a kind, and the registry that knows them all. */
export * from './where';
export * from './stepKind';
export * from './registry';
export * from './placing';
export { chanceOf, normalOf } from './random';
export type { StartingPoint } from './start';
export * from './movedStep';
export * from './portable';
export {
  MOST_INLINE,
  changeColumns,
  changedIds,
  columnEditOf,
  columnsInOrder,
  columnsOf,
  countOfColumns,
  faultOfColumns,
  inlineEdits,
  keyOfColumns,
  keyOfDigest,
  type EditColumns,
  type EditTable,
} from './editTable';
export * from './otherColumns';
export { isQuantize, type QuantizeStep } from './quantize';
export { createPull, gridsOf, type Pull } from './pull';
export { findFlams, withGraces } from './flams';
export {
  columnsOfStep,
  editsWithoutNote,
  isByHand,
  idOfAdded,
  type AddedNote,
  type EditsStep,
  type NoteChange,
  type NoteEdits,
} from './edits';
export { strokesOf, type AlignStep } from './align';
export { patternOf, stackedGroove, type GrooveStep, type StackedGroove } from './groove';
export * from './groovePattern';
export { CURVE_OPS, laneSchema, type CurveOp, type CurveStep } from './curveSettings';
export { drawnLines, mergeCurveEdits, type CurveEdit, type DrawnLine } from './curveEdits';
export { lineThrough } from './curveShapes';
export { channelEvents } from './channelEvents';
export { laneUnit, type LaneUnit } from './laneUnit';
export { pedalLifted } from './seams';
export { DYNAMIC_MARKS, MARK_VALUES, type DynamicMark, type PlacedMark } from './dynamics';
export { harmonyChanges } from './harmony';
export { PRESS_AFTER_SECONDS, type PedalStep } from './pedal';
export type { HumanizeStep } from './humanize';
export { isLayout, type LayoutBlock, type LayoutStep } from './layout';
export { isCurve } from './curve';
export { createPulse, isPulse, type PulseStep } from './pulse';
export type { LengthStep } from './length';
export type { NudgeStep } from './nudge';
export type { RemoveStep } from './remove';
export { isScore, type ScoreStep, type WrittenBeside, type WrittenTarget } from './score';
export { isStretch, type StretchStep } from './stretch';
export { isTranspose, intervalInWords, keyOf, moveByDegrees, type TransposeStep } from './transpose';
export * from './sections';
export type { VelocityStep } from './velocity';
export { settingFacts, type SettingFacts } from './numberSettings';
export { noteValueSchema } from './settings';
