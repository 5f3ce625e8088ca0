import fc from 'fast-check';
import { pointsOf, writeLanes } from '../curves';
import { noteTableOf, type Material } from '../model';
import { context, noEvents } from '../testing/stepBench';
import { applyStep, createStep, type Step } from '../steps';
import { readChanges } from '.';

const PLAYED: Material = {
  notes: noteTableOf(
    Array.from({ length: 8 }, (_, id) => ({
      id,
      start: 240 * id + 7,
      end: 240 * id + 100,
      pitch: 60 + id,
      velocity: 40 + id,
    })),
  ),
  events: writeLanes(noEvents, [
    {
      lane: 'cc64',
      channel: 0,
      points: pointsOf([0, 200, 400, 600].map((tick, row) => ({ tick, value: row % 2 ? 0 : 127 }))),
    },
  ]),
};
const after = (step: Step) => readChanges(PLAYED, applyStep(PLAYED, step, context));
const NOTHING = {
  notes: 0,
  removed: 0,
  added: 0,
  moved: 0,
  repitched: 0,
  velocities: 0,
  lengths: 0,
  presses: [0, 0],
  points: [0, 0],
};

describe('what changed between two stops', () => {
  it('is nothing where nothing did', () => {
    expect(readChanges(PLAYED, PLAYED)).toEqual(NOTHING);
    expect(after(createStep('transpose', { semitones: 0 }))).toEqual(NOTHING);
  });

  it('is told by what a step is about', () => {
    expect(after(createStep('transpose', { semitones: 2 }))).toEqual({
      ...NOTHING,
      notes: 8,
      repitched: 8,
    });
    expect(after(createStep('quantize', { grid: '1/16' }))).toMatchObject({ moved: 8, removed: 0 });
    expect(
      after(
        createStep('edits', {
          delete: [1, 2],
          add: [{ start: 0, end: 10, pitch: 50, velocity: 70, channel: 1 }],
        }),
      ),
    ).toMatchObject({ removed: 2, added: 1, notes: 3 });
    expect(after(createStep('curve', { lane: 'cc64', op: 'remove' }))).toMatchObject({
      presses: [2, 0],
      points: [4, 0],
    });
  });

  it('counts every note that is there no more, or anew', () => {
    fc.assert(
      fc.property(fc.subarray([0, 1, 2, 3, 4, 5, 6, 7]), (gone) => {
        expect(after(createStep('edits', { delete: gone })).removed).toBe(gone.length);
      }),
    );
  });
});
