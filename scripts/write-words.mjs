/**
 * Writes docs/words.md: every text of the interface by the file it stands in, so that all can be read at once, as a
 * stranger would. `--check` only says whether what is there is still true. A second name for a thing is refused.
 */
import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { format, resolveConfig } from 'prettier';
import ts from 'typescript';
import { ROOT } from './bundle.mjs';
import { secondNameIn } from './secondNames.mjs';

const OUTPUT = path.join(ROOT, 'docs/words.md');
/** Attributes and properties that a person reads, and calls whose first text is one. */
const READ = new Set([
  'label',
  'title',
  'placeholder',
  'aria-label',
  'alt',
  'hint',
  'description',
  'says',
  'short',
  'words',
  'message',
  'heading',
]);
const CALLS = new Set([
  'toast',
  'edit',
  'applyEdits',
  'applyEditsAlong',
  'onChange',
  'commandGroup',
  'OrdleError',
]);

function textOf(node) {
  if (ts.isStringLiteralLike(node)) return node.text;
  if (ts.isTemplateExpression(node))
    return node.head.text + node.templateSpans.map(({ literal }) => `…${literal.text}`).join('');
  return null;
}

/** Every text in a piece of the code, those in its branches too. */
function textsIn(node) {
  const text = textOf(node);
  if (text !== null) return [text];
  if (ts.isConditionalExpression(node)) return [...textsIn(node.whenTrue), ...textsIn(node.whenFalse)];
  if (ts.isParenthesizedExpression(node) || ts.isJsxExpression(node))
    return node.expression ? textsIn(node.expression) : [];
  if (ts.isArrayLiteralExpression(node)) return node.elements.flatMap(textsIn);
  if (ts.isBinaryExpression(node)) return [...textsIn(node.left), ...textsIn(node.right)];
  return [];
}

function wordsOf(file) {
  const source = ts.createSourceFile(
    file,
    readFileSync(path.join(ROOT, file), 'utf8'),
    ts.ScriptTarget.Latest,
    true,
    file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const found = new Set();
  const take = (texts) => {
    for (const text of texts) {
      const words = text.replace(/\s+/g, ' ').trim();
      if (/[A-Za-z]{2}/.test(words) && !/^[a-z]+(-[a-z]+)+$/.test(words)) found.add(words);
    }
  };
  const visit = (node) => {
    if (ts.isJsxText(node)) take([node.text]);
    else if (ts.isJsxExpression(node) && ts.isJsxElement(node.parent)) take(textsIn(node));
    else if (ts.isJsxAttribute(node) && READ.has(node.name.getText()) && node.initializer)
      take(textsIn(node.initializer));
    else if (ts.isPropertyAssignment(node) && READ.has(node.name.getText().replace(/['"]/g, '')))
      take(textsIn(node.initializer));
    else if (
      (ts.isCallExpression(node) || ts.isNewExpression(node)) &&
      CALLS.has(node.expression.getText().split('.').pop())
    )
      take((node.arguments ?? []).flatMap(textsIn));
    ts.forEachChild(node, visit);
  };
  visit(source);
  return [...found].sort((a, b) => a.localeCompare(b, 'en'));
}

const files = ['app', 'core']
  .flatMap((folder) =>
    readdirSync(path.join(ROOT, folder), { recursive: true }).map((file) => `${folder}/${file}`),
  )
  .filter((file) => /\.tsx?$/.test(file) && !/dist|\.test\.|testing|fixtures|node_modules/.test(file))
  .sort();
const wrong = [];
const sections = files.flatMap((file) => {
  const words = wordsOf(file);
  for (const text of words) {
    const second = secondNameIn(text, file);
    if (second) wrong.push(`${file}: "${text}" says "${second.is}"; say: ${second.instead}`);
  }
  return words.length === 0
    ? []
    : [`## ${file}\n\n${words.map((text) => `- ${text.replace(/[<>*_`[\]|\\]/g, '\\$&')}`).join('\n')}\n`];
});
const text = `# The texts of the interface\n\nWritten by \`npm run words\` from the code; \`…\` stands for what is put in.\n\n${sections.join('\n')}`;
const written = await format(text, { ...(await resolveConfig(OUTPUT)), filepath: OUTPUT });
if (wrong.length > 0) {
  console.error(wrong.join('\n'));
  process.exitCode = 1;
}
if (process.argv.includes('--check')) {
  if (readFileSync(OUTPUT, 'utf8') !== written) {
    console.error('docs/words.md is not what the code says any more; run "npm run words".');
    process.exit(1);
  }
} else writeFileSync(OUTPUT, written);
