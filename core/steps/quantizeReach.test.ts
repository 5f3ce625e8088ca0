import fc from 'fast-check';
import { column, material, run, timeline } from '../testing/stepBench';
import { applyStep, createStep, type QuantizeStep } from '.';

// 960 ticks a quarter: a sixteenth is 240 ticks, a sixty-fourth 60.
type Given = Partial<Omit<QuantizeStep, 'kind'>>;
const pulling = (given: Given) => createStep('quantize', { keepFlams: false, ...given });
const spanOf = (start: number, end: number, given: Given, isDrums = false) => {
  const { notes } = applyStep(material([{ start, end }]), pulling(given), { timeline, isDrums });
  return [notes.start[0], notes.end[0]];
};
const starts = (list: readonly number[], given: Given) =>
  column(
    run(
      list.map((start) => ({ start, end: start + 10 })),
      pulling(given),
    ),
    'start',
  );

describe('ends pulled toward the grid', () => {
  it('make no note shorter than the least length, or than it was where it was shorter still', () => {
    expect(spanOf(230, 330, { edge: 'end' })).toEqual([230, 290]);
    expect(spanOf(230, 330, { edge: 'end', minLength: '1/128' })).toEqual([230, 260]);
    expect(spanOf(230, 250, { edge: 'end' })).toEqual([230, 250]);
    expect(spanOf(100, 500, { edge: 'end' })).toEqual([100, 480]);
    expect(spanOf(100, 500, { edge: 'both' })).toEqual([0, 480]);
  });

  it('are no matter of drums, unless asked for', () => {
    expect(spanOf(100, 500, { edge: 'both' }, true)).toEqual([0, 500]);
    expect(spanOf(100, 500, { edge: 'end' }, true)).toEqual([100, 500]);
    expect(spanOf(100, 500, { edge: 'both', drumEnds: true }, true)).toEqual([0, 480]);
  });

  it('keep at least what the rule says, whatever the notes', () => {
    const edges = fc.constantFrom('end' as const, 'both' as const);
    fc.assert(
      fc.property(fc.nat(9000), fc.integer({ min: 1, max: 900 }), edges, (start, length, edge) => {
        const [from, to] = spanOf(start, start + length, { edge });
        expect(to - from).toBeGreaterThanOrEqual(Math.min(60, length) - 1e-9);
      }),
    );
  });
});

describe('how far a note may be from its line', () => {
  it('goes by the two lines on either side of it, so that 100 % leaves none between swung lines', () => {
    // Swing 75: the second line of each pair stands at 360 of 480.
    expect(starts([170, 190, 300, 425], { swing: 75 })).toEqual([0, 360, 360, 480]);
    // A quarter of 360 is 90, of 120 it is 30.
    expect(starts([89, 91, 300, 385, 395], { swing: 75, leaveBeyond: 50 })).toEqual([0, 91, 360, 360, 395]);
  });

  it('of several grids goes by the nearest line on each side, whichever grid it is of', () => {
    // Lines at 0, 240, 320, 480: between 240 and 320 a quarter of the way is 20.
    const grid: Given['grid'] = ['1/16', '1/8T'];
    expect(starts([255, 265, 300, 305], { grid, leaveBeyond: 50 })).toEqual([240, 265, 320, 320]);
  });

  it('at 100 % every note lands on a line, where it stays', () => {
    const grids = fc.constantFrom<Given['grid'][]>('1/16', '1/8T', ['1/16', '1/8T'], '1/4D');
    fc.assert(
      fc.property(
        fc.array(fc.nat(20000), { maxLength: 20 }),
        grids,
        fc.integer({ min: 50, max: 75 }),
        (list, grid, swing) => {
          const once = starts(list, { grid, swing });
          starts(once, { grid, swing }).forEach((start, row) => expect(start).toBeCloseTo(once[row], 6));
        },
      ),
    );
  });
});

test('what is done to all notes at once is what is done to each of them where they are named', () => {
  const note = fc.record({
    start: fc.integer({ min: 0, max: 8000 }),
    end: fc.integer({ min: 8001, max: 16000 }),
    pitch: fc.constantFrom(60, 62),
    velocity: fc.integer({ min: 1, max: 127 }),
  });
  const given = fc.record({
    strength: fc.integer({ min: 0, max: 100 }),
    swing: fc.constantFrom(50, 61.5),
    shiftMs: fc.constantFrom(0, -12, 9),
    keepLength: fc.boolean(),
    flamMs: fc.constantFrom(0, 60),
  });
  fc.assert(
    fc.property(fc.array(note, { maxLength: 30 }), given, (list, pulled) => {
      const everything = run(list, pulling({ keepFlams: true, ...pulled }));
      const named = run(list, pulling({ keepFlams: true, ...pulled, where: { pitch: [0, 127] } }));
      expect(named).toEqual(everything);
    }),
  );
});
