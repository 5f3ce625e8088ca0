import type { QuantizeStep } from '@ordle/core';
import { Check, LabelledRow, NumberField, Segmented, SliderField } from '@/ui';
import { signed, type StepFormProps } from './formProps';
import { GridPicker } from './GridPicker';

/** Every setting of a quantize step. */
export function QuantizeForm({ step, part, disabled, onChange, onAbandon }: StepFormProps<QuantizeStep>) {
  const several = Array.isArray(step.grid);
  return (
    <>
      <GridPicker
        setting="grid"
        value={step.grid}
        disabled={disabled}
        onChange={(grid) => onChange('Grid', { grid })}
      />
      <SliderField
        setting="strength"
        label="Strength"
        value={step.strength}
        min={0}
        max={100}
        unit="%"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(strength, gesture) => onChange(`Strength ${strength} %`, { strength }, gesture)}
      />
      <SliderField
        setting="swing"
        label={several ? 'Swing (with one grid only)' : 'Swing'}
        value={step.swing}
        min={50}
        max={75}
        step={0.1}
        unit="%"
        disabled={disabled || several}
        onAbandon={onAbandon}
        onChange={(swing, gesture) => onChange(`Swing ${swing} %`, { swing }, gesture)}
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
              { value: 'each', label: 'each', title: 'Every note goes to its own line' },
              {
                value: 'spread',
                label: 'spread',
                title: 'The notes of a chord move together, rolls stay rolls',
              },
              {
                value: 'together',
                label: 'together',
                title: 'All notes of a chord start where its first goes',
              },
            ]}
            onChange={(chords) => onChange('Chords', { chords })}
          />
        </LabelledRow>
        {step.chords !== 'each' && (
          <span className="flex items-baseline justify-between text-ink-2">
            a chord lies within
            <NumberField
              setting="chordMs"
              label="Milliseconds a chord lies within"
              value={step.chordMs}
              min={0}
              max={1000}
              unit="ms"
              disabled={disabled}
              onCommit={(chordMs) => onChange(`Chords within ${chordMs} ms`, { chordMs })}
            />
          </span>
        )}
      </div>
      <div className="flex items-baseline justify-between">
        <Check
          setting="keepFlams"
          checked={step.keepFlams}
          disabled={disabled}
          onChange={(keepFlams) => onChange(keepFlams ? 'Keep flams' : 'Do not keep flams', { keepFlams })}
        >
          {part.sound.drums ? 'keep flams' : 'keep grace strokes'}
        </Check>
        {step.keepFlams && (
          <NumberField
            setting="flamMs"
            label="Milliseconds before the main stroke"
            value={step.flamMs}
            min={0}
            max={1000}
            unit="ms"
            disabled={disabled}
            onCommit={(flamMs) => onChange(`Flams within ${flamMs} ms`, { flamMs })}
          />
        )}
      </div>
      <SliderField
        setting="shiftMs"
        label="Shift"
        value={step.shiftMs}
        min={-50}
        max={50}
        typedMin={-1000}
        typedMax={1000}
        unit="ms"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(shiftMs, gesture) => onChange(`Shift ${signed(shiftMs)} ms`, { shiftMs }, gesture)}
      />
      <SliderField
        setting="leaveWithinMs"
        label="Leave alone within"
        value={step.leaveWithinMs}
        min={0}
        max={60}
        typedMax={1000}
        unit="ms"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(leaveWithinMs, gesture) =>
          onChange(`Leave alone within ${leaveWithinMs} ms`, { leaveWithinMs }, gesture)
        }
      />
      <SliderField
        setting="leaveBeyond"
        label="Leave alone beyond, of half a step"
        value={step.leaveBeyond}
        min={0}
        max={100}
        unit="%"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(leaveBeyond, gesture) =>
          onChange(`Leave alone beyond ${leaveBeyond} %`, { leaveBeyond }, gesture)
        }
      />
    </>
  );
}
