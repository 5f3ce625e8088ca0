import { z } from 'zod';
import { OrdleError } from '../errors';
import type { Material } from '../model';
import { align } from './align';
import { curve } from './curve';
import { edits } from './edits';
import { groove } from './groove';
import { humanize } from './humanize';
import { layout } from './layout';
import { length } from './length';
import { nudge } from './nudge';
import { pedal } from './pedal';
import { pulse } from './pulse';
import { quantize } from './quantize';
import { remove } from './remove';
import { score } from './score';
import type { StepCommon, StepContext, StepKind } from './stepKind';
import { stretch } from './stretch';
import { transpose } from './transpose';
import { velocity } from './velocity';
import { touchedRows } from './where';

/**
 * Every kind of step there is, in the order of the work. A new kind is a file beside this one and its name here; all
 * else follows from it.
 */
const ALL = [
  quantize,
  align,
  score,
  pulse,
  nudge,
  stretch,
  layout,
  groove,
  humanize,
  transpose,
  velocity,
  length,
  curve,
  pedal,
  remove,
  edits,
] as const;

type StepOf<K> = K extends StepKind<infer S> ? S : never;

/**
 * A step of any kind, as a recipe has it: `kind`, whether it is `on`, `where` it holds, and the settings of its kind.
 * What they are, with units and ranges, is in the JSON Schema of a recipe.
 *
 * @public
 */
export type Step = StepOf<(typeof ALL)[number]>;

/** The kinds in the order of the work, for menus. */
export const STEP_KINDS = ALL as unknown as readonly StepKind<Step>[];

const KINDS = Object.fromEntries(STEP_KINDS.map((kind) => [kind.kind, kind])) as {
  [K in Step['kind']]: StepKind<Extract<Step, { kind: K }>>;
};

type Branch = z.ZodType<Step> & z.core.$ZodTypeDiscriminable;

/** Any step, by its kind. */
export const stepSchema = z.discriminatedUnion(
  'kind',
  STEP_KINDS.map(({ schema }) => schema as unknown as Branch) as [Branch, ...Branch[]],
);

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

/**
 * A step of a kind with some settings, the others as they are at first, checked as in a recipe. Throws OrdleError
 * `step-kind` for a name that is none, `step` with the path of the first setting that cannot be and why.
 *
 * @public
 */
export function createStep<K extends Step['kind']>(
  kind: K,
  settings: Partial<Extract<Step, { kind: K }>> = {},
): Extract<Step, { kind: K }> {
  const { title } = kindOf(kind);
  const read = KINDS[kind].schema.safeParse({ kind, ...settings });
  if (read.success) return read.data as Extract<Step, { kind: K }>;
  const [issue] = read.error.issues;
  const path = [...issue.path, ...(issue.code === 'unrecognized_keys' ? issue.keys.slice(0, 1) : [])].join(
    '.',
  );
  throw new OrdleError('step', `${title} cannot be made: ${path || 'its settings'}: ${issue.message}.`, {
    path,
  });
}

/** Runs one step over some material; switched off, it passes the material on. */
export function applyStep(material: Material, step: Step, context: StepContext): Material {
  if (!step.on) return material;
  const { where }: StepCommon = step;
  const touched = touchedRows(material.notes, where, context.timeline);
  const kind = kindOf(step.kind);
  const outcome = kind.apply(material, step, context, touched);
  if (outcome !== material) checkNumbers(outcome, material, kind.title);
  return outcome;
}

/**
 * No tick and no velocity that is no number leaves a step. Throws OrdleError `step-no-number`, naming the step,
 * before anything is made of it.
 */
function checkNumbers(outcome: Material, input: Material, title: string): void {
  const { notes, events } = outcome;
  const columns = [
    [notes.start, input.notes.start],
    [notes.end, input.notes.end],
    [notes.velocity, input.notes.velocity],
    [events.tick, input.events.tick],
  ];
  if (columns.every(([made, from]) => made === from || areNumbers(made))) return;
  throw new OrdleError(
    'step-no-number',
    `The step “${title}” comes to a place or a velocity that is no number, so nothing was made of it. Change its settings, or switch it off.`,
  );
}

function areNumbers(column: Float64Array): boolean {
  // Anything that is no finite number makes these sums no number: one pass without a test a value, and four sums, so
  // that none waits for the one before it. This runs over every column of every step.
  let [a, b, c, d] = [0, 0, 0, 0];
  const whole = column.length & ~3;
  for (let row = 0; row < whole; row += 4) {
    a += column[row] * 0;
    b += column[row + 1] * 0;
    c += column[row + 2] * 0;
    d += column[row + 3] * 0;
  }
  for (let row = whole; row < column.length; row++) a += column[row] * 0;
  return a + b + c + d === 0;
}
