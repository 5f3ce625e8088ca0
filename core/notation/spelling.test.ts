import { alterInKey, createSigns, fifthsOfKey, movedKey, spelledIn } from './spelling';

const name = ({ step, alter, octave }: { step: string; alter: number; octave: number }) =>
  `${step}${alter > 0 ? '#'.repeat(alter) : 'b'.repeat(-alter)}${octave}`;

describe('spelling', () => {
  it('follows the key, and chromatic steps by where they go', () => {
    const inKey = (pitch: number, key: string, next: number | null = null) => {
      const { fifths, mode } = fifthsOfKey(key);
      return name(spelledIn(pitch, fifths, mode, next));
    };
    expect(inKey(60, 'C major')).toBe('C4');
    expect(inKey(66, 'G major')).toBe('F#4');
    expect(inKey(70, 'F major')).toBe('Bb4');
    expect(inKey(61, 'Db major')).toBe('Db4');
    // The raised seventh of minor.
    expect(inKey(68, 'A minor')).toBe('G#4');
    expect(inKey(71, 'C minor')).toBe('B4');
    expect(inKey(61, 'D minor')).toBe('C#4');
    // Up as a raised note, down as a lowered one.
    expect(inKey(61, 'C major', 62)).toBe('C#4');
    expect(inKey(61, 'C major', 60)).toBe('Db4');
    expect(inKey(63, 'C major', 64)).toBe('D#4');
    expect(inKey(63, 'C major', 62)).toBe('Eb4');
    // No double signs where plain ones do.
    expect(inKey(67, 'D# minor')).toBe('F##4');
    expect(inKey(67, 'B minor', 68)).not.toContain('##');
    // Without a way on what is nearest on the line of fifths.
    expect(inKey(70, 'C major')).toBe('Bb4');
    expect(inKey(66, 'C major')).toBe('F#4');
    // The octave is that of the letter.
    expect(inKey(60, 'C# minor', 61)).toBe('B#3');
    expect(inKey(59, 'Gb major')).toBe('Cb4');
  });

  it('knows the signs of keys (circle of fifths)', () => {
    expect(fifthsOfKey('Bb minor')).toEqual({ fifths: -5, mode: 'minor' });
    expect(fifthsOfKey('E major')).toEqual({ fifths: 4, mode: 'major' });
    expect(fifthsOfKey('F# major').fifths).toBe(6);
    expect(['F', 'C', 'G', 'B'].map((step) => alterInKey(step as 'F', 2))).toEqual([1, 1, 0, 0]);
    expect(['B', 'E', 'A', 'F'].map((step) => alterInKey(step as 'F', -2))).toEqual([-1, -1, 0, 0]);
    // A tone up for an instrument in B flat: two sharps more.
    expect(movedKey(0, 2)).toBe(2);
    expect(movedKey(-3, 2)).toBe(-1);
    expect(movedKey(5, 7)).toBe(6);
  });

  it('shows a sign once a bar and line, and none on what is tied', () => {
    const sign = createSigns(1);
    const note = (step: 'F' | 'C', alter: number, octave = 4) => ({ step, alter, octave });
    expect(sign(note('F', 1), false)).toBeNull();
    expect(sign(note('F', 0), false)).toBe('natural');
    expect(sign(note('F', 0), false)).toBeNull();
    expect(sign(note('F', 1, 5), false)).toBeNull();
    expect(sign(note('F', 1), false)).toBe('sharp');
    expect(sign(note('C', 1), true)).toBeNull();
    expect(sign(note('C', 1), false)).toBe('sharp');
  });
});
