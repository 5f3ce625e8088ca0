import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileFindings, readMidi } from '@ordle/core';
import { midiFilesBelow } from '../../core/testing/files';
import { FOLDERS } from '../others';
import JUDGEMENTS from './judgements.json';

/** What was decided of findings in files by others, each looked at: would an editor sign it? */
export interface Judged {
  /** Those that are listed: signed, refused, and not yet looked at. */
  signed: number;
  refused: number;
  unknown: string[];
  /** Those an editor would sign, and how many of them are listed. */
  wanted: number;
  found: number;
}

const nameOf = (file: string, kind: string, part: string, bar: number) => `${file} ${kind} ${part} ${bar}`;

/** The findings in the files that are installed, against what was decided of them (judgements.json). */
export function judgedFindings(): Judged {
  const decided = new Map(
    JUDGEMENTS.map(([file, kind, part, bar, isSigned]) => [
      nameOf(String(file), String(kind), String(part), Number(bar)),
      isSigned === true,
    ]),
  );
  const judged: Judged = { signed: 0, refused: 0, unknown: [], wanted: 0, found: 0 };
  const listed = new Set<string>();
  for (const [source, folder] of Object.entries(FOLDERS)) {
    if (!existsSync(folder)) continue;
    for (const file of midiFilesBelow(path.resolve(folder))) {
      const name = `${source}/${path.relative(path.resolve(folder), file)}`;
      for (const { kind, part, bar } of findingsIn(file)) listed.add(nameOf(name, kind, part, bar));
      for (const [key, isSigned] of decided) if (isSigned && key.startsWith(`${name} `)) judged.wanted++;
    }
  }
  for (const key of listed) {
    const isSigned = decided.get(key);
    if (isSigned === undefined) judged.unknown.push(key);
    else if (isSigned) judged.signed++;
    else judged.refused++;
  }
  judged.found = judged.signed;
  return judged;
}

function findingsIn(file: string): { kind: string; part: string; bar: number }[] {
  try {
    return fileFindings(readMidi(readFileSync(file)).file).findings;
  } catch {
    // Some of these files are broken on purpose.
    return [];
  }
}
