import type { ScoreStep } from '@ordle/core';
import { Check, LabelledRow, Segmented } from '@/ui';
import type { StepFormProps } from './formProps';
import { StepSlider } from './StepFields';

/** Every setting of a step that goes by the score beside the part. */
export function ScoreForm(form: StepFormProps<ScoreStep>) {
  const { step, part, disabled, onChange } = form;
  return (
    <>
      {part.reference ? (
        <p className="text-quiet text-ink-2">
          Every note that was found in “{part.reference.name}” goes to the place it is written at; all else
          goes along with its neighbours.
        </p>
      ) : (
        <p role="note">
          No score is laid beside this part, so this step changes nothing. Lay one beside it on Score.
        </p>
      )}
      <StepSlider form={form} setting="strength" label="Strength" />
      <LabelledRow label="Chords">
        <Segmented
          setting="chords"
          label="Chords"
          disabled={disabled}
          value={step.chords}
          options={[
            { value: 'spread', label: 'as rolled' },
            { value: 'together', label: 'together' },
          ]}
          onChange={(chords) =>
            onChange(chords === 'together' ? 'Chords together' : 'Chords as rolled', { chords })
          }
        />
      </LabelledRow>
      <LabelledRow label="Extra notes">
        <Segmented
          setting="extra"
          label="Extra notes"
          disabled={disabled}
          value={step.extra}
          options={[
            { value: 'keep', label: 'keep' },
            { value: 'remove', label: 'remove' },
          ]}
          onChange={(extra) =>
            onChange(extra === 'remove' ? 'Remove extra notes' : 'Keep extra notes', { extra })
          }
        />
      </LabelledRow>
      <Check
        setting="pitches"
        checked={step.pitches}
        disabled={disabled}
        onChange={(pitches) => onChange(pitches ? 'Written pitches' : 'Played pitches', { pitches })}
      >
        wrong notes get the written pitch
      </Check>
      <Check
        setting="ends"
        checked={step.ends}
        disabled={disabled}
        onChange={(ends) => onChange(ends ? 'Written ends' : 'Played lengths', { ends })}
      >
        ends go to where they are written
      </Check>
    </>
  );
}
