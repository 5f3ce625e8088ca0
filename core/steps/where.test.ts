import fc from 'fast-check';
import { noteTableOf, type Note } from '../model';
import { anyNotes, context, material, run, column, timeline, MS } from '../testing/stepBench';
import { applyStep, createStep, touchedRows, describeWhere, type Where } from '.';

const BAR = 3840;
/** Ids of the notes a where touches. */
const touched = (notes: Partial<Note>[], where: Where) => {
  const table = noteTableOf(notes.map((note, id) => ({ id, ...note })));
  const rows = touchedRows(table, where, timeline);
  return Array.from(table.id)
    .filter((_, row) => rows[row] === 1)
    .sort((a, b) => a - b);
};

describe('the musical bar', () => {
  it('has the notes played just ahead of its line, and a chord whole', () => {
    const chord = [BAR - 10 * MS, BAR - 2, BAR + 4].map((start) => ({ start, end: start + 400, pitch: 60 }));
    expect(touched(chord, { bars: [2, 3] })).toEqual([0, 1, 2]);
    expect(touched(chord, { bars: [1, 2] })).toEqual([]);
    // 60 ms at 120 bpm are 115 ticks, a thirty-second is 120: the nearer of both decides.
    const alone = (start: number, bars: [number, number]) => touched([{ start, end: start + 50 }], { bars });
    expect([alone(BAR - 115, [2, 3]), alone(BAR - 116, [2, 3])]).toEqual([[0], []]);
    expect([alone(BAR - 115, [1, 2]), alone(BAR - 116, [1, 2])]).toEqual([[], [0]]);
  });

  it('is that of transposing along the harmony, of ramps and of dynamic marks', () => {
    const early = [0, BAR - 20, BAR].map((start) => ({ start, end: start + 400, pitch: 60, velocity: 60 }));
    const sections = [{ bars: [2, 3] as [number, number], semitones: 5 }];
    expect(column(run(early, createStep('transpose', { sections })), 'pitch')).toEqual([60, 65, 65]);
    const ramp = createStep('velocity', { ramp: { from: 40, to: 80 }, where: { bars: [2, 3] } });
    expect(column(run(early, ramp), 'velocity')).toEqual([60, 40, 40]);
    const marks = createStep('curve', {
      op: 'marks',
      lane: 'velocity',
      marks: [
        { at: 0, mark: 'p', hairpin: false },
        { at: BAR, mark: 'ff', hairpin: false },
      ],
    } as never);
    const { notes } = applyStep(material(early), marks, context);
    expect(column(notes, 'velocity')).toEqual([49, 112, 112]);
  });

  it('divides the notes: each is in exactly one bar, and no chord is torn', () => {
    fc.assert(
      fc.property(anyNotes, (notes) => {
        const bars = Array.from({ length: 8 }, (_, bar) => touched(notes, { bars: [bar + 1, bar + 2] }));
        expect(bars.flat().sort((a, b) => a - b)).toEqual([...notes.keys()]);
        // Starts within 30 ms of a first one that is preceded by silence are one chord.
        const order = [...notes.keys()].sort((a, b) => notes[a].start - notes[b].start);
        const barOf = (id: number) => bars.findIndex((ids) => ids.includes(id));
        order.forEach((id, at) => {
          const before = at > 0 ? notes[order[at - 1]].start : -Infinity;
          const next = order[at + 1];
          if (next === undefined || notes[id].start - before <= 60 * MS) return;
          if (notes[next].start - notes[id].start <= 29 * MS) expect(barOf(next)).toBe(barOf(id));
        });
      }),
    );
  });
});

describe('a where', () => {
  it('names pieces of a drum part, and says them', () => {
    const hits = [36, 42, 46, 38].map((pitch, at) => ({ start: at * 480, end: at * 480 + 60, pitch }));
    expect(touched(hits, { drums: [42, 46] })).toEqual([1, 2]);
    expect(describeWhere({ drums: [36, 99] })).toContain(', note 99');
  });

  it('names a hand by the split that follows the music; both together are all', () => {
    const chords = [
      [40, 52, 64, 72],
      [43, 50, 67, 74],
    ].flatMap((pitches, at) => pitches.map((pitch) => ({ start: at * 960, end: at * 960 + 900, pitch })));
    expect(touched(chords, { hand: 'left' })).toEqual([0, 1, 4, 5]);
    expect(touched(chords, { hand: 'right' })).toEqual([2, 3, 6, 7]);
    fc.assert(
      fc.property(anyNotes, (notes) => {
        const both = [...touched(notes, { hand: 'left' }), ...touched(notes, { hand: 'right' })];
        expect(both.sort((a, b) => a - b)).toEqual([...notes.keys()]);
      }),
    );
  });
});

describe('stretching', () => {
  it('from the start of the session keeps parts in step: every place is multiplied', () => {
    const notes = [{ start: 960, end: 1440 }, { start: 1920, end: 2000 }]; // prettier-ignore
    const double = (anchor: 'start' | 'bar' | 'session') =>
      column(run(notes, createStep('stretch', { factor: 2, anchor })), 'start');
    expect([double('start'), double('session')]).toEqual([[960, 2880], [1920, 3840]]); // prettier-ignore
  });
});
