import { sentenceOf } from '@ordle/core';
import { toast } from 'sonner';

/** Does something a person asked for, and says in a sentence why where it cannot be done. */
export function attempt(work: () => unknown): void {
  const tell = (error: unknown) => void toast(sentenceOf(error), { duration: 8000 });
  try {
    const outcome = work();
    if (outcome instanceof Promise) outcome.catch(tell);
  } catch (error) {
    tell(error);
  }
}
