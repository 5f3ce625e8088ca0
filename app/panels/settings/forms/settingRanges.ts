import { kindOf, type Step } from '@ordle/core';
import { z } from 'zod';

interface JsonSchema {
  properties?: Record<string, JsonSchema>;
  items?: JsonSchema;
  oneOf?: JsonSchema[];
  minimum?: number;
  maximum?: number;
}

/** The least and the greatest a number setting can be, as its schema has it; `path` leads to it through lists and operations. */
export function rangeOf(kind: Step['kind'], ...path: string[]): { min: number; max: number } {
  const schema = z.toJSONSchema(kindOf(kind).schema, { io: 'input', unrepresentable: 'any' }) as JsonSchema;
  const found = path.reduce<JsonSchema | undefined>((node, name) => propertyOf(node, name), schema);
  if (found?.minimum === undefined || found.maximum === undefined)
    throw new Error(`The schema of ${kind} names no range for ${path.join('.')}.`);
  return { min: found.minimum, max: found.maximum };
}

function propertyOf(node: JsonSchema | undefined, name: string): JsonSchema | undefined {
  const inside = node?.items ?? node;
  return (
    inside?.properties?.[name] ??
    inside?.oneOf?.find(({ properties }) => properties?.[name])?.properties?.[name]
  );
}
