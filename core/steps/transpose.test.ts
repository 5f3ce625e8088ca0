import fc from 'fast-check';
import { Interval, Key, Note as TonalNote } from 'tonal';
import { noEvents, context, material, run, column, rows, anyNotes } from '../testing/stepBench';
import { applyStep, createStep, intervalInWords, keyOf, moveByDegrees } from '.';

describe('transpose', () => {
  it('by semitones folds at the ends of the keyboard, into a range, by sections, and leaves drums alone', () => {
    expect(
      column(run([{ pitch: 60 }, { pitch: 120 }], createStep('transpose', { semitones: 12 })), 'pitch'),
    ).toEqual([72, 120]);
    expect(
      column(run([{ pitch: 40 }, { pitch: 90 }], createStep('transpose', { into: [60, 71] })), 'pitch'),
    ).toEqual([64, 66]);
    const sections = [
      { bars: [1, 2] as [number, number], semitones: 5 },
      { bars: [2, 3] as [number, number], semitones: -2 },
    ];
    expect(
      column(
        run([{ start: 0 }, { start: 3840 }, { start: 7680 }], createStep('transpose', { sections })),
        'pitch',
      ),
    ).toEqual([65, 58, 60]);
    expect(
      column(run([{ pitch: 38 }], createStep('transpose', { semitones: 5 }), { isDrums: true }), 'pitch'),
    ).toEqual([38]);
    expect(
      column(
        run([{ pitch: 38 }], createStep('transpose', { semitones: 5, skipDrums: false }), { isDrums: true }),
        'pitch',
      ),
    ).toEqual([43]);
  });

  it('there and back is no move where nothing folds', () => {
    fc.assert(
      fc.property(anyNotes, fc.integer({ min: -17, max: 17 }), (notes, semitones) => {
        const there = run(notes, createStep('transpose', { semitones }));
        expect(
          rows(
            applyStep(
              { notes: there, events: noEvents },
              createStep('transpose', { semitones: -semitones }),
              context,
            ).notes,
          ),
        ).toEqual(rows(material(notes).notes));
      }),
    );
  });

  it('by degrees walks the scale that tonal, an independent library, gives', () => {
    for (const name of ['C major', 'F# major', 'Bb major', 'A minor', 'C minor', 'D minor']) {
      const [tonic, mode] = name.split(' ');
      const scale = mode === 'major' ? Key.majorKey(tonic).scale : Key.minorKey(tonic).natural.scale;
      const key = keyOf(name);
      if (!key) throw new Error(name);
      const base = TonalNote.midi(`${tonic}4`) ?? 0;
      scale.forEach((degree, index) =>
        expect(moveByDegrees(base, index, key) % 12).toBe((TonalNote.chroma(degree) ?? 0) % 12),
      );
      expect(moveByDegrees(base, 7, key)).toBe(base + 12);
      expect(moveByDegrees(base, -7, key)).toBe(base - 12);
    }
    expect(
      column(
        run(
          [{ pitch: 60 }, { pitch: 64 }, { pitch: 61 }],
          createStep('transpose', { degrees: 2, key: 'C major' }),
        ),
        'pitch',
      ),
    ).toEqual([64, 67, 65]);
  });

  it('names intervals as tonal measures them (perfect fourth 5, fifth 7, octave 12)', () => {
    for (const [name, words] of [
      ['3m', 'minor third'],
      ['3M', 'third'],
      ['4P', 'fourth'],
      ['5P', 'fifth'],
      ['6m', 'minor sixth'],
      ['7M', 'seventh'],
      ['8P', 'octave'],
      ['12P', 'octave and fifth'],
    ]) {
      expect(intervalInWords(Interval.semitones(name) ?? NaN)).toBe(`${words} up`);
    }
    expect(intervalInWords(-24)).toBe('2 octaves down');
  });
});
