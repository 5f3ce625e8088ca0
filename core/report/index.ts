/** What was measured as pages of HTML that stand alone. */
export { escaped } from './page';
export * from './readingsReport';
export * from './comparisonReport';
export * from './cleanupReport';
export type { ReportedNotes } from './drawnNotes';
export * from './chartWords';
export { roundMarks } from './roundMarks';
export * from './playerReport';
