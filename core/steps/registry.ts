import { z } from 'zod';
import { OrdleError } from '../errors';
import type { Material } from '../model';
import { align, type AlignStep } from './align';
import { edits, type EditsStep } from './edits';
import { groove, type GrooveStep } from './groove';
import { quantize, type QuantizeStep } from './quantize';
import { humanize, type HumanizeStep } from './humanize';
import { nudge, type NudgeStep } from './nudge';
import { stretch, type StretchStep } from './stretch';
import { transpose, type TransposeStep } from './transpose';
import { velocity, type VelocityStep } from './velocity';
import { length, type LengthStep } from './length';
import { curve } from './curve';
import type { CurveStep } from './curveSettings';
import { pedal, type PedalStep } from './pedal';
import { remove, type RemoveStep } from './remove';
import type { StepContext, StepKind } from './stepKind';
import { touchedRows } from './where';

/** Every kind of step there is. A new kind is a file beside this one and a line in `KINDS`. */
export type Step =
  | QuantizeStep
  | GrooveStep
  | HumanizeStep
  | AlignStep
  | NudgeStep
  | StretchStep
  | TransposeStep
  | VelocityStep
  | LengthStep
  | CurveStep
  | PedalStep
  | RemoveStep
  | EditsStep;

const KINDS: { [K in Step['kind']]: StepKind<Extract<Step, { kind: K }>> } = {
  quantize,
  align,
  nudge,
  stretch,
  groove,
  humanize,
  transpose,
  velocity,
  length,
  curve,
  pedal,
  remove,
  edits,
};

/** The kinds in the order of the work, for menus. */
export const STEP_KINDS = Object.values(KINDS);

type Branch<S extends Step> = z.ZodType<S> & z.core.$ZodTypeDiscriminable;

/** Any step, by its kind. */
export const stepSchema = z.discriminatedUnion('kind', [
  quantize.schema as Branch<QuantizeStep>,
  groove.schema as Branch<GrooveStep>,
  humanize.schema as Branch<HumanizeStep>,
  align.schema as Branch<AlignStep>,
  nudge.schema as Branch<NudgeStep>,
  stretch.schema as Branch<StretchStep>,
  transpose.schema as Branch<TransposeStep>,
  velocity.schema as Branch<VelocityStep>,
  length.schema as Branch<LengthStep>,
  curve.schema as Branch<CurveStep>,
  pedal.schema as Branch<PedalStep>,
  remove.schema as Branch<RemoveStep>,
  edits.schema as Branch<EditsStep>,
]);

/** The kind of a step. Throws `step-kind` for a name that is none. */
export function kindOf(name: string): StepKind<Step> {
  const kind = Object.hasOwn(KINDS, name) ? KINDS[name as Step['kind']] : undefined;
  if (!kind) {
    throw new OrdleError(
      'step-kind',
      `"${name}" is not a kind of step; known are: ${Object.keys(KINDS).join(', ')}.`,
    );
  }
  return kind;
}

/** A new step of a kind with its defaults and the settings given. */
export function createStep<K extends Step['kind']>(
  kind: K,
  settings: Partial<Extract<Step, { kind: K }>> = {},
): Extract<Step, { kind: K }> {
  return KINDS[kind].schema.parse({ kind, ...settings }) as Extract<Step, { kind: K }>;
}

/** Runs one step over some material; switched off, it passes the material on. */
export function applyStep(material: Material, step: Step, context: StepContext): Material {
  if (!step.on) return material;
  const touched = touchedRows(material.notes, step.where, context.timeline);
  return kindOf(step.kind).apply(material, step, context, touched);
}
