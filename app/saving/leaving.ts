import { createSmallStore } from '@/ui/smallStore';

/** What is asked before the place is left: in the way is work that would be broken off. */
export interface LeavingQuestion {
  title: string;
  text: string;
  stay: string;
  leave: string;
  /** Brings the work to its end before the place is left. */
  onLeave(): Promise<void>;
}

const question = createSmallStore<LeavingQuestion | null>(null);

/** Has that asked until it is taken back with null. */
export const askOnLeaving = question.set;
export const useLeavingQuestion = question.useValue;
