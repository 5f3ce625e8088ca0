import type { PlayedNote } from './human';
import { normalSource, randomSource } from './random';

/** What feet and wheels do beside the notes: second, status, and two bytes. */
const CONTROLLER = 0xb0;
const BEND = 0xe0;

/** Pedal down just after each change of harmony and up just before the next, forgotten in some bars. */
export function pedalling(
  barSeconds: number,
  bars: number,
  forgotten: number[],
  seed: number,
): [number, number, number, number][] {
  const normal = normalSource(randomSource(seed));
  return Array.from({ length: bars }, (_, bar) => bar).flatMap((bar): [number, number, number, number][] => {
    if (forgotten.includes(bar)) return [];
    const down = bar * barSeconds + 0.09 + Math.abs(normal()) * 0.04;
    return [
      [down, CONTROLLER, 64, 127],
      [(bar + 1) * barSeconds + 0.02 + Math.abs(normal()) * 0.02, CONTROLLER, 64, 0],
    ];
  });
}

/** A slow swell of a controller over every four bars, with a hand's unevenness. */
export function swell(
  controller: number,
  from: number,
  to: number,
  barSeconds: number,
  bars: number,
  seed: number,
): [number, number, number, number][] {
  const normal = normalSource(randomSource(seed));
  const steps = Math.round((bars * barSeconds) / 0.08);
  return Array.from({ length: steps }, (_, index) => {
    const second = index * 0.08;
    const phase = (second / (barSeconds * 4)) % 1;
    const shape = Math.sin(Math.PI * phase) ** 2;
    return [
      second,
      CONTROLLER,
      controller,
      Math.round(Math.min(127, Math.max(0, from + (to - from) * shape + normal() * 2))),
    ];
  });
}

/** A scoop up into long notes and a little vibrato at their ends, as bend (range 2 semitones). */
export function whistleBends(played: readonly PlayedNote[]): [number, number, number, number][] {
  const at = (second: number, semitones: number): [number, number, number, number] => {
    const value = Math.round(8192 + (semitones / 2) * 8191);
    return [second, BEND, value & 127, value >> 7];
  };
  return played.flatMap((note) => {
    if (note.end - note.start < 0.5) return [];
    const scoop = Array.from({ length: 8 }, (_, index) =>
      at(note.start + index * 0.015, -0.6 * (1 - index / 7)),
    );
    const from = note.start + 0.35;
    const vibrato = Array.from({ length: Math.floor((note.end - from) / 0.02) }, (_, index) =>
      at(from + index * 0.02, 0.18 * Math.sin(index * 0.02 * 2 * Math.PI * 5.2)),
    );
    return [...scoop, ...vibrato, at(note.end, 0)];
  });
}
