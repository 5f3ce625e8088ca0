import {
  nameOfNoteValue,
  type AlignStep,
  type HumanizeStep,
  type NudgeStep,
  type StretchStep,
} from '@ordle/core';
import { Button, Check, LabelledRow, NumberField, Segmented, SliderField } from '@/ui';
import { signed, type StepFormProps } from './formProps';
import { NoteValueOptions } from './GridPicker';

export function NudgeForm({ step, disabled, onChange, onAbandon }: StepFormProps<NudgeStep>) {
  return (
    <>
      <SliderField
        label="Milliseconds"
        value={step.ms}
        min={-100}
        max={100}
        typedMin={-60000}
        typedMax={60000}
        unit="ms"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(ms, gesture) => onChange(`Nudge ${signed(ms)} ms`, { ms }, gesture)}
      />
      <div className="flex items-baseline justify-between text-ink-2">
        Ticks
        <NumberField
          label="Ticks"
          value={step.ticks}
          min={-1e9}
          max={1e9}
          className="w-16"
          disabled={disabled}
          onCommit={(ticks) => onChange(`Nudge ${signed(ticks)} ticks`, { ticks })}
        />
      </div>
      <div className="flex items-baseline justify-between text-ink-2">
        Grid steps
        <span className="flex items-baseline gap-1">
          <NumberField
            label="Grid steps"
            value={step.steps}
            min={-10000}
            max={10000}
            disabled={disabled}
            onCommit={(steps) => onChange(`Nudge ${signed(steps)} grid steps`, { steps })}
          />
          of
          <select
            aria-label="Grid of the steps"
            value={nameOfNoteValue(step.grid)}
            disabled={disabled}
            onChange={(event) => onChange('Grid of the nudge', { grid: event.target.value })}
            className="h-6 rounded-medium border border-rule-strong bg-sheet px-1"
          >
            <NoteValueOptions />
          </select>
        </span>
      </div>
      <p className="text-quiet text-ink-2">Controllers between the touched notes move along.</p>
    </>
  );
}

export function StretchForm({ step, disabled, onChange }: StepFormProps<StretchStep>) {
  const byFactor = step.toTicks === undefined;
  const times = (factor: number) =>
    onChange(`Stretch × ${Number(factor.toFixed(4))}`, { factor, toTicks: undefined });
  return (
    <>
      <div className="flex items-baseline justify-between text-ink-2">
        Times as long
        <NumberField
          label="Times as long"
          value={byFactor ? Number(step.factor.toFixed(6)) : 1}
          min={0.01}
          max={100}
          step={0.0001}
          className="w-16"
          disabled={disabled || !byFactor}
          onCommit={times}
        />
      </div>
      <div className="flex gap-2">
        <Button
          className="grow justify-center"
          disabled={disabled || !byFactor || step.factor / 2 < 0.01}
          onClick={() => times(step.factor / 2)}
        >
          Halve
        </Button>
        <Button
          className="grow justify-center"
          disabled={disabled || !byFactor || step.factor * 2 > 100}
          onClick={() => times(step.factor * 2)}
        >
          Double
        </Button>
      </div>
      <div className="flex items-baseline justify-between">
        <Check
          checked={!byFactor}
          disabled={disabled}
          onChange={(on) =>
            onChange(on ? 'Stretch to a length' : 'Stretch by a factor', { toTicks: on ? 1920 : undefined })
          }
        >
          to a length in ticks
        </Check>
        {step.toTicks !== undefined && (
          <NumberField
            label="Length in ticks"
            value={step.toTicks}
            min={1}
            max={1e9}
            className="w-20"
            disabled={disabled}
            onCommit={(toTicks) => onChange(`Stretch to ${toTicks} ticks`, { toTicks })}
          />
        )}
      </div>
      <LabelledRow label="Stays">
        <Segmented
          label="What stays in place"
          disabled={disabled}
          value={step.anchor}
          options={[
            { value: 'start', label: 'first start' },
            { value: 'bar', label: 'its bar line' },
          ]}
          onChange={(anchor) =>
            onChange(anchor === 'bar' ? 'Anchor at the bar' : 'Anchor at the first start', { anchor })
          }
        />
      </LabelledRow>
      <Check
        checked={step.controllers}
        disabled={disabled}
        onChange={(controllers) =>
          onChange(controllers ? 'Controllers come along' : 'Controllers stay', { controllers })
        }
      >
        controllers come along
      </Check>
    </>
  );
}

export function HumanizeForm({ step, disabled, onChange, onAbandon }: StepFormProps<HumanizeStep>) {
  return (
    <>
      <SliderField
        label="Timing"
        value={step.timingMs}
        min={0}
        max={40}
        typedMax={500}
        step={0.5}
        unit="ms"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(timingMs, gesture) => onChange(`Humanize timing ${timingMs} ms`, { timingMs }, gesture)}
      />
      <SliderField
        label="Drift of the timing"
        value={step.drift}
        min={0}
        max={100}
        unit="%"
        disabled={disabled || step.timingMs === 0}
        onAbandon={onAbandon}
        onChange={(drift, gesture) => onChange(`Drift ${drift} %`, { drift }, gesture)}
      />
      <SliderField
        label="Velocity"
        value={step.velocity}
        min={0}
        max={30}
        typedMax={64}
        step={0.5}
        unit=""
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(velocity, gesture) => onChange(`Humanize velocity ${velocity}`, { velocity }, gesture)}
      />
      <SliderField
        label="Length"
        value={step.lengthPct}
        min={0}
        max={50}
        typedMax={100}
        unit="%"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(lengthPct, gesture) => onChange(`Humanize length ${lengthPct} %`, { lengthPct }, gesture)}
      />
      <Spread ms={step.timingMs} />
      <div className="flex items-baseline justify-between">
        <span className="text-ink-2">
          Seed{' '}
          <NumberField
            label="Seed"
            value={step.seed}
            min={0}
            max={0xffffffff}
            className="w-20"
            disabled={disabled}
            onCommit={(seed) => onChange(`Seed ${seed}`, { seed })}
          />
        </span>
        <Button
          disabled={disabled}
          onClick={() => onChange('Roll again', { seed: Math.floor(Math.random() * 1e6) })}
        >
          Roll again
        </Button>
      </div>
    </>
  );
}

/** The spread of the timing as a curve: normal, cut off at 2.5 deviations, over ±100 ms. */
function Spread({ ms }: { ms: number }) {
  const [width, height] = [234, 36];
  const points = Array.from({ length: 118 }, (_, index) => {
    const at = (index / 117) * 200 - 100;
    const value = ms === 0 || Math.abs(at) > 2.5 * ms ? 0 : Math.exp(-(at * at) / (2 * ms * ms));
    return `${((index / 117) * width).toFixed(1)},${(height - value * (height - 4)).toFixed(1)}`;
  });
  return (
    <figure>
      <svg
        viewBox={`0 0 ${width} ${height + 1}`}
        className="w-full"
        role="img"
        aria-label={`Spread of ${ms} ms around where a note was`}
      >
        <path d={`M0 ${height + 0.5}H${width}`} stroke="var(--rule-strong)" />
        <polyline points={points.join(' ')} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      </svg>
      <figcaption className="flex justify-between text-[0.7rem] text-ink-2">
        <span>−100</span>
        <span>0 ms</span>
        <span>+100</span>
      </figcaption>
    </figure>
  );
}

export function AlignForm({ step, part, session, disabled, onChange, onAbandon }: StepFormProps<AlignStep>) {
  const others = session.parts.filter(({ id }) => id !== part.id);
  const known = others.some(({ id, name }) => id === step.to || name === step.to);
  return (
    <>
      <label className="flex items-center gap-2">
        <span className="w-13 shrink-0 text-ink-2">To</span>
        <select
          aria-label="Part to align to"
          value={others.find(({ id, name }) => id === step.to || name === step.to)?.id ?? ''}
          disabled={disabled}
          onChange={(event) =>
            onChange(`Align to ${others.find(({ id }) => id === event.target.value)?.name ?? 'no part'}`, {
              to: event.target.value,
            })
          }
          className="h-7 min-w-0 grow rounded-medium border border-rule-strong bg-sheet px-1"
        >
          <option value="">
            {step.to !== '' && !known ? `${step.to} (not in this session)` : 'no part yet'}
          </option>
          {others.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <SliderField
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
        label="Reach"
        value={step.reachMs}
        min={0}
        max={250}
        typedMax={2000}
        unit="ms"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(reachMs, gesture) => onChange(`Reach ${reachMs} ms`, { reachMs }, gesture)}
      />
      <p className="text-quiet text-ink-2">
        Each note is drawn to the nearest stroke of the other part as it is cleaned; with none in reach it
        stays.
      </p>
    </>
  );
}
