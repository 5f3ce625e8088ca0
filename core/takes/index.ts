/** The takes of a part: choosing among them bar by bar, laying several together, comparing and lining them up. */
export * from './partTakes';
export * from './compareTakes';
export * from './compareToScore';
export * from './alignTakes';
export * from './passes';
export * from './seamFacts';
export * from './takesForPart';
