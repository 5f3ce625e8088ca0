import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { recipeJsonSchema } from '@ordle/core';

/** Writes the JSON Schema of recipes into docs, from the schema the code itself uses. */
writeFileSync(path.resolve('docs/recipe.schema.json'), `${JSON.stringify(recipeJsonSchema(), null, 2)}\n`);
