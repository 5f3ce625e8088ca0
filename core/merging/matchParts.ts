/** What a part is known by when files are merged. */
export interface KnownPart {
  name: string;
  /** 1-16; 0 for a part of none, which never goes with one of some. */
  channel: number;
}

/** A part of the merged file: the index of the part each file has for it, or null where it has none. */
export type MatchedPart = (number | null)[];

/**
 * Which parts of several files belong together: those of one name and channel, then what is left by order of
 * appearance; a part without a counterpart stands alone. `files` lists the parts of each file; the outcome is in the
 * order of the first file's parts, then of those that came anew.
 */
export function matchParts(files: readonly (readonly KnownPart[])[]): MatchedPart[] {
  const matched: (KnownPart & { members: MatchedPart })[] = [];
  files.forEach((parts, file) => {
    const left = new Set(parts.keys());
    const join = (group: { members: MatchedPart }, part: number) => {
      group.members[file] = part;
      left.delete(part);
    };
    const isFree = ({ members }: { members: MatchedPart }) => members[file] === null;
    for (const group of matched) {
      group.members.push(null);
      const same = [...left].find(
        (part) => parts[part].name === group.name && parts[part].channel === group.channel,
      );
      if (same !== undefined) join(group, same);
    }
    for (const group of matched.filter(isFree)) {
      const first = [...left].find((part) => (parts[part].channel === 0) === (group.channel === 0));
      if (first !== undefined) join(group, first);
    }
    for (const part of [...left])
      matched.push({ ...parts[part], members: [...new Array<null>(file).fill(null), part] });
  });
  return matched.map(({ members }) => members);
}
