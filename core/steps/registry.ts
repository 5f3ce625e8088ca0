import { z } from 'zod';
import { OrdleError } from '../errors';
import type { Material } from '../model';
import { edits, type EditsStep } from './edits';
import { quantize, type QuantizeStep } from './quantize';
import type { StepContext, StepKind } from './stepKind';
import { touchedRows } from './where';

/** Every kind of step there is. A new kind is a file beside this one and a line in `KINDS`. */
export type Step = QuantizeStep | EditsStep;

const KINDS: { [K in Step['kind']]: StepKind<Extract<Step, { kind: K }>> } = {
  quantize,
  edits,
};

/** The kinds in the order of the work, for menus. */
export const STEP_KINDS = Object.values(KINDS);

type Branch<S extends Step> = z.ZodType<S> & z.core.$ZodTypeDiscriminable;

/** Any step, by its kind. */
export const stepSchema = z.discriminatedUnion('kind', [
  quantize.schema as Branch<QuantizeStep>,
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
