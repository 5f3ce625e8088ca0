import { kindOf, settingFacts, whereSchema, type SettingFacts, type Step } from '@ordle/core';
import { z } from 'zod';

interface JsonSchema extends SettingFacts {
  properties?: Record<string, JsonSchema>;
  items?: JsonSchema;
  prefixItems?: JsonSchema[];
  oneOf?: JsonSchema[];
  anyOf?: JsonSchema[];
  const?: unknown;
  default?: unknown;
  minimum?: number;
  exclusiveMinimum?: number;
  maximum?: number;
}

/** A number setting as its schema has it: its range, and what else is known of it. */
export interface NumberSetting extends Omit<SettingFacts, 'unit'> {
  unit?: string;
  min: number;
  max: number;
  /** What a new step has. */
  initial?: number;
}

const jsonOf = (schema: z.ZodType) =>
  z.toJSONSchema(schema, {
    io: 'input',
    unrepresentable: 'any',
    metadata: settingFacts as unknown as typeof z.globalRegistry,
  }) as JsonSchema;

const schemas = new Map<string, JsonSchema>();

function schemaOf(kind: Step['kind'] | 'where'): JsonSchema {
  let schema = schemas.get(kind);
  if (!schema) schemas.set(kind, (schema = jsonOf(kind === 'where' ? whereSchema : kindOf(kind).schema)));
  return schema;
}

/**
 * The number setting a path leads to: through lists, pairs and, where a kind has several operations, the one named.
 * Throws when the schema has no such number.
 */
export function settingOf(of: { kind: Step['kind']; op?: string } | 'where', path: string): NumberSetting {
  const [kind, op] = of === 'where' ? (['where'] as const) : [of.kind, of.op];
  const names = path.split('.');
  const found = names.reduce<JsonSchema | undefined>(
    (node, name) => node && propertyOf(node, name, op),
    schemaOf(kind),
  );
  const number = found?.prefixItems?.[0] ?? found;
  const min = number?.minimum ?? number?.exclusiveMinimum;
  if (!number || min === undefined || number.maximum === undefined)
    throw new Error(`The schema of ${kind} names no range for ${path}.`);
  const { unit, usual, step, start, maximum: max } = number;
  const initial = typeof found?.default === 'number' ? found.default : undefined;
  return { min, max, unit, usual, step, ...(start !== undefined && { start }), initial };
}

/** What a setting is where nothing is said of it; undefined where it is left out then. */
export const initialOf = (of: { kind: Step['kind']; op?: string }, name: string): unknown =>
  propertyOf(schemaOf(of.kind), name, of.op)?.default;

function propertyOf(node: JsonSchema, name: string, op: string | undefined): JsonSchema | undefined {
  const inside = node.items ?? node;
  const known = inside.properties?.[name];
  if (known) return known;
  const options = [...(inside.oneOf ?? []), ...(inside.anyOf ?? [])];
  const meant = options.find(({ properties }) => op !== undefined && properties?.op?.const === op);
  return (meant ?? options.find(({ properties }) => properties?.[name]))?.properties?.[name];
}
