import { CURVE_OPS, laneName, nameOfNoteValue, type CurveOp, type CurveStep } from '@ordle/core';
import { Check, LabelledRow, NumberField, Segmented, SliderField } from '@/ui';
import type { StepFormProps } from './formProps';
import { NoteValueSelect } from './GridPicker';
import { MarksForm } from './MarksForm';
import { LaneSelect } from './LaneSelect';
import { settingOf } from './settingOf';
import { StepSlider } from './StepFields';
import { OperationRow } from './OperationRow';
import { counted } from '@/words/counts';

type Props<Op extends CurveOp> = Omit<StepFormProps<CurveStep>, 'step' | 'onChange'> & {
  step: Extract<CurveStep, { op: Op }>;
  onChange(label: string, settings: Partial<Extract<CurveStep, { op: Op }>>, gesture?: string): void;
};

const VALUE = settingOf({ kind: 'curve', op: 'limit' }, 'range');
const HZ = settingOf({ kind: 'curve', op: 'wave' }, 'rate.hz');

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
      <OperationRow step={step} ops={CURVE_OPS} name="Curve" disabled={disabled} onChange={onChange} />
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
            onChange={(grid) => rest.onChange(`Grid of the points ${nameOfNoteValue(grid)}`, { grid })}
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
      return <p className="text-ink-2">{counted(step.points.length, 'point')} drawn in the lane.</p>;
    default:
      return null;
  }
}

/** An operation with one amount: how it is labelled, and its ends on the slider. */
function OneAmount(form: Props<'scale' | 'add' | 'smooth' | 'thin'>) {
  const { step } = form;
  const [low, high] = endsOf(step.lane);
  const unit = unitOf(step.lane);
  if (step.op === 'scale')
    return <StepSlider form={{ ...form, step }} setting="percent" label="To" says="Scale to" />;
  if (step.op === 'add')
    return (
      <StepSlider
        form={{ ...form, step }}
        setting="amount"
        label="By"
        says="Add"
        usual={[-high, high]}
        unit={unit}
        isSigned
      />
    );
  if (step.op === 'smooth')
    return <StepSlider form={{ ...form, step }} setting="ms" label="Over" says="Smooth over" />;
  return (
    <>
      <StepSlider
        form={{ ...form, step }}
        setting="tolerance"
        label="At most off by"
        says="Thin within"
        usual={[0, (high - low) / 16]}
        unit={unit}
      />
      <Segmented
        label="Judged by"
        setting="by"
        disabled={form.disabled}
        value={step.by}
        options={[
          { value: 'held', label: 'what is heard', title: 'By the value that holds until the next point' },
          { value: 'line', label: 'the line', title: 'By the line between the points that stay' },
        ]}
        onChange={(by) => form.onChange(by === 'held' ? 'Thin as heard' : 'Thin by the line', { by })}
      />
      <p className="text-quiet text-ink-2">
        {step.by === 'held'
          ? 'No point that goes is farther than this from the value that holds in its place.'
          : 'No point that goes is farther than this from the line between those that stay.'}
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
      min={VALUE.min}
      max={VALUE.max}
      disabled={disabled}
      onCommit={(next) => onChange(`Limit ${put(next).join(' to ')}`, { range: put(next) })}
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

function Ramp(form: Props<'ramp'>) {
  const { step, disabled, onChange } = form;
  const shared = { form, usual: endsOf(step.lane), unit: unitOf(step.lane) };
  return (
    <>
      <StepSlider {...shared} setting="from" label="From" says="Ramp from" />
      <StepSlider {...shared} setting="to" label="To" says="Ramp to" />
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

function Wave(form: Props<'wave'>) {
  const { step, disabled, onChange, onAbandon } = form;
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
      <StepSlider
        form={form}
        setting="depth"
        label="Depth to either side"
        says="Depth"
        usual={[0, step.lane === 'bend' ? 100 : 63]}
        unit={unitOf(step.lane)}
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
        onChange={(unit) =>
          onChange(unit === 'hz' ? 'Rate 5.5 Hz' : 'Rate 1/8', {
            rate: unit === 'hz' ? { hz: 5.5 } : { note: '1/8' },
          })
        }
      />
      {'hz' in rate ? (
        <SliderField
          setting="rate"
          label="Rate"
          value={rate.hz}
          min={HZ.usual?.[0] ?? HZ.min}
          max={HZ.usual?.[1] ?? HZ.max}
          typedMin={HZ.min}
          typedMax={HZ.max}
          step={HZ.step}
          unit="Hz"
          disabled={disabled}
          onAbandon={onAbandon}
          onChange={(hz, gesture) => onChange(`Rate ${hz} Hz`, { rate: { hz } }, gesture)}
        />
      ) : (
        <LabelledRow label="Period">
          <NoteValueSelect
            label="Period"
            setting="rate"
            value={rate.note}
            disabled={disabled}
            onChange={(note) => onChange(`Period of the wave ${nameOfNoteValue(note)}`, { rate: { note } })}
          />
        </LabelledRow>
      )}
      <StepSlider form={form} setting="fadeMs" label="Fades in over" says="Fade in over" />
      {step.fadeMs > 0 && (
        <Check
          setting="fadeOnce"
          checked={step.fadeOnce === true}
          disabled={disabled}
          onChange={(on) =>
            onChange(on ? 'Fade in once' : 'Fade in at each stretch', { fadeOnce: on || undefined })
          }
        >
          fade in once, not at each selected note
        </Check>
      )}
    </>
  );
}
