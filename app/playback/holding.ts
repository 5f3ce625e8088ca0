import { createSmallStore } from '@/ui/smallStore';

/** Whether it is held to be heard, and seen, as played. */
const holding = createSmallStore(false);

export const setHolding = holding.set;
export const useHolding = holding.useValue;
