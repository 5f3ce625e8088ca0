/** Measurements: how early, late and spread the notes are, before and after. */
export * from './readings';
export * from './question';
