import { describeWhere, intervalInWords, type TransposeStep } from '@ordle/core';
import { X } from 'lucide-react';
import { Button, Check, NumberField, Select, SliderField } from '@/ui';
import { SectionSelect } from '@/panels/sections/SectionSelect';
import type { StepFormProps } from './formProps';
import { OptionalNumber } from './OptionalNumber';
import { settingOf } from './settingOf';
import { StepRange } from './StepFields';

const KEYS = [
  ...['C', 'Db', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'].map((tonic) => `${tonic} major`),
  ...['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'G#', 'A', 'Bb', 'B'].map((tonic) => `${tonic} minor`),
];

/** The range of some pitches, widened to the octave a fold needs. */
function octaveAround([low, high]: [number, number]): [number, number] {
  const top = Math.min(127, Math.max(high, low + 11));
  return [Math.min(low, top - 11), top];
}

const SEMITONES = settingOf({ kind: 'transpose' }, 'semitones');
const DEGREES = settingOf({ kind: 'transpose' }, 'degrees');

export function TransposeForm(form: StepFormProps<TransposeStep>) {
  const { step, part, facts, sections, disabled, onChange, onAbandon } = form;
  const octave = (by: number) =>
    onChange(intervalInWords(step.semitones + by), {
      semitones: Math.max(SEMITONES.min, Math.min(SEMITONES.max, step.semitones + by)),
    });
  return (
    <>
      <SliderField
        setting="semitones"
        label={`Semitones: ${intervalInWords(step.semitones)}`}
        value={step.semitones}
        min={SEMITONES.usual?.[0] ?? SEMITONES.min}
        max={SEMITONES.usual?.[1] ?? SEMITONES.max}
        typedMin={SEMITONES.min}
        typedMax={SEMITONES.max}
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
        setting="degrees"
        label="degrees of a key"
        value={step.degrees}
        known={DEGREES}
        disabled={disabled}
        onChange={(degrees) =>
          onChange('Degrees', {
            degrees,
            key: degrees === undefined ? undefined : (step.key ?? facts?.key?.key ?? 'C major'),
          })
        }
      />
      {step.degrees !== undefined && (
        <label className="flex items-center justify-between text-ink-2">
          in
          <Select
            setting="key"
            label="Key"
            value={step.key ?? 'C major'}
            disabled={disabled}
            onChange={(key) => onChange(`Key ${key}`, { key })}
          >
            {(step.key && !KEYS.includes(step.key) ? [step.key, ...KEYS] : KEYS).map((key) => (
              <option key={key}>{key}</option>
            ))}
          </Select>
        </label>
      )}
      {step.degrees !== undefined && facts?.key && facts.key.key !== step.key && (
        <div className="flex items-baseline justify-between text-quiet text-ink-2">
          <span>
            The notes suggest {facts.key.key} ({Math.round(facts.key.fit * 100)} % fit)
          </span>
          <Button
            look="quiet"
            className="h-6 px-1.5"
            disabled={disabled}
            onClick={() => onChange(`Key ${facts.key?.key ?? ''}`, { key: facts.key?.key })}
          >
            take it
          </Button>
        </div>
      )}
      <StepRange
        form={form}
        setting="into"
        label="into a range"
        says="Range"
        initial={facts?.pitches ? octaveAround(facts.pitches) : [48, 72]}
        span={11}
      />
      {part.sound.drums && (
        <Check
          setting="skipDrums"
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
          Follow the harmony; drag the lane
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
        <SectionSelect
          sections={sections}
          bars={undefined}
          disabled={disabled}
          onChange={({ name, bars }) =>
            onChange(`Add ${name}`, { sections: [...step.sections, { bars: [...bars], semitones: 0 }] })
          }
        />
        {step.sections.map((section, index) => {
          const put = (next: typeof section) =>
            onChange(`Move ${describeWhere({ bars: next.bars })} by ${intervalInWords(next.semitones)}`, {
              sections: step.sections.with(index, next),
            });
          const [from, to] = section.bars;
          return (
            <div key={index} className="flex items-center gap-1 text-ink-2">
              bars
              <NumberField
                label="First bar of the section"
                value={from}
                min={1}
                max={99999}
                className="w-8"
                disabled={disabled}
                onCommit={(next) => put({ ...section, bars: [next, Math.max(to, next + 1)] })}
              />
              to
              <NumberField
                label="Last bar of the section"
                value={to - 1}
                min={1}
                max={99999}
                className="w-8"
                disabled={disabled}
                onCommit={(last) => put({ ...section, bars: [Math.min(from, last), last + 1] })}
              />
              by
              <NumberField
                setting="sections"
                label="Semitones of the section"
                value={section.semitones}
                min={SEMITONES.min}
                max={SEMITONES.max}
                className="w-8"
                disabled={disabled}
                onCommit={(semitones) => put({ ...section, semitones })}
              />
              <Button
                look="quiet"
                aria-label="Remove the section"
                className="ml-auto h-6 w-6 shrink-0 justify-center px-0"
                disabled={disabled}
                onClick={() => onChange('Remove bars', { sections: step.sections.toSpliced(index, 1) })}
              >
                <X size={13} className="shrink-0" aria-hidden="true" />
              </Button>
            </div>
          );
        })}
      </div>
    </>
  );
}
