/** Writes THIRD_PARTY_NOTICES.md: what ships with the app and the server, with versions and licences. Usage: node scripts/notices.mjs */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './bundle.mjs';

const seen = new Map();

function visit(name, from) {
  for (let folder = from; ; folder = path.dirname(folder)) {
    const file = path.join(folder, 'node_modules', name, 'package.json');
    if (existsSync(file)) {
      const { version, license, dependencies = {} } = JSON.parse(readFileSync(file, 'utf8'));
      if (name.startsWith('@ordle/') || seen.has(`${name} ${version}`)) return;
      seen.set(`${name} ${version}`, typeof license === 'string' ? license : 'see package');
      for (const next of Object.keys(dependencies)) visit(next, path.dirname(file));
      return;
    }
    if (folder === path.dirname(folder)) return;
  }
}

for (const workspace of ['core', 'app', 'server', 'cli']) {
  const { dependencies = {} } = JSON.parse(readFileSync(path.join(ROOT, workspace, 'package.json'), 'utf8'));
  for (const name of Object.keys(dependencies)) visit(name, path.join(ROOT, workspace));
}
const rows = [...seen]
  .sort(([a], [b]) => a.localeCompare(b))
  .map(([name, license]) => `| ${name} | ${license} |`);
writeFileSync(
  path.join(ROOT, 'THIRD_PARTY_NOTICES.md'),
  `# What Ordle is built with

Each package's licence text lies in its folder under node_modules after an install.

## Sound bank

\`app/public/sounds/general-midi.sf2\` is \`sf_GMbank.sf2\` as shipped by the Debian package csound-soundfont (Csound developers). Its
copyright file says: "Copyright: none. License: public-domain. The file has Public Domain in its license field."

## Fonts

Source Sans 3 and Source Serif 4 (Adobe), SIL Open Font License 1.1, by way of the @fontsource-variable packages.

## Packages that ship with the app and the server

| package | licence |
| --- | --- |
${rows.join('\n')}
`,
);
