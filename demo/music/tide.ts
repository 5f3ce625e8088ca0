import type { WrittenNote } from '../human';

/** Tide table: 16 bars of 6/8 in G. A bar is three quarters long; beats here are quarters. */
export const TIDE_BPM = 96;
export const TIDE_BARS = 16;

const CHORDS = [
  [55, 59, 62],
  [57, 60, 64],
  [60, 64, 67],
  [54, 57, 62],
  [55, 59, 62],
  [52, 59, 64],
  [57, 60, 64],
  [54, 60, 62],
];
const bars = Array.from({ length: TIDE_BARS }, (_, bar) => bar);
const chordOf = (bar: number) => CHORDS[bar % CHORDS.length];

/** Six eighths to the bar, up and down the chord. */
export function musicBox(): WrittenNote[] {
  const order = [0, 1, 2, 3, 2, 1];
  return bars.flatMap((bar) => {
    const tones = [...chordOf(bar), chordOf(bar)[0] + 12];
    return order.map((tone, index) => ({
      at: bar * 3 + index / 2,
      length: 0.45,
      pitch: tones[tone] + 24,
      velocity: index % 3 === 0 ? 82 : 62,
    }));
  });
}

/** A long note a bar, with a step to the next. */
export function cello(): WrittenNote[] {
  return bars.flatMap((bar) => {
    const root = chordOf(bar)[0] - 12;
    return [
      { at: bar * 3, length: 2.4, pitch: root, velocity: 76 },
      { at: bar * 3 + 2.5, length: 0.45, pitch: root + 2, velocity: 64 },
    ];
  });
}

/** Maracas and claves marking the two beats. */
export function hands(): WrittenNote[] {
  return bars.flatMap((bar) => [
    ...Array.from({ length: 6 }, (_, index) => ({
      at: bar * 3 + index / 2,
      length: 0.1,
      pitch: 70,
      velocity: index % 3 === 0 ? 70 : 44,
    })),
    ...(bar % 2 === 1 ? [{ at: bar * 3 + 1.5, length: 0.1, pitch: 75, velocity: 78 }] : []),
  ]);
}
