import { figures } from '@/words/counts';

/** Distances between marks that read well, in seconds; beyond a day, 1, 2 and 5 of the powers of ten of days. */
const STEPS = [
  0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800, 3600, 7200, 21600, 43200,
  86400,
];
const DAY = 86400;

/** The least round distance that is not below `wanted` seconds. */
export function roundSeconds(wanted: number): number {
  const step = STEPS.find((value) => value >= wanted);
  if (step !== undefined) return step;
  const power = 10 ** Math.floor(Math.log10(wanted / DAY));
  return DAY * ([1, 2, 5, 10].map((factor) => factor * power).find((days) => days * DAY >= wanted) ?? 1);
}

/**
 * Marks at round seconds from `from` to `to`, at most about `most` of them, with their words: `1:05`, `2:00:00`, `3 d
 * 0:00:00`.
 */
export function secondLabels(from: number, to: number, most: number): { second: number; words: string }[] {
  if (!(to > from) || !Number.isFinite(to)) return [];
  const step = roundSeconds((to - from) / Math.max(1, most));
  const states: { second: number; words: string }[] = [];
  for (let index = Math.ceil(from / step); index * step <= to && states.length <= most + 1; index++)
    states.push({ second: index * step, words: secondsInWords(index * step, step) });
  return states;
}

function secondsInWords(second: number, step: number): string {
  const digits = step < 0.1 ? 2 : step < 1 ? 1 : 0;
  const rest = (second % 60).toFixed(digits).padStart(digits === 0 ? 2 : digits + 3, '0');
  const minutes = Math.floor(second / 60);
  if (minutes < 60) return `${minutes}:${rest}`;
  const hours = Math.floor(minutes / 60);
  const clock = `${hours % 24}:${String(minutes % 60).padStart(2, '0')}:${rest}`;
  return hours < 24 ? clock : `${figures(Math.floor(hours / 24))} d ${clock}`;
}
