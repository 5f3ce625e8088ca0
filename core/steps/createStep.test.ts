import fc from 'fast-check';
import { OrdleError } from '../errors';
import { STEP_KINDS, createStep, type Step } from '.';

const errorOf = (make: () => unknown): OrdleError | null => {
  try {
    make();
    return null;
  } catch (error) {
    if (error instanceof OrdleError) return error;
    throw error;
  }
};

describe('making a step', () => {
  it.each(STEP_KINDS.map(({ kind }) => kind))(
    '%s is made with its usual settings, or says which it lacks',
    (kind) => {
      const fault = errorOf(() => createStep(kind));
      if (fault) expect(fault.code).toBe('step');
      else expect(createStep(kind)).toMatchObject({ kind, on: true });
    },
  );

  it('refuses a kind that is none, a setting that is none, and a value out of its range, each by its name', () => {
    expect(errorOf(() => createStep('hurry' as Step['kind']))?.code).toBe('step-kind');
    const unknown = errorOf(() => createStep('quantize', { haste: 3 } as object));
    expect([unknown?.code, unknown?.place.path]).toEqual(['step', 'haste']);
    const high = errorOf(() => createStep('quantize', { strength: 101 }));
    expect([high?.code, high?.place.path]).toEqual(['step', 'strength']);
    expect(high?.message).toMatch(/^Quantize cannot be made: strength: /);
  });

  it('never throws anything but an OrdleError, whatever it is given', () => {
    const kinds = fc.constantFrom(...STEP_KINDS.map(({ kind }) => kind));
    fc.assert(
      fc.property(kinds, fc.dictionary(fc.string(), fc.anything()), (kind, settings) => {
        errorOf(() => createStep(kind, settings as object));
      }),
    );
  });
});
