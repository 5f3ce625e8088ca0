import { nameOfNoteValue, type QuantizeStep } from '@ordle/core';
import { Check, LabelledRow, Segmented } from '@/ui';
import type { StepFormProps } from './formProps';
import { GridPicker, NoteValueSelect } from './GridPicker';
import { StepNumber, StepSlider } from './StepFields';

/** Every setting of a quantize step. */
export function QuantizeForm(form: StepFormProps<QuantizeStep>) {
  const { step, part, disabled, onChange } = form;
  const several = Array.isArray(step.grid);
  return (
    <>
      <GridPicker
        setting="grid"
        value={step.grid}
        disabled={disabled}
        onChange={(grid) => onChange(`Grid ${gridInWords(grid)}`, { grid })}
      />
      <StepSlider form={form} setting="strength" label="Strength" />
      <StepSlider
        form={form}
        setting="swing"
        label={several ? 'Swing (with one grid only)' : 'Swing'}
        says="Swing"
        disabled={disabled || several}
      />
      <div className="flex flex-col gap-1">
        <LabelledRow label="Move">
          <Segmented
            setting="edge"
            label="Move"
            disabled={disabled}
            value={step.edge}
            options={[
              { value: 'start', label: 'starts' },
              { value: 'end', label: 'ends' },
              { value: 'both', label: 'both' },
            ]}
            onChange={(edge) =>
              onChange(`Move ${edge === 'both' ? 'starts and ends' : `${edge}s`}`, { edge })
            }
          />
        </LabelledRow>
        {step.edge !== 'start' && part.sound.drums && (
          <Check
            setting="drumEnds"
            checked={step.drumEnds}
            disabled={disabled}
            onChange={(drumEnds) =>
              onChange(drumEnds ? 'Move ends of drums' : 'Leave ends of drums', { drumEnds })
            }
          >
            move the ends of drums too
          </Check>
        )}
        {step.edge !== 'start' && (
          <LabelledRow label="Least">
            <NoteValueSelect
              label="Least length"
              setting="minLength"
              value={step.minLength}
              disabled={disabled}
              onChange={(minLength) => onChange(`Least length ${nameOfNoteValue(minLength)}`, { minLength })}
            />
          </LabelledRow>
        )}
        {step.edge === 'start' && (
          <Check
            setting="keepLength"
            checked={step.keepLength}
            disabled={disabled}
            onChange={(keepLength) =>
              onChange(keepLength ? 'Keep lengths' : 'Leave ends in place', { keepLength })
            }
          >
            keep each note's length
          </Check>
        )}
      </div>
      <div className="flex flex-col gap-1">
        <LabelledRow label="Chords">
          <Segmented
            setting="chords"
            label="Chords"
            disabled={disabled}
            value={step.chords}
            options={[
              { value: 'each', label: 'note by note', title: 'Every note goes to its own line' },
              {
                value: 'spread',
                label: 'keep the spread',
                title: 'The notes of a chord move together, rolls stay rolls',
              },
              {
                value: 'together',
                label: 'same instant',
                title: 'All notes of a chord start where its first goes',
              },
            ]}
            onChange={(chords) => onChange(`Chords ${chords}`, { chords })}
          />
        </LabelledRow>
        {step.chords !== 'each' && (
          <span className="flex items-baseline justify-between text-ink-2">
            notes within this count as one chord
            <StepNumber
              form={form}
              setting="chordMs"
              label="Milliseconds notes within this count as one chord"
              says="Chords within"
            />
          </span>
        )}
        {step.chords !== 'each' && (
          <LabelledRow label="On the line">
            <Segmented
              setting="chordOn"
              label="Which note of a chord comes to the line"
              disabled={disabled}
              value={step.chordOn ?? 'first'}
              options={[
                { value: 'first', label: 'first' },
                { value: 'middle', label: 'middle' },
                { value: 'last', label: 'last', title: 'As in strums that end on the beat' },
              ]}
              onChange={(chordOn) => onChange(`The ${chordOn} of a chord on the line`, { chordOn })}
            />
          </LabelledRow>
        )}
      </div>
      {!part.sound.drums && (
        <Check
          setting="keepGraces"
          checked={step.keepGraces ?? false}
          disabled={disabled}
          onChange={(keepGraces) =>
            onChange(keepGraces ? 'Grace notes go with their notes' : 'Grace notes by themselves', {
              keepGraces,
            })
          }
        >
          grace notes go with their notes
        </Check>
      )}
      <div className="flex items-baseline justify-between">
        <Check
          setting="keepFlams"
          checked={step.keepFlams}
          disabled={disabled}
          onChange={(keepFlams) => onChange(keepFlams ? 'Keep flams' : 'Do not keep flams', { keepFlams })}
        >
          {part.sound.drums ? 'keep flams' : 'keep grace notes'}
        </Check>
        {step.keepFlams && (
          <StepNumber
            form={form}
            setting="flamMs"
            label="Milliseconds before the main stroke"
            says="Flams within"
          />
        )}
      </div>
      <StepSlider form={form} setting="shiftMs" label="Shift" isSigned />
      <StepSlider form={form} setting="leaveWithinMs" label="Leave notes nearer than" />
      <StepSlider
        form={form}
        setting="leaveBeyond"
        label="Leave notes farther than this share of half a grid unit"
        says="Leave notes beyond a share of half a grid unit"
      />
    </>
  );
}

const gridInWords = (grid: QuantizeStep['grid']): string =>
  (Array.isArray(grid) ? grid : [grid]).map(nameOfNoteValue).join(' and ');
