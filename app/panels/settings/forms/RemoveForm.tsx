import type { RemoveStep } from '@ordle/core';
import type { StepFormProps } from './formProps';
import { StepOptional, StepRange } from './StepFields';

export function RemoveForm(form: StepFormProps<RemoveStep>) {
  return (
    <>
      <StepOptional
        form={form}
        setting="shorterThanMs"
        label="shorter than"
        says="Remove notes shorter than"
      />
      <StepOptional form={form} setting="softerThan" label="softer than" says="Remove notes softer than" />
      <StepOptional
        form={form}
        setting="doublesWithinMs"
        label="doubles within"
        says="Remove doubles within"
      />
      <StepRange
        form={form}
        setting="outside"
        label="outside pitches"
        says="Remove strays"
        initial={form.facts?.pitches ?? [36, 96]}
      />
      <p className="text-quiet text-ink-2">
        Removes the later, softer note of a double. Nothing is lost: what was played stays, and the step can
        be switched off.
      </p>
    </>
  );
}
