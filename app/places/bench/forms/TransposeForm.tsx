import { intervalInWords, type TransposeStep } from '@ordle/core';
import { X } from 'lucide-react';
import { Button, Check, NumberField, SliderField } from '@/ui';
import { signed, type StepFormProps } from './formProps';
import { OptionalNumber, OptionalRange } from './OptionalNumber';
import { SELECT } from './selectLook';

const TONICS = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'];

export function TransposeForm({ step, part, disabled, onChange, onAbandon }: StepFormProps<TransposeStep>) {
  const octave = (by: number) =>
    onChange(intervalInWords(step.semitones + by), {
      semitones: Math.max(-127, Math.min(127, step.semitones + by)),
    });
  return (
    <>
      <SliderField
        label={`Semitones: ${intervalInWords(step.semitones)}`}
        value={step.semitones}
        min={-24}
        max={24}
        typedMin={-127}
        typedMax={127}
        unit=""
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(semitones, gesture) =>
          onChange(`Transpose ${intervalInWords(semitones)}`, { semitones }, gesture)
        }
      />
      <div className="flex gap-2">
        <Button className="grow justify-center" disabled={disabled} onClick={() => octave(-12)}>
          Octave down
        </Button>
        <Button className="grow justify-center" disabled={disabled} onClick={() => octave(12)}>
          Octave up
        </Button>
      </div>
      <OptionalNumber
        label="degrees of a key"
        value={step.degrees}
        initial={2}
        min={-70}
        max={70}
        disabled={disabled}
        onChange={(degrees) =>
          onChange('Degrees', { degrees, key: degrees === undefined ? undefined : (step.key ?? 'C major') })
        }
      />
      {step.degrees !== undefined && (
        <label className="flex items-center justify-between text-ink-2">
          in
          <select
            aria-label="Key"
            value={step.key}
            disabled={disabled}
            onChange={(event) => onChange(`Key ${event.target.value}`, { key: event.target.value })}
            className={SELECT}
          >
            {['major', 'minor'].flatMap((mode) =>
              TONICS.map((tonic) => <option key={tonic + mode}>{`${tonic} ${mode}`}</option>),
            )}
          </select>
        </label>
      )}
      <OptionalRange
        label="into a range"
        value={step.into}
        initial={[48, 72]}
        min={0}
        max={127}
        span={11}
        disabled={disabled}
        onChange={(into) => onChange('Range', { into })}
      />
      {part.sound.drums && (
        <Check
          checked={step.skipDrums}
          disabled={disabled}
          onChange={(skipDrums) =>
            onChange(skipDrums ? 'Leave drums alone' : 'Transpose drums', { skipDrums })
          }
        >
          leave drums alone
        </Check>
      )}
      <div className="flex flex-col gap-1">
        <span className="flex items-baseline justify-between text-ink-2">
          Along the harmony
          <Button
            look="quiet"
            className="h-6"
            disabled={disabled}
            onClick={() => {
              const from = step.sections.at(-1)?.bars[1] ?? 1;
              onChange('Add bars', {
                sections: [...step.sections, { bars: [from, from + 1], semitones: 0 }],
              });
            }}
          >
            add bars
          </Button>
        </span>
        {step.sections.map((section, index) => {
          const put = (next: typeof section) =>
            onChange(`Bars ${next.bars[0]} to ${next.bars[1] - 1}: ${signed(next.semitones)}`, {
              sections: step.sections.with(index, next),
            });
          const [from, to] = section.bars;
          return (
            <div key={index} className="flex items-baseline gap-1 text-ink-2">
              bars
              <NumberField
                label="First bar of the section"
                value={from}
                min={1}
                max={99999}
                className="w-9"
                disabled={disabled}
                onCommit={(next) => put({ ...section, bars: [next, Math.max(to, next + 1)] })}
              />
              to
              <NumberField
                label="Last bar of the section"
                value={to - 1}
                min={1}
                max={99999}
                className="w-9"
                disabled={disabled}
                onCommit={(last) => put({ ...section, bars: [Math.min(from, last), last + 1] })}
              />
              by
              <NumberField
                label="Semitones of the section"
                value={section.semitones}
                min={-127}
                max={127}
                className="w-9"
                disabled={disabled}
                onCommit={(semitones) => put({ ...section, semitones })}
              />
              <Button
                look="quiet"
                aria-label="Remove the section"
                className="ml-auto h-6 w-6 justify-center px-0"
                disabled={disabled}
                onClick={() => onChange('Remove bars', { sections: step.sections.toSpliced(index, 1) })}
              >
                <X size={13} aria-hidden="true" />
              </Button>
            </div>
          );
        })}
      </div>
    </>
  );
}
