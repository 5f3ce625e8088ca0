import type { WrittenNote } from '../human';

/** Ferry crossing: 24 bars of 4/4 in D minor, three rounds of an eight-bar harmony. Written out by hand. */
export const FERRY_BPM = 104;
export const FERRY_BARS = 24;

/** Root and chord tones a bar, around the middle of each instrument's range. */
const HARMONY: { root: number; chord: number[] }[] = [
  { root: 38, chord: [62, 65, 69] },
  { root: 34, chord: [62, 65, 70] },
  { root: 41, chord: [60, 65, 69] },
  { root: 36, chord: [60, 64, 67] },
  { root: 38, chord: [62, 65, 69] },
  { root: 43, chord: [62, 67, 70] },
  { root: 45, chord: [61, 64, 69] },
  { root: 45, chord: [61, 64, 67] },
];

const harmonyOf = (bar: number) => HARMONY[bar % HARMONY.length];
const bars = Array.from({ length: FERRY_BARS }, (_, bar) => bar);

/** Rocking sixteenths over the chord, a rolled chord on each first beat. */
export function marimba(): WrittenNote[] {
  const figure = [0, 1, 2, 1, 3, 2, 1, 2];
  return bars.flatMap((bar) => {
    const { chord } = harmonyOf(bar);
    const tones = [...chord, chord[0] + 12];
    const opening = chord.map((pitch) => ({ at: bar * 4, length: 1.9, pitch, velocity: 84 }));
    const running = Array.from({ length: 12 }, (_, index) => {
      const place = index + 4;
      const accent = place % 4 === 0 ? 16 : place % 2 === 0 ? 6 : 0;
      const rest = (bar % 4 === 3 && place > 13) || (place % 8 === 7 && bar % 2 === 0);
      return {
        at: bar * 4 + place / 4,
        length: 0.24,
        pitch: tones[figure[(place + bar) % 8]] + (bar >= 16 ? 12 : 0),
        velocity: rest ? 0 : 66 + accent,
      };
    });
    return [...opening, ...running.filter((note) => note.velocity > 0)];
  });
}

/** Root, fifth and a walk up to the next bar. */
export function uprightBass(): WrittenNote[] {
  return bars.flatMap((bar) => {
    const { root } = harmonyOf(bar);
    const next = harmonyOf(bar + 1).root;
    const note = (beat: number, length: number, pitch: number, velocity: number) => ({
      at: bar * 4 + beat,
      length,
      pitch,
      velocity,
    });
    return [
      note(0, 1.4, root, 92),
      note(1.5, 0.45, root, 70),
      note(2, 0.95, root + 7, 84),
      note(3.5, 0.45, next + (next < root ? 1 : -1), 74),
    ];
  });
}

/** Bass drum, brushed snare with flams, and ghost strokes. */
export function brushKitLow(): WrittenNote[] {
  const strokes = bars.flatMap((bar) => {
    const stroke = (beat: number, pitch: number, velocity: number) => ({
      at: bar * 4 + beat,
      length: 0.2,
      pitch,
      velocity,
    });
    const list = [
      stroke(0, 36, 88),
      stroke(2.5, 36, 74),
      stroke(1, 38, 92),
      stroke(3, 38, 96),
      stroke(1.75, 38, 26),
      stroke(2.25, 38, 30),
    ];
    // A flam: the grace stroke some 30 ms before its main stroke, at this tempo 0.052 of a beat.
    if (bar % 2 === 1) list.push(stroke(3 - 0.052, 40, 44));
    if (bar % 8 === 7) list.push(stroke(3.5, 43, 82), stroke(3.75, 41, 86));
    return list;
  });
  return strokes;
}

/** Hi-hat in swung-leaning eighths and a cymbal at the head of each round. */
export function brushKitHigh(): WrittenNote[] {
  return bars.flatMap((bar) => {
    const hats = Array.from({ length: 8 }, (_, index) => ({
      at: bar * 4 + index / 2,
      length: 0.2,
      pitch: index === 7 && bar % 4 === 3 ? 46 : 42,
      velocity: index % 2 === 0 ? 72 : 50,
    }));
    const foot = [1, 3].map((beat) => ({ at: bar * 4 + beat, length: 0.2, pitch: 44, velocity: 48 }));
    return bar % 8 === 0
      ? [{ at: bar * 4, length: 1, pitch: 49, velocity: 90 }, ...hats, ...foot]
      : [...hats, ...foot];
  });
}

/** Held chords an octave down, two to a bar from the second round on. */
export function reedOrgan(): WrittenNote[] {
  return bars.flatMap((bar) => {
    const { chord } = harmonyOf(bar);
    const halves =
      bar < 8
        ? [[0, 3.9]]
        : [
            [0, 1.9],
            [2, 1.9],
          ];
    return halves.flatMap(([beat, length]) =>
      chord.map((pitch) => ({
        at: bar * 4 + beat,
        length,
        pitch: pitch - 12 + (pitch < 62 ? 12 : 0),
        velocity: 70,
      })),
    );
  });
}

/** The tune, bars 9 to 24: beat, length, pitch, over four bars and their answer. */
export function tinWhistle(): WrittenNote[] {
  const phrase: [number, number, number][] = [
    [0, 1.5, 74], [1.5, 0.5, 76], [2, 1, 77], [3, 1, 76], [4, 2, 74], [6, 1, 70], [7, 1, 72],
    [8, 1.5, 72], [9.5, 0.5, 74], [10, 1, 77], [11, 1, 79], [12, 3, 76], [15, 1, 72],
  ]; // prettier-ignore
  const answer: [number, number, number][] = [
    [0, 1, 74], [1, 0.5, 77], [1.5, 0.5, 79], [2, 2, 81], [4, 1.5, 79], [5.5, 0.5, 77], [6, 2, 74],
    [8, 1, 76], [9, 1, 77], [10, 1, 76], [11, 1, 73], [12, 3.5, 73],
  ]; // prettier-ignore
  const lines = [
    [8, phrase],
    [12, answer],
    [16, phrase],
    [20, answer],
  ] as const;
  return lines.flatMap(([bar, line]) =>
    line.map(([beat, length, pitch]) => ({
      at: bar * 4 + beat,
      length: length * 0.95,
      pitch,
      velocity: 78 + (beat % 4 === 0 ? 10 : 0),
    })),
  );
}

/** Fog signal: slow two-hand chords with a bell-like answer, to be played with no click. */
export function fogSignal(): WrittenNote[] {
  const chords = [
    [45, 52, 60],
    [43, 50, 59],
    [41, 48, 57],
    [40, 47, 56],
    [45, 52, 60],
    [38, 53, 57],
    [40, 47, 56],
    [45, 52, 57],
  ];
  return chords.flatMap((chord, index) => {
    const at = index * 4;
    const held = chord.map((pitch) => ({ at, length: 3.6, pitch, velocity: 62 }));
    const bell = [
      [1, 76],
      [1.5, 72],
      [2, 76],
      [3, 71 + (index % 3)],
    ].map(([beat, pitch]) => ({ at: at + beat, length: 0.9, pitch, velocity: 54 + index }));
    return [...held, ...bell];
  });
}
