/**
 * Written time is counted in whole units, so many a quarter: all note values down to 1/128 and their triplets,
 * quintuplets and septuplets are whole.
 */
export const QUARTER = 3360;

/** Note values by name, as MusicXML has them, with how long they are, long to short. */
export const VALUE_TYPES = [
  { type: 'whole', units: 4 * QUARTER },
  { type: 'half', units: 2 * QUARTER },
  { type: 'quarter', units: QUARTER },
  { type: 'eighth', units: QUARTER / 2 },
  { type: '16th', units: QUARTER / 4 },
  { type: '32nd', units: QUARTER / 8 },
  { type: '64th', units: QUARTER / 16 },
  { type: '128th', units: QUARTER / 32 },
] as const;

/** The shortest value: a 1/128. */
export const SMALLEST = QUARTER / 32;

export type ValueType = (typeof VALUE_TYPES)[number]['type'];

/** A length as one written value: a type, and a dot or none. */
export interface PlainValue {
  type: ValueType;
  dots: 0 | 1;
}

const PLAIN = new Map<number, PlainValue>(
  VALUE_TYPES.flatMap(({ type, units }) => [
    [units, { type, dots: 0 }] as const,
    [(units * 3) / 2, { type, dots: 1 }] as const,
  ]),
);

/** The one value that is so many units long; null where it takes several, tied. */
export const plainValueOf = (units: number): PlainValue | null => PLAIN.get(units) ?? null;

/** How many flags or beams a value has. */
export const flagsOf = (type: ValueType): number =>
  Math.max(0, VALUE_TYPES.findIndex((each) => each.type === type) - 2);
