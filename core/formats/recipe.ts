import { z } from 'zod';
import { OrdleError } from '../errors';
import { STEP_KINDS, stepSchema, type Step } from '../steps';

/** Steps a recipe may hold: far more than anybody writes, few enough that a slip does not take hours. */
const MOST_STEPS = 1000;
/** Faults named one by one; the rest are counted. */
const MOST_FAULTS = 20;

/**
 * A saved list of steps, used again on other parts, sessions and files.
 *
 * @public
 */
export interface Recipe {
  ordle: 'recipe';
  version: 1;
  name: string;
  steps: Step[];
}

export const recipeSchema = z.strictObject({
  ordle: z.literal('recipe', 'must be "recipe"'),
  version: z.literal(1, 'must be 1'),
  name: z.string('must be a text').default(''),
  steps: z
    .array(stepSchema, 'must be a list of steps')
    .max(MOST_STEPS, `must hold at most ${MOST_STEPS.toLocaleString('en')} steps`),
});

/**
 * Reads a recipe from JSON text. Throws `recipe` with the path of every fault, or `recipe-json` when it is not JSON.
 *
 * @public
 */
export function parseRecipe(text: string): Recipe {
  let value: unknown;
  try {
    value = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    throw new OrdleError('recipe-json', `The recipe is not valid JSON: ${reason}`);
  }
  const result = recipeSchema.safeParse(value);
  if (result.success) return result.data;
  const { issues } = result.error;
  const faults = issues.slice(0, MOST_FAULTS).flatMap((issue) => describeIssue(issue, value));
  const told = faults.slice(0, MOST_FAULTS).map(shortened);
  const more = issues.length + faults.length - Math.min(issues.length, MOST_FAULTS) - told.length;
  throw new OrdleError(
    'recipe',
    `The recipe cannot be used. ${told.join('; ')}${more > 0 ? `; and ${more.toLocaleString('en')} more faults` : ''}`,
    { path: told[0]?.split(':')[0] },
  );
}

/** A fault without the thousands of characters that a name in a hostile recipe may have. */
const shortened = (fault: string): string => (fault.length > 400 ? `${fault.slice(0, 400)} ...` : fault);

/**
 * JSON Schema of a recipe, for editors and other programs.
 *
 * @public
 */
export function recipeJsonSchema(): object {
  return z.toJSONSchema(recipeSchema, { io: 'input' });
}

function describeIssue(issue: z.core.$ZodIssue, root: unknown): string[] {
  const path = pathText(issue.path);
  if (issue.code === 'unrecognized_keys') {
    return issue.keys.map((key) => `${pathText([...issue.path, key])}: is not a setting this version knows`);
  }
  // Zod leaves the list of branches empty when no branch bears the name given as `kind` or `op`.
  if (issue.code === 'invalid_union' && issue.errors.length === 0) {
    const isKind = issue.path.at(-1) === 'kind';
    const names = isKind
      ? STEP_KINDS.map(({ kind }) => kind)
      : 'options' in issue
        ? (issue.options as string[])
        : [];
    const given = JSON.stringify(valueAt(root, issue.path));
    return [
      `${path}: ${given} is not ${isKind ? 'a kind of step' : 'a choice'}; known are ${names.map((name) => `"${name}"`).join(', ')}`,
    ];
  }
  return [`${path || 'recipe'}: ${issue.message}`];
}

function valueAt(root: unknown, path: PropertyKey[]): unknown {
  return path.reduce<unknown>(
    (value, key) =>
      value !== null && typeof value === 'object' ? (value as Record<PropertyKey, unknown>)[key] : undefined,
    root,
  );
}

/** `steps[2].where.bars` */
function pathText(path: readonly PropertyKey[]): string {
  return path.reduce<string>((text, key) => {
    if (typeof key === 'number') return `${text}[${key}]`;
    return text === '' ? String(key) : `${text}.${String(key)}`;
  }, '');
}
