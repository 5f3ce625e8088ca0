/** What is probably wrong with a performance, with the step that would mend it. */
export * from './finding';
export * from './names';
export { findingsOf, type LookedThrough } from './partFindings';
export { scoreFindings } from './scoreFindings';
export { lookThrough, nameOfFinding, type PartOfSession } from './lookThrough';
export { rangeOfProgram } from './instrumentRanges';
export { fileFindings, mendsOf, type FileFinding, type FileFindings } from './fileFindings';
