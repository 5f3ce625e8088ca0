import type { Position, TypedValue } from '@ordle/core';

const tidy = (text: string) => text.trim().replace('−', '-').replace(',', '.');

/** A number, or with a sign before it a shift; null when it is neither. */
export function parseTyped(text: string): TypedValue | null {
  const typed = tidy(text);
  if (!/^[+-]?\d+(\.\d+)?$/.test(typed)) return null;
  return { relative: /^[+-]/.test(typed), value: Number(typed) };
}

/** `3.2.120` (bar, beat, tick), `3.2` or `3`; with a sign a shift in ticks. */
export function parsePosition(text: string, tickOf: (position: Position) => number): TypedValue | null {
  if (/^[+\-−]/.test(text.trim())) return parseTyped(text);
  const match = /^(\d+)(?:[.:](\d+))?(?:[.:](\d+))?$/.exec(text.trim());
  if (!match || Number(match[1]) < 1 || (match[2] !== undefined && Number(match[2]) < 1)) return null;
  return {
    relative: false,
    value: tickOf({ bar: Number(match[1]), beat: Number(match[2] ?? 1), tick: Number(match[3] ?? 0) }),
  };
}

const LETTERS: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** `C#4`, `Bb3`, `60`, or a shift in semitones. */
export function parsePitch(text: string, middleC: 3 | 4): TypedValue | null {
  const match = /^([A-Ga-g])([#b]?)(-?\d+)$/.exec(text.trim());
  if (!match) return parseTyped(text);
  const accidental = match[2] === '#' ? 1 : match[2] === 'b' ? -1 : 0;
  const value = LETTERS[match[1].toUpperCase()] + accidental + (Number(match[3]) + 5 - middleC) * 12;
  return value >= 0 && value <= 127 ? { relative: false, value } : null;
}
