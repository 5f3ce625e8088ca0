import { createContext, useContext } from 'react';

/** What a setting does, in sentences, and what it is where nothing is said. */
export interface SettingTip {
  says: string;
  initial?: unknown;
}

/** The tip of a control that says itself what it does; undefined where it says nothing. */
export const ownTip = (says: string | undefined, initial?: unknown): SettingTip | undefined =>
  says === undefined ? undefined : { says, initial };

/** What is known of the settings a form is for, by their names. */
export const SettingTips = createContext<(setting: string) => SettingTip | null>(() => null);

/**
 * What is told of a control by pointing at it, known of its setting or its `own`: what its setting does, and its
 * default in the words that `named` has for it. Nothing where nothing is known.
 */
export function useTip(
  setting: string | undefined,
  named: (initial: unknown) => string | null,
  own?: SettingTip,
): string | undefined {
  const known = useContext(SettingTips)(setting ?? '');
  const tip = own ?? known;
  if (!tip) return undefined;
  const initial = named(tip.initial);
  return initial === null ? tip.says : `${tip.says} Default: ${initial}.`;
}

/**
 * The same of a control for a number: what its setting does, its range and its default, all as the control shows them,
 * which may be another unit than the setting's.
 */
export function useNumberTip(
  setting: string | undefined,
  { min, max, unit = '', initial }: { min: number; max: number; unit?: string; initial?: number },
  own?: SettingTip,
): string | undefined {
  const known = useContext(SettingTips)(setting ?? '');
  const tip = own ?? known;
  if (!tip) return undefined;
  const number = (value: number) => value.toLocaleString('en').replace('-', '−');
  const range = `${number(min)} to ${number(max)}${unit === '' ? '' : ` ${unit}`}`;
  return `${tip.says} ${range}${initial === undefined ? '' : `, default ${number(initial)}`}.`;
}
