/** Where a piece of a kit stands on five lines, as the letter and octave it would have in a treble clef. */
export interface DrumPlace {
  step: string;
  octave: number;
  head: 'normal' | 'x' | 'diamond' | 'triangle';
  /** A small circle above: left to ring. */
  isOpen: boolean;
}

const place = (
  step: string,
  octave: number,
  head: DrumPlace['head'] = 'normal',
  isOpen = false,
): DrumPlace => ({ step, octave, head, isOpen });

/** Pieces of the General MIDI kit on a staff of five lines: common practice, from memory. */
const PLACES: Record<number, DrumPlace> = {
  35: place('E', 4),
  36: place('F', 4),
  37: place('C', 5, 'x'),
  38: place('C', 5),
  39: place('C', 5, 'diamond'),
  40: place('C', 5),
  41: place('G', 4),
  42: place('G', 5, 'x'),
  43: place('A', 4),
  44: place('D', 4, 'x'),
  45: place('B', 4),
  46: place('G', 5, 'x', true),
  47: place('D', 5),
  48: place('E', 5),
  49: place('A', 5, 'x'),
  50: place('F', 5),
  51: place('F', 5, 'x'),
  52: place('B', 5, 'x'),
  53: place('F', 5, 'diamond'),
  54: place('E', 5, 'x'),
  55: place('B', 5, 'x'),
  56: place('E', 5, 'diamond'),
  57: place('A', 5, 'x'),
  59: place('F', 5, 'x'),
  60: place('D', 5),
  61: place('B', 4),
  62: place('E', 5, 'x'),
  63: place('E', 5),
  64: place('A', 4),
  65: place('F', 5),
  66: place('G', 4),
  67: place('F', 5, 'triangle'),
  68: place('D', 5, 'triangle'),
  69: place('A', 5, 'x'),
  70: place('B', 5, 'x'),
  75: place('G', 5, 'diamond'),
  76: place('E', 5, 'triangle'),
  77: place('C', 5, 'triangle'),
  80: place('A', 5, 'diamond'),
  81: place('A', 5, 'diamond', true),
};

/** The place of a piece; pieces outside the usual kit stand in the middle, with a head of their own. */
export const drumPlace = (pitch: number): DrumPlace => PLACES[pitch] ?? place('B', 4, 'diamond');
