/** A kind of chord: how it is written after its root, and its pitch classes from the root up. */
interface ChordKind {
  suffix: string;
  classes: readonly number[];
  /** What it costs to take it for one rather than a plainer chord. */
  rare: number;
}

/** The chords that are told apart. */
const KINDS: readonly ChordKind[] = [
  { suffix: '', classes: [0, 4, 7], rare: 0 },
  { suffix: 'm', classes: [0, 3, 7], rare: 0 },
  { suffix: '7', classes: [0, 4, 7, 10], rare: 0.02 },
  { suffix: 'm7', classes: [0, 3, 7, 10], rare: 0.02 },
  { suffix: 'maj7', classes: [0, 4, 7, 11], rare: 0.03 },
  { suffix: '6', classes: [0, 4, 7, 9], rare: 0.04 },
  { suffix: 'm6', classes: [0, 3, 7, 9], rare: 0.05 },
  { suffix: 'sus4', classes: [0, 5, 7], rare: 0.03 },
  { suffix: 'sus2', classes: [0, 2, 7], rare: 0.05 },
  { suffix: '7sus4', classes: [0, 5, 7, 10], rare: 0.05 },
  { suffix: 'dim', classes: [0, 3, 6], rare: 0.1 },
  { suffix: 'm7b5', classes: [0, 3, 6, 10], rare: 0.08 },
  { suffix: 'dim7', classes: [0, 3, 6, 9], rare: 0.06 },
  { suffix: 'aug', classes: [0, 4, 8], rare: 0.1 },
  { suffix: 'mMaj7', classes: [0, 3, 7, 11], rare: 0.1 },
  { suffix: '9', classes: [0, 2, 4, 7, 10], rare: 0.06 },
  { suffix: 'maj9', classes: [0, 2, 4, 7, 11], rare: 0.08 },
  { suffix: 'm9', classes: [0, 2, 3, 7, 10], rare: 0.06 },
  { suffix: '5', classes: [0, 7], rare: 0.04 },
];

/** A chord by its root (pitch class, 0 is C) and kind. */
export interface Chord {
  root: number;
  kind: number;
}

/** Every chord there is: each kind on each root. */
export const CHORDS: readonly Chord[] = KINDS.flatMap((_, kind) =>
  Array.from({ length: 12 }, (__, root) => ({ root, kind })),
);

const SHARPS = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'];
/** The names of pitch classes along the line of fifths, from Fb to B#. */
const FIFTHS = ['Fb', 'Cb', 'Gb', 'Db', 'Ab', 'Eb', 'Bb', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F#', 'C#', 'G#', 'D#', 'A#', 'E#', 'B#']; // prettier-ignore
/**
 * Fifths below and above its tonic within which a key writes every note: from the lowered second to the raised fourth.
 */
const [BELOW, ABOVE] = [5, 6];

/**
 * The name of a pitch class as a key writes it, always the same: of its notes as they stand in it, others as the ones
 * next to it on the line of fifths (common practice: Bb and F# in C major, C# in D minor). Without a key with sharps.
 */
export function className(pitchClass: number, key: string | null): string {
  const tonic = FIFTHS.indexOf(key?.split(' ')[0] ?? '');
  if (tonic < 0) return SHARPS[pitchClass];
  // Pitch classes come again every twelve fifths; F is the first.
  const at = (7 * (pitchClass - SHARPS.indexOf('F')) + 7 + 12 * 12) % 12;
  for (let place = at; place < FIFTHS.length; place += 12)
    if (place >= tonic - BELOW && place <= tonic + ABOVE) return FIFTHS[place];
  return SHARPS[pitchClass];
}

/** A chord as it is written: root, kind, and the bass where it is another note. */
export function chordName({ root, kind }: Chord, bass: number, key: string | null): string {
  const name = `${className(root, key)}${KINDS[kind].suffix}`;
  return bass === root ? name : `${name}/${className(bass, key)}`;
}

/**
 * What a chord gives for each of its notes that sounds, asks for each that does not, and for each that sounds and is
 * none of its own.
 */
const [MISSING, FOREIGN] = [0.16, 1.1];
/** A chord whose root is the bass is likelier, and a plain one than a rich one. */
const [BASS_IS_ROOT, BASS_IS_IN, EACH_RICHER] = [0.14, 0.03, 0.02];

/**
 * How well a chord explains what sounds: the share of it that is of the chord, less what is foreign, less the notes
 * of the chord that are not there. `sounding` has the weight of each pitch class, together 1. At most about 1; the
 * greatest is the one that is meant.
 */
export function chordFit({ root, kind }: Chord, sounding: Float64Array, bass: number): number {
  const { classes, rare } = KINDS[kind];
  let [own, missing] = [0, 0];
  for (const each of classes) {
    const weight = sounding[(root + each) % 12];
    own += weight;
    // The fifth of a richer chord is often left out.
    if (weight < 0.02) missing += each === 7 && classes.length > 3 ? 0.3 : 1;
  }
  const isIn = classes.some((each) => (root + each) % 12 === bass);
  return (
    own -
    FOREIGN * (1 - own) -
    MISSING * missing +
    (bass === root ? BASS_IS_ROOT : isIn ? BASS_IS_IN : 0) -
    EACH_RICHER * (classes.length - 3) -
    rare
  );
}

/** The chord that explains what sounds best; null where nothing does. */
export function likeliestChord(sounding: Float64Array, bass: number): Chord | null {
  let best: Chord | null = null;
  let most = -Infinity;
  for (const chord of CHORDS) {
    const fit = chordFit(chord, sounding, bass);
    if (fit > most) [most, best] = [fit, chord];
  }
  return most > 0 ? best : null;
}
