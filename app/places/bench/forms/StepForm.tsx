import type { Step } from '@ordle/core';
import type { BenchState } from '../useBench';
import { AlignForm } from './AlignForm';
import { CurveForm } from './CurveForm';
import { EditsForm } from './EditsForm';
import type { StepFormProps } from './formProps';
import { GrooveForm } from './GrooveForm';
import { HumanizeForm } from './HumanizeForm';
import { LengthForm } from './LengthForm';
import { NudgeForm } from './NudgeForm';
import { PedalForm } from './PedalForm';
import { QuantizeForm } from './QuantizeForm';
import { RemoveForm } from './RemoveForm';
import { StretchForm } from './StretchForm';
import { TransposeForm } from './TransposeForm';
import { VelocityForm } from './VelocityForm';

/** The form of a step's kind. */
export function StepForm({ bench, step, ...rest }: StepFormProps<Step> & { bench: BenchState }) {
  switch (step.kind) {
    case 'quantize':
      return <QuantizeForm step={step} {...rest} />;
    case 'groove':
      return <GrooveForm step={step} {...rest} />;
    case 'humanize':
      return <HumanizeForm step={step} {...rest} />;
    case 'align':
      return <AlignForm step={step} {...rest} />;
    case 'nudge':
      return <NudgeForm step={step} {...rest} />;
    case 'stretch':
      return <StretchForm step={step} {...rest} />;
    case 'transpose':
      return <TransposeForm step={step} {...rest} />;
    case 'velocity':
      return <VelocityForm step={step} {...rest} />;
    case 'length':
      return <LengthForm step={step} {...rest} />;
    case 'curve':
      return <CurveForm step={step} {...rest} />;
    case 'pedal':
      return <PedalForm step={step} {...rest} />;
    case 'remove':
      return <RemoveForm step={step} {...rest} />;
    case 'edits':
      return <EditsForm bench={bench} step={step} />;
  }
}
