import fc from 'fast-check';
import { divideHands, handsOf } from './hands';

const anyChords = fc.array(fc.uniqueArray(fc.integer({ min: 30, max: 90 }), { minLength: 1, maxLength: 6 }), {
  maxLength: 12,
});

describe('two hands', () => {
  it('part a chord where the music lies, the bass and the chord over it', () => {
    expect(handsOf([[36, 64, 67, 72]])).toEqual([['left', 'right', 'right', 'right']]);
    expect(handsOf([[40, 43]])).toEqual([['left', 'left']]);
    expect(handsOf([[79, 76]])).toEqual([['right', 'right']]);
  });

  it('never cross: the line lies between them, or beside all where one plays alone', () => {
    fc.assert(
      fc.property(anyChords, (chords) => {
        divideHands(chords).forEach(({ hands, line }, chord) =>
          hands.forEach((hand, note) => expect(chords[chord][note] < line).toBe(hand === 'left')),
        );
      }),
    );
  });

  it('go by the line where it is moved, in that chord and no other', () => {
    fc.assert(
      fc.property(anyChords, fc.nat(11), fc.integer({ min: -12, max: 12 }), (chords, at, shift) => {
        const plain = divideHands(chords);
        const moved = divideHands(chords, (chord) => (chord === at ? shift : 0));
        moved.forEach(({ hands, line }, chord) => {
          if (chord !== at) expect({ hands, line }).toEqual(plain[chord]);
          else expect(hands).toEqual(chords[chord].map((pitch) => (pitch < line ? 'left' : 'right')));
          expect(line).toBe(plain[chord].line + (chord === at ? shift : 0));
        });
      }),
    );
  });
});
