import { CURVE_OPS, laneName, type CurveOp, type CurveStep } from '@ordle/core';
import { LabelledRow, NumberField, Segmented, Select, SliderField } from '@/ui';
import type { StepFormProps } from './formProps';
import { NoteValueSelect } from './GridPicker';
import { MarksForm } from './MarksForm';
import { LaneSelect } from './LaneSelect';
import { turnedTo } from './turnTo';

type Props<Op extends CurveOp> = Omit<StepFormProps<CurveStep>, 'step' | 'onChange'> & {
  step: Extract<CurveStep, { op: Op }>;
  onChange(label: string, settings: Partial<Extract<CurveStep, { op: Op }>>, gesture?: string): void;
};

/** Ends a value of the lane can have on a slider: a bend is shown in cents over two octaves. */
const endsOf = (lane: string): [number, number] => (lane === 'bend' ? [-2400, 2400] : [0, 127]);
const unitOf = (lane: string) => (lane === 'bend' ? 'cents' : '');

/** The lane, what is done with it, and the settings of that. */
export function CurveForm(props: StepFormProps<CurveStep>) {
  const { step, facts, disabled, onChange } = props;
  return (
    <>
      <LabelledRow label="Lane">
        <LaneSelect
          label="Lane"
          setting="lane"
          value={step.lane}
          used={[...(step.op === 'marks' ? ['velocity'] : []), ...(facts?.lanes ?? [])]}
          disabled={disabled}
          onChange={(lane) => onChange(`Curve of ${laneName(lane)}`, { lane })}
        />
      </LabelledRow>
      <LabelledRow label="Do">
        <Select
          label="What is done"
          setting="op"
          value={step.op}
          disabled={disabled}
          className="w-full"
          onChange={(op) => onChange(`Curve: ${op}`, turnedTo(step, op))}
        >
          {CURVE_OPS.map(({ op, title }) => (
            <option key={op} value={op}>
              {title}
            </option>
          ))}
        </Select>
      </LabelledRow>
      <Settings {...props} />
    </>
  );
}

function Settings({ step, ...rest }: StepFormProps<CurveStep>) {
  switch (step.op) {
    case 'scale':
    case 'add':
    case 'smooth':
    case 'thin':
      return <OneAmount step={step} {...rest} />;
    case 'limit':
      return <Limit step={step} {...rest} />;
    case 'snap':
      return (
        <LabelledRow label="Grid">
          <NoteValueSelect
            label="Grid of the points"
            setting="grid"
            value={step.grid}
            disabled={rest.disabled}
            onChange={(grid) => rest.onChange('Grid of the points', { grid })}
          />
        </LabelledRow>
      );
    case 'ramp':
      return <Ramp step={step} {...rest} />;
    case 'wave':
      return <Wave step={step} {...rest} />;
    case 'convert':
    case 'copy':
      return (
        <LabelledRow label="To">
          <LaneSelect
            label="To lane"
            setting="to"
            value={step.to}
            used={rest.facts?.lanes ?? []}
            disabled={rest.disabled}
            onChange={(to) => rest.onChange(`To ${laneName(to)}`, { to })}
          />
        </LabelledRow>
      );
    case 'marks':
      return <MarksForm step={step} {...rest} />;
    case 'draw':
      return (
        <p className="text-ink-2">
          {step.points.length === 1 ? '1 point' : `${step.points.length} points`} drawn in the lane.
        </p>
      );
    default:
      return null;
  }
}

/** An operation with one amount: how it is labelled, and its ends on the slider. */
function OneAmount({ step, disabled, onChange, onAbandon }: Props<'scale' | 'add' | 'smooth' | 'thin'>) {
  const [low, high] = endsOf(step.lane);
  const shared = { disabled, onAbandon };
  if (step.op === 'scale')
    return (
      <SliderField
        {...shared}
        setting="percent"
        label="To"
        value={step.percent}
        min={0}
        max={200}
        typedMax={1000}
        unit="%"
        onChange={(percent, gesture) => onChange(`Scale to ${percent} %`, { percent }, gesture)}
      />
    );
  if (step.op === 'add')
    return (
      <SliderField
        {...shared}
        setting="amount"
        label="By"
        value={step.amount}
        min={-high}
        max={high}
        typedMin={-12800}
        typedMax={12800}
        unit={unitOf(step.lane)}
        onChange={(amount, gesture) => onChange(`Add ${amount}`, { amount }, gesture)}
      />
    );
  if (step.op === 'smooth')
    return (
      <SliderField
        {...shared}
        setting="ms"
        label="Over"
        value={step.ms}
        min={0}
        max={1000}
        typedMax={60000}
        unit="ms"
        onChange={(ms, gesture) => onChange(`Smooth over ${ms} ms`, { ms }, gesture)}
      />
    );
  return (
    <>
      <SliderField
        {...shared}
        setting="tolerance"
        label="At most off by"
        value={step.tolerance}
        min={0}
        max={(high - low) / 16}
        typedMax={12800}
        step={0.1}
        unit={unitOf(step.lane)}
        onChange={(tolerance, gesture) => onChange(`Thin within ${tolerance}`, { tolerance }, gesture)}
      />
      <p className="text-quiet text-ink-2">
        No point that goes is farther than this from the line between those that stay.
      </p>
    </>
  );
}

function Limit({ step, disabled, onChange }: Props<'limit'>) {
  const [low, high] = step.range;
  const field = (label: string, value: number, put: (value: number) => [number, number]) => (
    <NumberField
      label={label}
      setting="range"
      value={value}
      min={-12800}
      max={12800}
      disabled={disabled}
      onCommit={(next) => onChange('Limit', { range: put(next) })}
    />
  );
  return (
    <div className="flex items-baseline gap-1 text-ink-2">
      between
      {field('Least value', low, (next) => [next, Math.max(next, high)])}
      and
      {field('Greatest value', high, (next) => [Math.min(low, next), next])}
      {unitOf(step.lane)}
    </div>
  );
}

function Ramp({ step, disabled, onChange, onAbandon }: Props<'ramp'>) {
  const [min, max] = endsOf(step.lane);
  const shared = {
    min,
    max,
    typedMin: -12800,
    typedMax: 12800,
    unit: unitOf(step.lane),
    disabled,
    onAbandon,
  };
  return (
    <>
      <SliderField
        {...shared}
        setting="from"
        label="From"
        value={step.from}
        onChange={(from, gesture) => onChange(`Ramp from ${from}`, { from }, gesture)}
      />
      <SliderField
        {...shared}
        setting="to"
        label="To"
        value={step.to}
        onChange={(to, gesture) => onChange(`Ramp to ${to}`, { to }, gesture)}
      />
      <Segmented
        label="Shape of the ramp"
        setting="shape"
        disabled={disabled}
        value={step.shape}
        options={[
          { value: 'line', label: 'line' },
          { value: 'ease', label: 'ease' },
          { value: 'slowStart', label: 'slow start' },
          { value: 'slowEnd', label: 'slow end' },
        ]}
        onChange={(shape) => onChange(`Ramp: ${shape}`, { shape })}
      />
    </>
  );
}

function Wave({ step, disabled, onChange, onAbandon }: Props<'wave'>) {
  const shared = { min: 0, disabled, onAbandon };
  const { rate } = step;
  return (
    <>
      <Segmented
        label="Shape of the wave"
        setting="shape"
        disabled={disabled}
        value={step.shape}
        options={[
          { value: 'sine', label: 'sine' },
          { value: 'triangle', label: 'triangle' },
          { value: 'square', label: 'square' },
        ]}
        onChange={(shape) => onChange(`Wave: ${shape}`, { shape })}
      />
      <SliderField
        {...shared}
        setting="depth"
        label="Depth to either side"
        value={step.depth}
        max={step.lane === 'bend' ? 100 : 63}
        typedMax={12800}
        unit={unitOf(step.lane)}
        onChange={(depth, gesture) => onChange(`Depth ${depth}`, { depth }, gesture)}
      />
      <Segmented
        label="Rate in"
        setting="rate"
        disabled={disabled}
        value={'hz' in rate ? 'hz' : 'note'}
        options={[
          { value: 'hz', label: 'a second' },
          { value: 'note', label: 'note value' },
        ]}
        onChange={(unit) => onChange('Rate', { rate: unit === 'hz' ? { hz: 5.5 } : { note: '1/8' } })}
      />
      {'hz' in rate ? (
        <SliderField
          {...shared}
          setting="rate"
          label="Rate"
          value={rate.hz}
          min={0.1}
          max={12}
          typedMax={50}
          step={0.1}
          unit="Hz"
          onChange={(hz, gesture) => onChange(`Rate ${hz} Hz`, { rate: { hz } }, gesture)}
        />
      ) : (
        <LabelledRow label="Period">
          <NoteValueSelect
            label="Period"
            setting="rate"
            value={rate.note}
            disabled={disabled}
            onChange={(note) => onChange('Period of the wave', { rate: { note } })}
          />
        </LabelledRow>
      )}
      <SliderField
        {...shared}
        setting="fadeMs"
        label="Fades in over"
        value={step.fadeMs}
        max={3000}
        typedMax={60000}
        unit="ms"
        onChange={(fadeMs, gesture) => onChange(`Fade in over ${fadeMs} ms`, { fadeMs }, gesture)}
      />
    </>
  );
}
