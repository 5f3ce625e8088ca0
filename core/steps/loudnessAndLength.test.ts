import { createEventBuilder } from '../midi';
import { context, MS, material, run, column } from '../testing/stepBench';
import { applyStep, createStep, type Step } from '.';

describe('velocity, length and remove', () => {
  it('velocity works in the order of the format', () => {
    const step = createStep('velocity', {
      scale: 50,
      add: 10,
      compress: { ratio: 2, around: 40 },
      limit: [30, 50],
    });
    expect(column(run([{ velocity: 100 }, { velocity: 20 }], step), 'velocity')).toEqual([50, 30]);
    expect(
      column(
        run(
          [{ start: 0 }, { start: 500 }, { start: 1000 }],
          createStep('velocity', { ramp: { from: 40, to: 80 } }),
        ),
        'velocity',
      ),
    ).toEqual([40, 60, 80]);
    expect(
      column(
        run(
          [{ start: 3840 }, { start: 5760 }],
          createStep('velocity', { ramp: { from: 40, to: 80 }, where: { bars: [2, 3] } }),
        ),
        'velocity',
      ),
    ).toEqual([40, 60]);
    expect(column(run([{ velocity: 3 }], createStep('velocity', { set: 77 })), 'velocity')).toEqual([77]);
  });

  it('velocity set or ramped on average keeps what the notes are to one another', () => {
    const chords = [
      { start: 0, velocity: 90, pitch: 72 },
      { start: 0, velocity: 30, pitch: 60 },
      { start: 960, velocity: 60, pitch: 72 },
      { start: 960, velocity: 60, pitch: 60 },
    ];
    const set = createStep('velocity', { set: 80, relative: true });
    expect(column(run(chords, set), 'velocity')).toEqual([120, 40, 80, 80]);
    const ramp = createStep('velocity', { ramp: { from: 30, to: 90 }, relative: true });
    expect(column(run(chords, ramp), 'velocity')).toEqual([45, 15, 90, 90]);
    // Without notes, and with one that is not touched, nothing divides by nothing.
    expect(run([], ramp).length).toBe(0);
    expect(column(run(chords, { ...ramp, where: { pitch: [1, 2] } }), 'velocity')).toEqual([90, 30, 60, 60]);
  });

  it('length leaves one note at a time, whatever the pitch; chords stay', () => {
    const line = [
      { start: 0, end: 1000, pitch: 60 },
      { start: 480, end: 1500, pitch: 64 },
      { start: 480 + 20 * MS, end: 1700, pitch: 67 },
      { start: 960, end: 1200, pitch: 62 },
      { start: 0, end: 5000, pitch: 40, channel: 3 },
    ];
    const step = createStep('length', { monophonic: true });
    const after = run(line, step);
    expect(column(after, 'end')).toEqual([480, 960, 960, 1200, 5000]);
    const again = applyStep({ notes: after, events: createEventBuilder().build() }, step, context);
    expect(again.notes).toBe(after);
  });

  it('legato joins chord to chord: the notes of a rolled chord do not cut each other', () => {
    const rolled = [
      { start: 0, end: 100, pitch: 60 },
      { start: 20 * MS, end: 90, pitch: 64 },
      { start: 29 * MS, end: 95, pitch: 67 },
      { start: 960, end: 1000, pitch: 62 },
      { start: 960 + 31 * MS, end: 1100, pitch: 65 },
    ];
    expect(column(run(rolled, createStep('length', { legato: { gapTicks: 10 } })), 'end')).toEqual([
      950,
      950,
      950,
      950 + 31 * MS,
      1100,
    ]);
    // A line within: only the touched notes count.
    const only = createStep('length', { legato: { gapTicks: 0 }, where: { pitch: [60, 62] } });
    expect(column(run(rolled, only), 'end')).toEqual([960, 90, 95, 1000, 1100]);
  });

  it('length sets, scales, joins, limits and cuts overlaps', () => {
    const two = [
      { start: 0, end: 100, pitch: 60 },
      { start: 480, end: 500, pitch: 62 },
    ];
    expect(column(run(two, createStep('length', { set: '1/8' })), 'end')).toEqual([480, 960]);
    expect(column(run(two, createStep('length', { scale: 200 })), 'end')).toEqual([200, 520]);
    expect(column(run(two, createStep('length', { legato: { gapTicks: 10 } })), 'end')).toEqual([470, 500]);
    expect(column(run(two, createStep('length', { limit: [50, 60] })), 'end')).toEqual([60, 530]);
    const overlapping = [
      { start: 0, end: 900, pitch: 60 },
      { start: 480, end: 700, pitch: 60 },
      { start: 480, end: 700, pitch: 61 },
    ];
    expect(column(run(overlapping, createStep('length')), 'end')).toEqual([480, 700, 700]);
    expect(column(run(overlapping, createStep('length', { noOverlap: false })), 'end')).toEqual([
      900, 700, 700,
    ]);
  });

  it('length holds pedalled notes until the pedal comes up: 64 and more is down (MIDI 1.0)', () => {
    const builder = createEventBuilder();
    for (const [tick, value] of [
      [50, 64],
      [600, 100],
      [800, 63],
      [900, 127],
    ])
      builder.add(tick, 0xb0, 64, value);
    const notes = [
      { start: 0, end: 100 },
      { start: 10, end: 40, pitch: 61 },
      { start: 820, end: 850, pitch: 62 },
      { start: 100, end: 950, pitch: 63 },
    ];
    const { notes: held } = applyStep(
      material(notes, builder.build()),
      createStep('length', { hold: 'fromPedal' }),
      context,
    );
    expect(column(held, 'end')).toEqual([800, 40, 850, 950]);
  });

  it('remove takes out specks, soft touches, strays and doubles, of which the later, softer goes', () => {
    const ids = (step: Step) =>
      Array.from(
        run(
          [
            { start: 0, end: 10, velocity: 90, pitch: 60 },
            { start: 40 * MS, end: 400, velocity: 40, pitch: 60 },
            { start: 500, end: 900, velocity: 10, pitch: 64 },
            { start: 1000, end: 1900, velocity: 90, pitch: 20 },
          ],
          step,
        ).id,
      );
    expect(ids(createStep('remove', { shorterThanMs: 10 }))).toEqual([1, 2, 3]);
    expect(ids(createStep('remove', { softerThan: 30 }))).toEqual([0, 1, 3]);
    expect(ids(createStep('remove', { doublesWithinMs: 45 }))).toEqual([0, 2, 3]);
    expect(ids(createStep('remove', { doublesWithinMs: 35 }))).toEqual([0, 1, 2, 3]);
    expect(ids(createStep('remove', { outside: [30, 100] }))).toEqual([0, 1, 2]);
  });
});
