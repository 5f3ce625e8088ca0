import type { TypedValue } from '@ordle/core';
import { parseTyped } from '@/edits/typedValues';

/** What one typed unit is of a lane: a bend is typed in semitones, and held in cents. */
const unitOf = (lane: string): number => (lane === 'bend' ? 100 : 1);

/** A value of a lane as it is typed. */
export const shownLaneValue = (lane: string, value: number): string =>
  String(Number((value / unitOf(lane)).toFixed(2)));

/**
 * A typed value of a lane, or a shift; null when it is neither. Where values can lie below 0 (`low`) a minus is one of
 * a value, and a shift down is told by two. A bend may be typed in cents, as `50c`.
 */
export function parseLaneValue(text: string, lane: string, low: number): TypedValue | null {
  const cents = lane === 'bend' ? /^(.*\d)\s*c(?:ents?)?$/i.exec(text.trim()) : null;
  const plain = cents ? cents[1] : text.trim();
  const below = low < 0 && /^[-−]\d/.test(plain) ? parseTyped(`+${plain.slice(1)}`) : null;
  const value = below ? { relative: false, value: -below.value } : parseTyped(plain.replace(/^[-−]{2}/, '-'));
  return value && { ...value, value: value.value * (cents ? 1 : unitOf(lane)) };
}
