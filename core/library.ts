/**
 * The core as other programs use it: files in, cleaned files out, and what can be said of them. Everything here stays
 * what it is within a major version; what the folders behind it export besides may change at any time.
 *
 * @packageDocumentation
 */
export { OrdleError, sentenceOf } from './errors';
export {
  inspectMidi,
  readMidi,
  writeMidi,
  type FileReport,
  type MidiFile,
  type MidiReading,
  type Repair,
} from './midi';
export type { NoteTable, Take } from './model';
export { secondsToTicks, ticksToSeconds, type NoteValue, type Timeline } from './time';
export { createStep, type Step } from './steps';
export {
  BUILT_IN_RECIPES,
  parseRecipe,
  readMusic,
  readSessionFile,
  recipeJsonSchema,
  writeSessionFile,
  type Recipe,
  type SessionFile,
} from './formats';
export { sessionOfFile, timelineOf, type Session } from './session';
export {
  cleanFile,
  createEvaluator,
  exportSession,
  type CleanedFile,
  type Evaluator,
  type ExportOptions,
} from './evaluate';
export {
  cleanMusic,
  midiOfSessionFile,
  openSessionFile,
  suggestFile,
  type CleanedMusic,
  type Cleaning,
  type FileSuggestion,
} from './suggest';
export { fileFindings, type FileFindings } from './findings';
export { beatsOfFile, underFoundMap, type FoundBeats } from './tempo';
export { readingsOfFile, type NamedReading } from './readings';
export { mergeFiles, separateFile, type Merged, type MergeOptions, type Share } from './merging';
