/**
 * Writes THIRD_PARTY_NOTICES.md: what ships with the app and the server, with versions and licences. Usage: node
 * scripts/notices.mjs
 */
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './bundle.mjs';
import { shippedPackages } from './shippedPackages.mjs';

const rows = shippedPackages().map(({ name, version, license }) => `| ${name} ${version} | ${license} |`);
writeFileSync(
  path.join(ROOT, 'THIRD_PARTY_NOTICES.md'),
  `# What Ordle is built with

The build puts the text of every licence beside what it builds (\`app/dist/licences.txt\`, \`cli/dist/licences.txt\`); the app shows them at
\`/licences.txt\`.

## Sound bank

\`app/public/sounds/general-midi.sf2\` is \`sf_GMbank.sf2\` as shipped by the Debian package csound-soundfont (Csound developers). Its
copyright file says: "Copyright: none. License: public-domain. The file has Public Domain in its license field."

## Engraver

The engraver (npm \`verovio\`, LGPL-3.0-or-later) is a file of its own, \`assets/engraver.worker-*.js\`, fetched when Score is first opened; what it is
told and what it answers is in \`app/engine/engraver\`, so that another build of it can stand in its place (\`npm install\`, \`npm run build\`).

## Fonts

Source Sans 3 and Source Serif 4 (Adobe), SIL Open Font License 1.1, by way of the @fontsource-variable packages.

## Packages that ship with the app and the server

| package | licence |
| --- | --- |
${rows.join('\n')}
`,
);
