import { orderedOf, createStep, type Part, type Step } from '@ordle/core';
import { placeForEdits } from './editActions';

const partWith = (...steps: Step[]) =>
  ({ steps: orderedOf(steps.map((step, index) => ({ id: `s${index}`, step }))) }) as Part;
const quantize = createStep('quantize');
const edits = createStep('edits');

describe('where hand edits go', () => {
  it('is the end of the line at "cleaned", into edits that stand there already', () => {
    expect(placeForEdits(partWith(), { id: 'cleaned', index: 0 })).toEqual({ index: 0, stepId: null });
    expect(placeForEdits(partWith(quantize), { id: 'cleaned', index: 1 })).toEqual({
      index: 1,
      stepId: null,
    });
    expect(placeForEdits(partWith(quantize, edits), { id: 'cleaned', index: 2 })).toEqual({
      index: 1,
      stepId: 's1',
    });
  });

  it('is right after the current stop, so that what was seen is what is edited', () => {
    expect(placeForEdits(partWith(quantize, quantize), { id: 's0', index: 1 })).toEqual({
      index: 1,
      stepId: null,
    });
    expect(placeForEdits(partWith(quantize, edits, quantize), { id: 's0', index: 1 })).toEqual({
      index: 1,
      stepId: 's1',
    });
    expect(placeForEdits(partWith(quantize, edits), { id: 's1', index: 2 })).toEqual({
      index: 1,
      stepId: 's1',
    });
    expect(placeForEdits(partWith(quantize), { id: 'played', index: 0 })).toEqual({ index: 0, stepId: null });
  });

  it('is not a step that is off or limited to some bars', () => {
    const off = { ...edits, on: false };
    const limited = { ...edits, where: { bars: [1, 2] as [number, number] } };
    expect(placeForEdits(partWith(off), { id: 'cleaned', index: 1 })).toEqual({ index: 1, stepId: null });
    expect(placeForEdits(partWith(limited), { id: 'cleaned', index: 1 })).toEqual({ index: 1, stepId: null });
  });
});
