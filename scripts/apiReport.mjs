/**
 * The public face of the core as text, core/library.api.md: every name with its declaration and what its type comes to.
 * With `--check` it fails where the face is another than is written there. Usage: node scripts/apiReport.mjs [--check]
 */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';
import { ROOT } from './bundle.mjs';

const CORE = path.join(ROOT, 'core');
const REPORT = path.join(CORE, 'library.api.md');
const { options } = ts.getParsedCommandLineOfConfigFile(path.join(CORE, 'tsconfig.json'), {}, ts.sys);
const program = ts.createProgram([path.join(CORE, 'library.ts')], options);
const checker = program.getTypeChecker();
const WHOLE = ts.TypeFormatFlags.NoTruncation | ts.TypeFormatFlags.InTypeAlias;

/** What a name comes to: the members of what has members, else its type. */
function lines(symbol, declaration) {
  if (ts.isInterfaceDeclaration(declaration) || ts.isClassDeclaration(declaration)) {
    const type = checker.getDeclaredTypeOfSymbol(symbol);
    return checker
      .getPropertiesOfType(type)
      .map((member) => {
        const optional = member.flags & ts.SymbolFlags.Optional ? '?' : '';
        const of = checker.getTypeOfSymbolAtLocation(member, declaration);
        return `  ${member.name}${optional}: ${checker.typeToString(of, declaration, WHOLE)}`;
      })
      .sort();
  }
  const type = ts.isTypeAliasDeclaration(declaration)
    ? checker.getDeclaredTypeOfSymbol(symbol)
    : checker.getTypeOfSymbolAtLocation(symbol, declaration);
  return [`  ${checker.typeToString(type, declaration, WHOLE)}`];
}

const KINDS = [
  [ts.isFunctionDeclaration, 'function'],
  [ts.isClassDeclaration, 'class'],
  [ts.isInterfaceDeclaration, 'interface'],
  [ts.isTypeAliasDeclaration, 'type'],
];

const face = checker.getSymbolAtLocation(program.getSourceFile(path.join(CORE, 'library.ts')));
const problems = [];
const entries = checker
  .getExportsOfModule(face)
  .map((exported) => {
    const symbol = checker.getAliasedSymbol(exported);
    const [declaration] = symbol.declarations;
    const tags = ts
      .getJSDocTags(declaration)
      .concat(ts.isVariableDeclaration(declaration) ? ts.getJSDocTags(declaration.parent.parent) : []);
    if (!tags.some(({ tagName }) => tagName.text === 'public'))
      problems.push(`${exported.name} is not said to be @public where it is declared.`);
    for (const member of declaration.members ?? [])
      if (ts.isMethodSignature(member) && ts.getJSDocCommentsAndTags(member).length === 0)
        problems.push(`${exported.name}.${member.name.getText()} is not described.`);
    const kind = KINDS.find(([is]) => is(declaration))?.[1] ?? 'const';
    return [exported.name, `${kind} ${exported.name}\n${lines(symbol, declaration).join('\n')}`];
  })
  .sort(([a], [b]) => (a < b ? -1 : 1));
// Where a type lies on this machine is nothing of the face.
const text = entries.map(([, entry]) =>
  entry.replaceAll(/import\("[^"]*\/(core|node_modules)\//g, 'import("$1/'),
);
const report = `# The public face of the core

${entries.length} names. Written by \`npm run api:report\`; a test fails when the face is another.

\`\`\`
${text.join('\n\n')}
\`\`\`
`;

if (process.argv.includes('--check')) {
  if (!existsSync(REPORT) || readFileSync(REPORT, 'utf8') !== report)
    problems.push(
      'The public face of the core is another than core/library.api.md says. If that is meant, run "npm run api:report" and commit what it writes.',
    );
} else writeFileSync(REPORT, report);
for (const problem of problems) console.error(problem);
console.log(`${entries.length} public names.`);
process.exit(problems.length > 0 ? 1 : 0);
