import { Note, Chord as Peer, Scale } from 'tonal';
import { CHORDS, chordName, className, likeliestChord } from './chordNames';

const KINDS = ['', 'm', '7', 'm7', 'maj7', '6', 'm6', 'sus4', 'sus2', '7sus4', 'dim', 'm7b5', 'dim7', 'aug', 'mMaj7', '9', 'maj9', 'm9', '5']; // prettier-ignore
const ROOTS = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'];
/** How the peer writes the same. */
const PEER: Record<string, string> = { '': 'M', mMaj7: 'mM7' };

const soundingOf = (pitches: readonly number[]) => {
  const sounding = new Float64Array(12);
  for (const pitch of pitches) sounding[pitch % 12] += 1 / pitches.length;
  return sounding;
};

/** Pitches of a chord as `tonal` (an independent library of music theory) has them, root at the bottom. */
const pitchesOf = (root: string, kind: string): number[] => {
  const { notes, intervals } = Peer.getChord(PEER[kind] ?? kind, root);
  expect(notes.length).toBeGreaterThan(1);
  const semitones: Record<string, number> = { '1P': 0, '2M': 2, '3m': 3, '3M': 4, '4P': 5, '5d': 6, '5P': 7, '5A': 8, '6M': 9, '7d': 9, '7m': 10, '7M': 11, '9M': 14 }; // prettier-ignore
  return intervals.map((each) => 48 + ROOTS.indexOf(root) + semitones[each]);
};

describe('names of chords', () => {
  it('are those tonal gives the same pitches, for every kind on every root', () => {
    for (const root of ROOTS)
      for (const kind of KINDS) {
        const pitches = pitchesOf(root, kind);
        const found = likeliestChord(soundingOf(pitches), pitches[0] % 12);
        if (!found) throw new Error(`nothing for ${root}${kind}`);
        expect(chordName(found, pitches[0] % 12, null)).toBe(`${root}${kind}`);
        // Of chords with two names (C6 is Am7 over C) tonal lists both.
        const meant = Peer.getChord(PEER[kind] ?? kind, root);
        const peers = Peer.detect(pitches.map((pitch) => ROOTS[pitch % 12])).map((each) => Peer.get(each));
        expect(peers.some(({ tonic, setNum }) => tonic === root && setNum === meant.setNum)).toBe(true);
      }
  });

  it('name another bass, and keys with flats in flats', () => {
    const found = likeliestChord(soundingOf([52, 60, 67]), 4);
    expect(found && chordName(found, 4, null)).toBe('C/E');
    const flat = likeliestChord(soundingOf([58, 62, 65]), 10);
    expect(flat && chordName(flat, 10, 'F major')).toBe('Bb');
    expect(flat && chordName(flat, 10, 'B minor')).toBe('A#');
  });

  it('are spelled one way in a key, as scales are written (tonal) and by the notes next to them', () => {
    for (const [mode, tonics] of [
      ['major', ['C', 'G', 'D', 'A', 'E', 'B', 'F#', 'F', 'Bb', 'Eb', 'Ab', 'Db']],
      ['minor', ['A', 'E', 'B', 'F#', 'C#', 'G#', 'D', 'G', 'C', 'F', 'Bb', 'Eb']],
    ] as const)
      for (const tonic of tonics)
        for (const note of Scale.get(`${tonic} ${mode}`).notes)
          expect(className(Note.chroma(note), `${tonic} ${mode}`)).toBe(note);
    const inC = Array.from({ length: 12 }, (_, pitchClass) => className(pitchClass, 'C major'));
    expect(inC).toEqual(['C', 'Db', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B']);
    expect(className(1, 'D minor')).toBe('C#');
  });

  it('are not thrown by a passing note, and are none of noise', () => {
    const sounding = soundingOf([48, 52, 55]);
    sounding[2] += 0.1;
    const sum = sounding.reduce((all, each) => all + each, 0);
    const found = likeliestChord(
      sounding.map((each) => each / sum),
      0,
    );
    expect(found && chordName(found, 0, null)).toBe('C');
    expect(likeliestChord(new Float64Array(12).fill(1 / 12), 0)).toBeNull();
    expect(CHORDS).toHaveLength(12 * KINDS.length);
  });
});
