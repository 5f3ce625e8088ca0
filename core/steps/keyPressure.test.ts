import { createEventBuilder, type EventColumns } from '../midi';
import { noteTableOf } from '../model';
import { context } from '../testing/stepBench';
import { applyStep, createStep, type Step } from '.';

/** Two notes on one key, one on another, each with its key pressed harder as it sounds. */
const NOTES = noteTableOf([
  { id: 1, start: 0, end: 400, pitch: 60 },
  { id: 2, start: 500, end: 900, pitch: 60 },
  { id: 3, start: 0, end: 900, pitch: 64 },
]);
const EVENTS = (() => {
  const builder = createEventBuilder();
  for (const [tick, key, value] of [
    [100, 60, 10],
    [100, 64, 30],
    [600, 60, 20],
    [700, 64, 31],
  ])
    builder.add(tick, 0xa0, key, value);
  return builder.build();
})();
const listed = ({ length, tick, data1, data2 }: EventColumns) =>
  Array.from({ length }, (_, row) => [tick[row], data1[row], data2[row]]);
const after = (step: Step) => listed(applyStep({ notes: NOTES, events: EVENTS }, step, context).events);

describe('the pressure of single keys', () => {
  it('goes to the new keys of transposed notes, and of no others', () => {
    expect(after(createStep('transpose', { semitones: 12 })).map(([, key]) => key)).toEqual([72, 76, 72, 76]);
    expect(after(createStep('transpose', { semitones: 12, where: { notes: [2] } }))).toEqual([
      [100, 60, 10],
      [100, 64, 30],
      [600, 72, 20],
      [700, 64, 31],
    ]);
  });

  it('goes along with notes changed by hand: moved, to another key, deleted; trimming leaves it', () => {
    expect(after(createStep('edits', { change: { 1: { start: 1000, end: 1400, pitch: 62 } } }))).toEqual([
      [100, 64, 30],
      [600, 60, 20],
      [700, 64, 31],
      [1100, 62, 10],
    ]);
    expect(after(createStep('edits', { delete: [3] }))).toEqual([
      [100, 60, 10],
      [600, 60, 20],
    ]);
    for (const change of [{ start: 50 }, { start: 50, end: 800 }])
      expect(after(createStep('edits', { change: { 3: change } }))).toEqual(listed(EVENTS));
  });

  it('leaves events alone where there is none', () => {
    const events = createEventBuilder().build();
    expect(
      applyStep({ notes: NOTES, events }, createStep('transpose', { semitones: 1 }), context).events,
    ).toBe(events);
  });
});
