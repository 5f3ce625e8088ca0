import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { STEP_KINDS } from '@ordle/core';
import { stepPictures } from './stepPictures';

interface Shaped {
  shape: Record<string, unknown>;
}

const DOCS = path.resolve(__dirname, '../docs');

describe('the page of the steps', () => {
  it('shows for every kind the picture that the step draws today (npm run pictures)', () => {
    const pictures = stepPictures();
    expect([...pictures.keys()].sort()).toEqual(STEP_KINDS.map(({ kind }) => `${kind}.svg`).sort());
    expect(readdirSync(path.join(DOCS, 'steps')).sort()).toEqual([...pictures.keys()].sort());
    for (const [name, svg] of pictures)
      expect(readFileSync(path.join(DOCS, 'steps', name), 'utf8')).toBe(svg);
  });

  it('names every kind, with its picture and every one of its settings', () => {
    const page = readFileSync(path.join(DOCS, 'steps.md'), 'utf8');
    for (const kind of STEP_KINDS) {
      expect(page).toContain(`## ${kind.title}`);
      expect(page).toContain(`(steps/${kind.kind}.svg)`);
      const branches = (kind.schema as unknown as { options?: Shaped[] }).options ?? [
        kind.schema as unknown as Shaped,
      ];
      for (const setting of branches.flatMap(({ shape }) => Object.keys(shape)))
        if (!['kind', 'on', 'where'].includes(setting)) expect(page).toContain(`\`${setting}\``);
    }
  });
});
