import type { NoteTable } from '../model';

/** Spellings of the twelve tonics in keys of either mode, by pitch class. */
const MAJOR_TONICS = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'];
const MINOR_TONICS = ['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'G#', 'A', 'Bb', 'B'];

/** How well each pitch class fits a key, from its tonic up: probe tone ratings of Krumhansl and Kessler (1982). */
const PROFILES = {
  major: [6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88],
  minor: [6.33, 2.68, 3.52, 5.38, 2.6, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17],
};

/** A key by name, as a transpose step takes it, and how well it fits: the correlation with its profile, -1 to 1. */
export interface KeyEstimate {
  key: string;
  fit: number;
}

/**
 * The key the notes most likely are in: the one whose profile correlates best (Pearson) with how long each pitch
 * class sounds, after Krumhansl and Schmuckler. Null without notes, or when all pitch classes sound alike and nothing
 * can be told.
 */
export function estimateKey(notes: NoteTable): KeyEstimate | null {
  const sounding = new Float64Array(12);
  for (let row = 0; row < notes.length; row++)
    sounding[notes.pitch[row] % 12] += Math.max(0, notes.end[row] - notes.start[row]);
  let best: KeyEstimate | null = null;
  for (const key of ALL_KEYS) {
    const fit = keyFit(sounding, key);
    if (Number.isNaN(fit) || (best && fit <= best.fit)) continue;
    best = { key: key.name, fit };
  }
  return best;
}

/** The 24 keys by name, with their tonic (pitch class). */
export const ALL_KEYS = Array.from({ length: 12 }, (_, tonic) =>
  (['major', 'minor'] as const).map((mode) => ({
    name: `${(mode === 'major' ? MAJOR_TONICS : MINOR_TONICS)[tonic]} ${mode}`,
    tonic,
    mode,
  })),
).flat();

/**
 * How well a key fits how long each pitch class sounds: the correlation with its profile; NaN where all sound alike.
 */
export const keyFit = (sounding: Float64Array, { tonic, mode }: (typeof ALL_KEYS)[number]): number =>
  correlation(sounding, (pitchClass) => PROFILES[mode][(pitchClass - tonic + 12) % 12]);

function correlation(values: Float64Array, profile: (index: number) => number): number {
  const count = values.length;
  const mean = values.reduce((sum, value) => sum + value, 0) / count;
  let meanProfile = 0;
  for (let index = 0; index < count; index++) meanProfile += profile(index) / count;
  let [both, own, other] = [0, 0, 0];
  for (let index = 0; index < count; index++) {
    const [a, b] = [values[index] - mean, profile(index) - meanProfile];
    both += a * b;
    own += a * a;
    other += b * b;
  }
  return own < 1e-9 ? NaN : both / Math.sqrt(own * other);
}
