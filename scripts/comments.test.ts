import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';

const ROOT = path.resolve(__dirname, '..');
const WIDEST = 120;

it('comments wrap at 120 characters', () => {
  const files = execFileSync('git', ['ls-files', '*.ts', '*.tsx', '*.mjs'], { cwd: ROOT, encoding: 'utf8' })
    .split('\n')
    .filter((file) => file !== '');
  const isComment = (line: string) => /^\s*(\*|\/\/|\/\*\*)/.test(line) && !/eslint-disable/.test(line);
  const wide = files.flatMap((file) =>
    readFileSync(path.join(ROOT, file), 'utf8')
      .split('\n')
      .flatMap((line, at) => (line.length > WIDEST && isComment(line) ? [`${file}:${at + 1}`] : [])),
  );
  expect(files.length).toBeGreaterThan(100);
  expect(wide).toEqual([]);
});
