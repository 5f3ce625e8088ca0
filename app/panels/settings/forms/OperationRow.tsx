import type { CurveStep, PedalStep } from '@ordle/core';
import { LabelledRow, Select } from '@/ui';
import { turnedTo } from './turnTo';

interface OperationRowProps<S> {
  step: S;
  ops: readonly { op: string; title: string }[];
  /** What the history calls the step. */
  name: string;
  disabled: boolean;
  onChange(label: string, settings: Partial<S>): void;
}

/** Which of its operations a step does; turned to another it begins with that one's settings. */
export function OperationRow<S extends CurveStep | PedalStep>({
  step,
  ops,
  name,
  disabled,
  onChange,
}: OperationRowProps<S>) {
  return (
    <LabelledRow label="Action">
      <Select
        label="Action"
        setting="op"
        value={step.op}
        disabled={disabled}
        className="w-full"
        onChange={(op) => onChange(`${name}: ${op}`, turnedTo(step, op) as Partial<S>)}
      >
        {ops.map(({ op, title }) => (
          <option key={op} value={op}>
            {title}
          </option>
        ))}
      </Select>
    </LabelledRow>
  );
}
