/** What is probably wrong with a performance, with the step that would mend it. */
export * from './finding';
export { findingsOf, lateLeadIn, type LookedThrough } from './partFindings';
export { rangeOfProgram } from './instrumentRanges';
export { fileFindings, mendsOf, type FileFinding, type FileFindings } from './fileFindings';
