import { createSmallStore } from '@/ui/smallStore';

/** Whether the way of the note under the keyboard is told beside the music. */
const told = createSmallStore(false);

export const tellWhy = told.set;
export const isWhyTold = told.get;
export const useWhyTold = told.useValue;
