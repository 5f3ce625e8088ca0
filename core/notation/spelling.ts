import type { Accidental, Letter } from './written';

/** A key with so many signs has use for double ones. */
const MANY_SIGNS = 5;

/** Letters along the line of fifths, from F. */
const LETTERS: readonly Letter[] = ['F', 'C', 'G', 'D', 'A', 'E', 'B'];

export interface Spelling {
  step: Letter;
  alter: number;
  octave: number;
}

/** Place of a pitch class on the line of fifths nearest to a middle; C is 0, G 1, F -1. */
function nearestFifth(pitchClass: number, middle: number): number {
  const first = (pitchClass * 7) % 12;
  return first + 12 * Math.round((middle - first) / 12);
}

/** A pitch by its place on the line of fifths. */
export function spelledByFifth(pitch: number, fifth: number): Spelling {
  const index = fifth + 1;
  const step = LETTERS[((index % 7) + 7) % 7];
  const alter = Math.floor(index / 7);
  // The octave is that of the letter: B sharp is written below the C that sounds.
  return { step, alter, octave: Math.floor((pitch - alter) / 12) - 1 };
}

/**
 * A pitch as it is written in a key (`fifths` sharps, flats below 0): of the key where it is one of its seven, else
 * nearest to it on the line of fifths, the raised seventh and sixth of minor on their side; a chromatic step that goes
 * on by a semitone is written by where it goes: up as a raised note, down as a lowered one. `next` is the nearest
 * pitch that follows, if one is a semitone away.
 */
export function spelledIn(
  pitch: number,
  fifths: number,
  mode: 'major' | 'minor',
  next: number | null,
): Spelling {
  const pitchClass = ((pitch % 12) + 12) % 12;
  // The seven of the key lie from one below its major tonic to five above; the middle of them is two above.
  const middle = fifths + (mode === 'minor' ? 4 : 2.5);
  let fifth = nearestFifth(pitchClass, middle);
  const isOwn = fifth >= fifths - 1 && fifth <= fifths + 5;
  if (!isOwn && next !== null && Math.abs(next - pitch) === 1) {
    const goal = nearestFifth(((next % 12) + 12) % 12, fifths + 2);
    // A semitone up between neighbouring letters is five fifths down the line.
    const led = next > pitch ? goal + 5 : goal - 5;
    if (Math.abs(led - middle) <= 8 && led >= -8 && led <= 12) fifth = led;
  }
  const spelled = spelledByFifth(pitch, fifth);
  // No reader wants a double sign where a plain one says the same, but in keys that are full of signs.
  const isDouble = Math.abs(spelled.alter) === 2 && Math.abs(fifths) < MANY_SIGNS;
  return isDouble ? spelledByFifth(pitch, fifth - 12 * Math.sign(spelled.alter)) : spelled;
}

/** How a letter is altered by the signs at the clef. */
export function alterInKey(step: Letter, fifths: number): number {
  const index = LETTERS.indexOf(step);
  return Math.floor((fifths - 1 - index) / 7) + 1;
}

const SIGNS: Record<string, Accidental> = {
  '2': 'double-sharp',
  '1': 'sharp',
  '0': 'natural',
  '-1': 'flat',
  '-2': 'flat-flat',
};

/** What is in force on a staff within a bar, by letter and octave; asks for the sign a note needs. */
export function createSigns(fifths: number) {
  const inForce = new Map<string, number>();
  return (note: Spelling, isTied: boolean): Accidental | null => {
    const line = `${note.step}${note.octave}`;
    const now = inForce.get(line) ?? alterInKey(note.step, fifths);
    if (now === note.alter || isTied) return null;
    inForce.set(line, note.alter);
    return SIGNS[note.alter] ?? null;
  };
}

/** Sharps (above 0) or flats of a key by its name, as `Bb minor`; between six flats and six sharps. */
export function fifthsOfKey(name: string): { fifths: number; mode: 'major' | 'minor' } {
  const [tonic, words] = name.split(' ');
  const letter = LETTERS.indexOf(tonic[0] as Letter) - 1;
  const alter = (tonic.match(/#/g)?.length ?? 0) - (tonic.slice(1).match(/b/g)?.length ?? 0);
  const mode = words === 'minor' ? 'minor' : 'major';
  const fifths = letter + 7 * alter - (mode === 'minor' ? 3 : 0);
  return { fifths: fifths > 6 ? fifths - 12 : fifths < -6 ? fifths + 12 : fifths, mode };
}

/** A key moved by some semitones, held to six signs. */
export function movedKey(fifths: number, semitones: number): number {
  const moved = (((fifths + 7 * semitones) % 12) + 12) % 12;
  return moved > 6 ? moved - 12 : moved;
}
