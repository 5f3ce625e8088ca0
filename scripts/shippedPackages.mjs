/** The packages that ship with the app, the server or the command line, found by following what each asks for. */
import { existsSync, readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './bundle.mjs';

/**
 * Name, version, licence and folder of every package, sorted; those asked for as a peer are built in like the others.
 */
export function shippedPackages(workspaces = ['core', 'sound', 'app', 'server', 'cli']) {
  const seen = new Map();
  const visit = (name, from, isOptional) => {
    for (let folder = from; ; folder = path.dirname(folder)) {
      const home = path.join(folder, 'node_modules', name);
      if (existsSync(path.join(home, 'package.json'))) {
        const { version, license, dependencies, peerDependencies, peerDependenciesMeta } = read(home);
        if (name.startsWith('@ordle/') || seen.has(`${name} ${version}`)) return;
        seen.set(`${name} ${version}`, {
          name,
          version,
          license: typeof license === 'string' ? license : 'see package',
          folder: home,
        });
        for (const next of Object.keys(dependencies ?? {})) visit(next, home, false);
        for (const next of Object.keys(peerDependencies ?? {}))
          // Types are only there for the compiler.
          if (!next.startsWith('@types/') && !peerDependenciesMeta?.[next]?.optional) visit(next, home, true);
        return;
      }
      if (folder === path.dirname(folder)) {
        if (!isOptional) throw new Error(`The package ${name} is not installed.`);
        return;
      }
    }
  };
  for (const workspace of workspaces) {
    const { dependencies = {} } = read(path.join(ROOT, workspace));
    for (const name of Object.keys(dependencies)) visit(name, path.join(ROOT, workspace), false);
  }
  return [...seen.values()].sort(
    (a, b) => a.name.localeCompare(b.name) || a.version.localeCompare(b.version),
  );
}

function read(folder) {
  return JSON.parse(readFileSync(path.join(folder, 'package.json'), 'utf8'));
}

/** Texts of licences that packages name and do not bring; the lesser one is read with the other. */
const TEXTS = { 'LGPL-3.0-or-later': ['LGPL-3.0.txt', 'GPL-3.0.txt'] };

function withoutText(license) {
  const files = TEXTS[license] ?? [];
  const said = `The package says: ${license}. It brings no text of the licence.`;
  const texts = files.map((file) =>
    readFileSync(path.join(ROOT, 'scripts/licences', file), 'utf8').trimEnd(),
  );
  return [said, ...texts].join('\n\n');
}

/** The licence texts of some packages as one text. */
export function licenceTexts(packages) {
  return packages
    .map(({ name, version, license, folder }) => {
      const file = readdirSync(folder).find((entry) => /^(licen[cs]e|copying)(\.|$)/i.test(entry));
      const text = file ? readFileSync(path.join(folder, file), 'utf8').trim() : withoutText(license);
      return `${name} ${version} (${license})\n\n${text}\n`;
    })
    .join(`\n${'-'.repeat(80)}\n\n`);
}
