import { laneName, type PedalStep } from '@ordle/core';
import { LabelledRow, Segmented } from '@/ui';
import type { StepFormProps } from './formProps';
import { StepSlider } from './StepFields';
import { OperationRow } from './OperationRow';
import { counted } from '@/words/counts';

const OPS: { op: PedalStep['op']; title: string }[] = [
  { op: 'shift', title: 'move' },
  { op: 'extend', title: 'hold longer' },
  { op: 'repedal', title: 're-pedal' },
  { op: 'fromLengths', title: 'turn long notes into pedal' },
  { op: 'draw', title: 'draw' },
  { op: 'remove', title: 'remove' },
];

/** Which pedal, what is done with its presses, and by how much. */
export function PedalForm(form: StepFormProps<PedalStep>) {
  const { step, disabled, onChange } = form;
  return (
    <>
      <LabelledRow label="Pedal">
        <Segmented
          label="Pedal"
          setting="lane"
          disabled={disabled}
          value={step.lane}
          options={[
            { value: 'cc64', label: 'sustain', title: 'Sustain pedal (64)' },
            { value: 'cc66', label: 'sostenuto', title: 'Sostenuto pedal (66)' },
            { value: 'cc67', label: 'soft', title: 'Soft pedal (67)' },
          ]}
          onChange={(lane) => onChange(`Pedal ${laneName(lane)}`, { lane })}
        />
      </LabelledRow>
      <OperationRow step={step} ops={OPS} name="Pedal" disabled={disabled} onChange={onChange} />
      {(step.op === 'shift' || step.op === 'extend') && (
        <StepSlider
          form={{ ...form, step }}
          setting="ms"
          label={step.op === 'shift' ? 'Later by' : 'Released later by'}
          says="Pedal"
          isSigned
        />
      )}
      {step.op === 'repedal' && (
        <>
          <Segmented
            label="Re-pedal"
            setting="by"
            disabled={disabled}
            value={step.by}
            options={[
              { value: 'harmony', label: 'at chord changes' },
              { value: 'bar', label: 'at bars' },
            ]}
            onChange={(by) => onChange(`Re-pedal at ${by === 'harmony' ? 'chord changes' : 'bars'}`, { by })}
          />
          <p className="text-quiet text-ink-2">
            Lifts at each change and presses again 60 ms later. Earlier presses there are replaced.
          </p>
        </>
      )}
      {step.op === 'fromLengths' && (
        <p className="text-quiet text-ink-2">
          Notes that end together are let go when the next begins, and a press holds them to where they ended:
          what sounds stays the same. The way back is Length, held by the pedal.
        </p>
      )}
      {step.op === 'draw' && (
        <p className="text-ink-2">{counted(step.spans.length, 'press', 'presses')} drawn in the lane.</p>
      )}
    </>
  );
}
