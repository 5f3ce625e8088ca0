import type { NamedSection, Part, PartFacts, Session, Step, Timeline } from '@ordle/core';

/** What every settings form gets. */
export interface StepFormProps<S extends Step> {
  step: S;
  part: Part;
  session: Session;
  timeline: Timeline;
  /** What is in the part before the step; null while it is read. */
  facts: PartFacts | null;
  sections: readonly NamedSection[];
  disabled: boolean;
  /** Changes settings under a label; a gesture joins the moves of one drag. */
  onChange(label: string, settings: Partial<S>, gesture?: string): void;
  onAbandon(gesture: string): void;
}

export const signed = (value: number): string =>
  `${value > 0 ? '+' : value < 0 ? '−' : ''}${Math.abs(value)}`;
