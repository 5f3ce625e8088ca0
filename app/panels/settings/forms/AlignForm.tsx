import { listOf } from '@ordle/core';
import type { AlignStep } from '@ordle/core';
import { Select } from '@/ui';
import type { StepFormProps } from './formProps';
import { StepSlider } from './StepFields';

export function AlignForm(form: StepFormProps<AlignStep>) {
  const { step, part, session, disabled, onChange } = form;
  const others = listOf(session.parts).filter(({ id }) => id !== part.id);
  const known = others.some(({ id, name }) => id === step.to || name === step.to);
  return (
    <>
      <label className="flex items-center gap-2">
        <span className="w-13 shrink-0 text-ink-2">To</span>
        <Select
          setting="to"
          label="Part to align to"
          value={others.find(({ id, name }) => id === step.to || name === step.to)?.id ?? ''}
          disabled={disabled}
          className="min-w-0 grow"
          onChange={(to) =>
            onChange(`Align to ${others.find(({ id }) => id === to)?.name ?? 'no part'}`, { to })
          }
        >
          <option value="">
            {step.to !== '' && !known ? `${step.to} (not in this session)` : 'no part yet'}
          </option>
          {others.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </Select>
      </label>
      <StepSlider form={form} setting="strength" label="Strength" />
      <StepSlider form={form} setting="reachMs" label="Reach" />
      <p className="text-quiet text-ink-2">
        Each note is pulled toward the nearest stroke of the other part as it is cleaned; with none in reach
        it stays. The marks under the notes show the strokes.
      </p>
    </>
  );
}
