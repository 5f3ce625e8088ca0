import { msInWords } from '@/words/counts';

/** How even a performance is, in ms. */
export const spreadInWords = (ms: number): string => (Number.isNaN(ms) ? 'no notes' : `±${msInWords(ms)} ms`);

/** How late or early it is on the whole. */
export function biasInWords(ms: number): string {
  const rounded = Math.round(ms);
  return rounded === 0 ? 'on the grid' : rounded > 0 ? `late ${rounded} ms` : `early ${-rounded} ms`;
}

export const sum = (counts: ArrayLike<number>): number =>
  Array.from(counts).reduce((total, own) => total + own, 0);
