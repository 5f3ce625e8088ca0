import { cleanedName } from '@ordle/core';

/** A name, with a number where it was taken before. No name is given twice. */
export function freeName(wanted: string, taken: Set<string>): string {
  const dot = wanted.lastIndexOf('.');
  const [stem, ending] =
    dot > wanted.lastIndexOf('/') ? [wanted.slice(0, dot), wanted.slice(dot)] : [wanted, ''];
  let name = wanted;
  for (let count = 2; taken.has(name.toLowerCase()); count++) name = `${stem} ${count}${ending}`;
  taken.add(name.toLowerCase());
  return name;
}

/** What a file that is cleaned is called afterwards, in its folder. */
export const resultPath = (path: string, taken: Set<string>): string => freeName(cleanedName(path), taken);
