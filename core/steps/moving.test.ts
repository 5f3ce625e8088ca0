import fc from 'fast-check';
import { createEventBuilder } from '../midi';
import { type Material } from '../model';
import { noEvents, context, MS, material, run, column, rows, anyNotes } from '../testing/stepBench';
import { applyStep, createStep, type Step } from '.';

describe('nudge and stretch', () => {
  it('nudge adds ticks, grid units and milliseconds, and is undone by its opposite', () => {
    expect(
      column(
        run([{ start: 1000, end: 1100 }], createStep('nudge', { ms: 10, ticks: 5, grid: '1/8', steps: -1 })),
        'start',
      )[0],
    ).toBeCloseTo(1000 + 5 - 480 + 10 * MS, 9);
    fc.assert(
      fc.property(anyNotes, fc.nat(500), (notes, ticks) => {
        const there = run(notes, createStep('nudge', { ticks }));
        const back = applyStep(
          { notes: there, events: noEvents },
          createStep('nudge', { ticks: -ticks }),
          context,
        ).notes;
        expect(rows(back)).toEqual(rows(material(notes).notes));
      }),
    );
  });

  it('stretch keeps its anchor; half after double gives back the same ticks', () => {
    expect(
      column(
        run(
          [
            { start: 100, end: 200 },
            { start: 300, end: 340 },
          ],
          createStep('stretch', { factor: 2 }),
        ),
        'start',
      ),
    ).toEqual([100, 500]);
    expect(
      column(run([{ start: 4000, end: 4100 }], createStep('stretch', { factor: 2, anchor: 'bar' })), 'start'),
    ).toEqual([3840 + 2 * 160]);
    expect(
      column(
        run(
          [
            { start: 0, end: 100 },
            { start: 900, end: 1000 },
          ],
          createStep('stretch', { toTicks: 500 }),
        ),
        'end',
      ),
    ).toEqual([50, 500]);
    fc.assert(
      fc.property(anyNotes, fc.constantFrom(2, 4, 3), (notes, factor) => {
        const longer = run(notes, createStep('stretch', { factor }));
        const back = applyStep(
          { notes: longer, events: noEvents },
          createStep('stretch', { factor: 1 / factor }),
          context,
        ).notes;
        const rounded = (table: Material['notes']) => rows(table).map((row) => row.map(Math.round));
        expect(rounded(back)).toEqual(rounded(material(notes).notes));
      }),
    );
  });

  it('take all controllers of the part along, also after its last note, and leave set-up where it is', () => {
    const builder = createEventBuilder();
    builder.add(0, 0xc0, 5, 0);
    builder.add(500, 0xb0, 64, 127);
    builder.add(5000, 0xb0, 64, 0);
    const events = builder.build();
    const notes = [{ start: 400, end: 900 }];
    const ticks = (step: Step) => Array.from(applyStep(material(notes, events), step, context).events.tick);
    expect(ticks(createStep('nudge', { ticks: 100 }))).toEqual([0, 600, 5100]);
    expect(ticks(createStep('stretch', { factor: 3 }))).toEqual([0, 700, 14200]);
    expect(ticks(createStep('stretch', { factor: 3, controllers: false }))).toEqual([0, 500, 5000]);
  });
});
