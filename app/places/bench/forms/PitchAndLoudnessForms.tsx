import {
  intervalInWords,
  nameOfNoteValue,
  type LengthStep,
  type RemoveStep,
  type TransposeStep,
  type VelocityStep,
} from '@ordle/core';
import { X } from 'lucide-react';
import { Button, Check, NumberField, SliderField } from '@/ui';
import { signed, type StepFormProps } from './formProps';
import { NoteValueOptions } from './GridPicker';
import { OptionalNumber, OptionalRange } from './OptionalNumber';

const TONICS = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'];
const SELECT = 'h-6 rounded-medium border border-rule-strong bg-sheet px-1 disabled:opacity-45';

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

export function VelocityForm({ step, disabled, onChange }: StepFormProps<VelocityStep>) {
  return (
    <>
      <OptionalNumber
        label="set to"
        value={step.set}
        initial={80}
        min={1}
        max={127}
        disabled={disabled}
        onChange={(set) => onChange('Set velocity', { set })}
      />
      <OptionalNumber
        label="scale"
        value={step.scale}
        initial={100}
        min={0}
        max={1000}
        unit="%"
        disabled={disabled}
        onChange={(scale) => onChange('Scale velocity', { scale })}
      />
      <OptionalNumber
        label="add"
        value={step.add}
        initial={10}
        min={-127}
        max={127}
        disabled={disabled}
        onChange={(add) => onChange('Add velocity', { add })}
      />
      <OptionalNumber
        label="even out, ratio"
        value={step.compress?.ratio}
        initial={2}
        min={0.1}
        max={100}
        disabled={disabled}
        onChange={(ratio) =>
          onChange('Even out', {
            compress: ratio === undefined ? undefined : { ratio, around: step.compress?.around ?? 72 },
          })
        }
      />
      {step.compress && (
        <div className="flex items-baseline justify-between pl-5.5 text-ink-2">
          around
          <NumberField
            label="Around"
            value={step.compress.around}
            min={1}
            max={127}
            disabled={disabled}
            onCommit={(around) =>
              onChange('Even out around', { compress: { ratio: step.compress?.ratio ?? 2, around } })
            }
          />
        </div>
      )}
      <OptionalRange
        label="limit"
        value={step.limit}
        initial={[30, 110]}
        min={1}
        max={127}
        disabled={disabled}
        onChange={(limit) => onChange('Limit velocity', { limit })}
      />
      <div className="flex items-baseline justify-between">
        <Check
          checked={step.ramp !== undefined}
          disabled={disabled}
          onChange={(on) =>
            onChange(on ? 'Ramp' : 'No ramp', { ramp: on ? { from: 60, to: 96 } : undefined })
          }
        >
          ramp
        </Check>
        {step.ramp && (
          <span className="flex items-baseline gap-1 text-ink-2">
            <NumberField
              label="Ramp, from"
              value={step.ramp.from}
              min={1}
              max={127}
              disabled={disabled}
              onCommit={(from) => onChange(`Ramp from ${from}`, { ramp: { from, to: step.ramp?.to ?? 96 } })}
            />
            to
            <NumberField
              label="Ramp, to"
              value={step.ramp.to}
              min={1}
              max={127}
              disabled={disabled}
              onCommit={(to) => onChange(`Ramp to ${to}`, { ramp: { from: step.ramp?.from ?? 60, to } })}
            />
          </span>
        )}
      </div>
      <p className="text-quiet text-ink-2">What is ticked works from the top down; the limit comes last.</p>
    </>
  );
}

export function LengthForm({ step, disabled, onChange }: StepFormProps<LengthStep>) {
  return (
    <>
      <div className="flex items-baseline justify-between">
        <Check
          checked={step.set !== undefined}
          disabled={disabled}
          onChange={(on) => onChange(on ? 'Set length' : 'Leave lengths', { set: on ? '1/8' : undefined })}
        >
          set to
        </Check>
        {step.set !== undefined && (
          <select
            aria-label="Length"
            value={nameOfNoteValue(step.set)}
            disabled={disabled}
            onChange={(event) => onChange(`Length ${event.target.value}`, { set: event.target.value })}
            className={SELECT}
          >
            <NoteValueOptions />
          </select>
        )}
      </div>
      <OptionalNumber
        label="scale"
        value={step.scale}
        initial={100}
        min={1}
        max={1000}
        unit="%"
        disabled={disabled || step.set !== undefined}
        onChange={(scale) => onChange('Scale lengths', { scale })}
      />
      <OptionalNumber
        label="legato, gap"
        value={step.legato?.gapTicks}
        initial={0}
        min={0}
        max={1e6}
        unit="ticks"
        disabled={disabled}
        onChange={(gapTicks) =>
          onChange('Legato', { legato: gapTicks === undefined ? undefined : { gapTicks } })
        }
      />
      <OptionalRange
        label="limit, ticks"
        value={step.limit}
        initial={[60, 1920]}
        min={0}
        max={1e6}
        disabled={disabled}
        onChange={(limit) => onChange('Limit lengths', { limit })}
      />
      <Check
        checked={step.hold !== undefined}
        disabled={disabled}
        onChange={(on) =>
          onChange(on ? 'Hold by the pedal' : 'Do not hold by the pedal', {
            hold: on ? 'fromPedal' : undefined,
          })
        }
      >
        hold until the pedal comes up
      </Check>
      <Check
        checked={step.noOverlap}
        disabled={disabled}
        onChange={(noOverlap) => onChange(noOverlap ? 'No overlaps' : 'Allow overlaps', { noOverlap })}
      >
        no overlaps of one pitch
      </Check>
    </>
  );
}

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
