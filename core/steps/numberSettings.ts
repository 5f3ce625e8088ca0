import { z } from 'zod';

/** What is known of a number setting beside its range. */
export interface SettingFacts {
  unit?: '%' | 'ms' | 'ticks' | 'Hz';
  /** The stretch of values that is mostly needed, where it is less than the range: the ends of a slider. */
  usual?: readonly [number, number];
  /** The finest step that is of use; 1 where none is named. */
  step?: number;
  /** What a setting that can be left out begins with. */
  start?: number;
}

/** The facts of settings, by their schemas. They are no part of the published schema. */
export const settingFacts = z.registry<SettingFacts>();

/** A number from `low` to `high`. */
export function ranged(low: number, high: number, facts: SettingFacts = {}) {
  const sentence = `must be ${low} to ${high}`;
  return z
    .number(`must be a number, ${low} to ${high}`)
    .min(low, sentence)
    .max(high, sentence)
    .register(settingFacts, facts);
}

/** A whole number from `low` to `high`. */
export function whole(low: number, high: number, facts: SettingFacts = {}) {
  const sentence = `must be ${low} to ${high}`;
  return z
    .int(`must be a whole number, ${low} to ${high}`)
    .min(low, sentence)
    .max(high, sentence)
    .register(settingFacts, facts);
}

/** Two numbers of a kind, the second not below the first. */
export const range = (value: z.ZodNumber) =>
  z
    .tuple([value, value])
    .refine(([low, high]) => low <= high, { message: 'the first value must not be above the second' });

/** A number setting from `low` to `high` with its default. */
export const numberSetting = (low: number, high: number, initial: number, facts: SettingFacts = {}) =>
  ranged(low, high, facts).default(initial);

export const PERCENT: SettingFacts = { unit: '%' };
