import type { RemoveStep } from '@ordle/core';
import type { StepFormProps } from './formProps';
import { OptionalNumber, OptionalRange } from './OptionalNumber';

export function RemoveForm({ step, disabled, onChange }: StepFormProps<RemoveStep>) {
  return (
    <>
      <OptionalNumber
        label="shorter than"
        value={step.shorterThanMs}
        initial={30}
        min={0}
        max={60000}
        unit="ms"
        disabled={disabled}
        onChange={(shorterThanMs) => onChange('Remove short notes', { shorterThanMs })}
      />
      <OptionalNumber
        label="softer than"
        value={step.softerThan}
        initial={15}
        min={1}
        max={127}
        disabled={disabled}
        onChange={(softerThan) => onChange('Remove soft notes', { softerThan })}
      />
      <OptionalNumber
        label="doubles within"
        value={step.doublesWithinMs}
        initial={60}
        min={0}
        max={60000}
        unit="ms"
        disabled={disabled}
        onChange={(doublesWithinMs) => onChange('Remove doubles', { doublesWithinMs })}
      />
      <OptionalRange
        label="outside pitches"
        value={step.outside}
        initial={[36, 96]}
        min={0}
        max={127}
        disabled={disabled}
        onChange={(outside) => onChange('Remove strays', { outside })}
      />
      <p className="text-quiet text-ink-2">
        Of a double the later, softer stroke goes. Nothing is lost: what was played stays, and the step can be
        switched off.
      </p>
    </>
  );
}
