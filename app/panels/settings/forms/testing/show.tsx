import { kindOf, noteTableOf, partFacts, type Step } from '@ordle/core';
import { render } from '@testing-library/react';
// Sliders ask for the size of things, which this browser has no idea of.
import '@/ui/testing/controls';
import { TIMELINE, partOfSteps, sessionOfParts } from '@/testing/bench';
import { StepTips } from '../StepTips';
import type { StepFormProps } from '../formProps';

/** A tune in D minor, as the facts of the part before the step. */
export const FACTS = partFacts(
  noteTableOf(
    [62, 65, 69, 62, 64, 62, 58, 57].map((pitch, beat) => ({
      start: beat * 480,
      end: beat * 480 + 400,
      pitch,
      velocity: 71,
    })),
  ),
  TIMELINE,
);

export type Written = [label: string, settings: object];

/**
 * Shows the form of a step and writes down what it changes. Every change has to make a step that is valid; `onMade` is
 * told that step as its schema reads it, and as the form made it.
 */
export function show<S extends Step>(
  Form: (props: StepFormProps<S>) => React.ReactNode,
  step: S,
  onMade: (read: unknown, made: unknown) => void = () => undefined,
): Written[] {
  const written: Written[] = [];
  const parts = [partOfSteps('a', [step]), partOfSteps('b', [], { name: 'Kit' })];
  render(
    <StepTips step={step}>
      <Form
        step={step}
        part={parts[0]}
        session={sessionOfParts(parts)}
        timeline={TIMELINE}
        facts={FACTS}
        sections={[]}
        disabled={false}
        onAbandon={() => undefined}
        onChange={(label, settings) => {
          const changed = Object.fromEntries(
            Object.entries({ ...step, ...settings }).filter(([, value]) => value !== undefined),
          );
          onMade(kindOf(step.kind).schema.parse(changed), changed);
          written.push([label, settings]);
        }}
      />
    </StepTips>,
  );
  return written;
}
