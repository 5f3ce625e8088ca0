/**
 * Who takes files that are dropped while a place is shown that has a use of its own for them; null where they become
 * sessions or parts.
 */
let taker: ((files: File[]) => void) | null = null;

export const setFileTaker = (next: typeof taker): void => void (taker = next);
export const fileTaker = (): typeof taker => taker;
