const SHARPS = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'];

/** Name of a pitch 0-127; `middleC` is the octave number given to note 60: 4 (scientific) or 3. */
export function pitchName(pitch: number, middleC: 3 | 4 = 4): string {
  return `${SHARPS[pitch % 12]}${Math.floor(pitch / 12) - 5 + middleC}`;
}

/** Whether a pitch is a black key of the piano. */
export function isBlackKey(pitch: number): boolean {
  return SHARPS[pitch % 12].length === 2;
}
