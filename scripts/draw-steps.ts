import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { stepPictures } from './stepPictures';

/** Draws what each kind of step does into docs/steps, by running the steps themselves. */
const folder = path.resolve('docs/steps');
mkdirSync(folder, { recursive: true });
for (const [name, svg] of stepPictures()) writeFileSync(path.join(folder, name), svg);
