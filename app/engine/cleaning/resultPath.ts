import { cleanedName } from '@ordle/core';

/** What a file that is cleaned is called afterwards, in its folder. No name is given twice. */
export function resultPath(path: string, taken: Set<string>): string {
  const wanted = cleanedName(path);
  const dot = wanted.lastIndexOf('.');
  const [stem, ending] =
    dot > wanted.lastIndexOf('/') ? [wanted.slice(0, dot), wanted.slice(dot)] : [wanted, ''];
  let name = wanted;
  for (let count = 2; taken.has(name.toLowerCase()); count++) name = `${stem} ${count}${ending}`;
  taken.add(name.toLowerCase());
  return name;
}
