import type { Step } from '@ordle/core';
import type { ReactNode } from 'react';
import { AlignForm } from './AlignForm';
import { CurveForm } from './CurveForm';
import { EditsForm } from './EditsForm';
import type { StepFormProps } from './formProps';
import { GrooveForm } from './GrooveForm';
import { HumanizeForm } from './HumanizeForm';
import { LayoutForm } from './LayoutForm';
import { LengthForm } from './LengthForm';
import { NudgeForm } from './NudgeForm';
import { PedalForm } from './PedalForm';
import { PulseForm } from './PulseForm';
import { QuantizeForm } from './QuantizeForm';
import { RemoveForm } from './RemoveForm';
import { ScoreForm } from './ScoreForm';
import { StepTips } from './StepTips';
import { StretchForm } from './StretchForm';
import { TransposeForm } from './TransposeForm';
import { VelocityForm } from './VelocityForm';

type Form<S extends Step> = (props: StepFormProps<S>) => ReactNode;

/** What a kind of step brings to the screen, beside what its entry in core says of it. */
interface StepInterface<S extends Step> {
  /** Its settings. */
  Form: Form<S>;
  /** What is laid over the roll while it is the current step. */
  overlay?: 'harmony';
}

/** One entry a kind; a kind without one does not compile. */
const INTERFACES: { [K in Step['kind']]: StepInterface<Extract<Step, { kind: K }>> } = {
  quantize: { Form: QuantizeForm },
  groove: { Form: GrooveForm },
  humanize: { Form: HumanizeForm },
  align: { Form: AlignForm },
  score: { Form: ScoreForm },
  pulse: { Form: PulseForm },
  nudge: { Form: NudgeForm },
  stretch: { Form: StretchForm },
  layout: { Form: LayoutForm },
  transpose: { Form: TransposeForm, overlay: 'harmony' },
  velocity: { Form: VelocityForm },
  length: { Form: LengthForm },
  curve: { Form: CurveForm },
  pedal: { Form: PedalForm },
  remove: { Form: RemoveForm },
  edits: { Form: EditsForm },
};

/** What the kind of a step brings to the screen. */
export function interfaceOf(step: Step): StepInterface<Step> {
  return INTERFACES[step.kind] as unknown as StepInterface<Step>;
}

/** The form of a step's kind. */
export function StepForm(props: StepFormProps<Step>) {
  const { Form } = interfaceOf(props.step);
  return (
    <StepTips step={props.step}>
      <Form {...props} />
    </StepTips>
  );
}
