import type { RemoveStep } from '@ordle/core';
import type { StepFormProps } from './formProps';
import { OptionalNumber, OptionalRange } from './OptionalNumber';

export function RemoveForm({ step, facts, disabled, onChange, onAbandon }: StepFormProps<RemoveStep>) {
  return (
    <>
      <OptionalNumber
        setting="shorterThanMs"
        slide={[0, 200]}
        onAbandon={onAbandon}
        label="shorter than"
        value={step.shorterThanMs}
        initial={30}
        min={0}
        max={60000}
        unit="ms"
        disabled={disabled}
        onChange={(shorterThanMs, gesture) => onChange('Remove short notes', { shorterThanMs }, gesture)}
      />
      <OptionalNumber
        setting="softerThan"
        slide={[1, 64]}
        onAbandon={onAbandon}
        label="softer than"
        value={step.softerThan}
        initial={15}
        min={1}
        max={127}
        disabled={disabled}
        onChange={(softerThan, gesture) => onChange('Remove soft notes', { softerThan }, gesture)}
      />
      <OptionalNumber
        setting="doublesWithinMs"
        slide={[0, 200]}
        onAbandon={onAbandon}
        label="doubles within"
        value={step.doublesWithinMs}
        initial={60}
        min={0}
        max={60000}
        unit="ms"
        disabled={disabled}
        onChange={(doublesWithinMs, gesture) => onChange('Remove doubles', { doublesWithinMs }, gesture)}
      />
      <OptionalRange
        setting="outside"
        label="outside pitches"
        value={step.outside}
        initial={facts?.pitches ?? [36, 96]}
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
