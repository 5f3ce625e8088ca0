/**
 * Written-out sounding ranges of instruments by General MIDI program (0-127), lowest and highest note; from memory,
 * as orchestration handbooks give them. Programs that are no instrument of a fixed range (pads, effects,
 * synthesizers, organs) have none, nor those whose samples are played beyond it as a matter of course (mallets,
 * guitars and basses, which are tuned at will).
 */
const RANGES: readonly (readonly [programs: readonly number[], low: number, high: number])[] = [
  [[0, 1, 2, 3], 21, 108],
  [[4, 5], 28, 103],
  [[6], 29, 89],
  [[7], 36, 96],
  [[21, 23], 53, 89],
  [[22], 48, 98],
  [[40], 55, 105],
  [[41], 48, 93],
  [[42], 36, 84],
  [[43], 23, 67],
  [[46], 23, 104],
  [[47], 36, 60],
  [[56, 59], 52, 86],
  [[57], 34, 77],
  [[58], 26, 65],
  [[60], 34, 77],
  [[64], 56, 92],
  [[65], 49, 88],
  [[66], 44, 84],
  [[67], 36, 76],
  [[68], 58, 93],
  [[69], 52, 84],
  [[70], 34, 77],
  [[71], 50, 94],
  [[72], 74, 109],
  [[73], 59, 98],
  [[74], 60, 101],
  [[75], 60, 100],
  [[79], 60, 96],
];

const BY_PROGRAM = new Map<number, [number, number]>(
  RANGES.flatMap(([programs, low, high]) =>
    programs.map((program): [number, [number, number]] => [program, [low, high]]),
  ),
);

/** The lowest and highest note of an instrument; null where it has no fixed range. */
export const rangeOfProgram = (program: number): [number, number] | null => BY_PROGRAM.get(program) ?? null;
