import type { Assembly } from '../assembly';
import type { Material } from '../model';
import type { Part } from '../session';
import type { Timeline } from '../time';

/** What an assembly depends on beside the layers it is kept under. */
interface Kept {
  timeline: Timeline;
  made: Pick<Part, 'doubles' | 'seams' | 'lanes' | 'lockedTo' | 'sound' | 'rechannel' | 'channel'>;
  sources: ReadonlyMap<string, Material>;
  assembly: Assembly;
}

const EQUAL_BY_CONTENT = ['doubles', 'seams', 'sound', 'lanes'] as const;
const EQUAL_BY_VALUE = ['lockedTo', 'rechannel', 'channel'] as const;

/** Assemblies by the identity of a part's layers, for as long as those and everything else they were made from stay. */
export function createAssemblies() {
  const known = new WeakMap<Part['layers'], Kept[]>();
  return {
    find(
      part: Part,
      timeline: Timeline,
      sources: ReadonlyMap<string, Material>,
      make: () => Assembly,
    ): Assembly {
      const list = known.get(part.layers) ?? [];
      const found = list.find(
        (kept) => kept.timeline === timeline && isMadeAlike(kept.made, part) && isSame(kept.sources, sources),
      );
      if (found) return found.assembly;
      const assembly = make();
      const { doubles, seams, lanes, lockedTo, sound, rechannel, channel } = part;
      const made = { doubles, seams, lanes, lockedTo, sound, rechannel, channel };
      // The two passes may see two cleanings of a source, so two are kept.
      known.set(part.layers, [{ timeline, made, sources, assembly }, ...list.slice(0, 1)]);
      return assembly;
    },
  };
}

function isMadeAlike(made: Kept['made'], part: Part): boolean {
  return (
    EQUAL_BY_VALUE.every((key) => made[key] === part[key]) &&
    EQUAL_BY_CONTENT.every(
      (key) => made[key] === part[key] || JSON.stringify(made[key]) === JSON.stringify(part[key]),
    )
  );
}

function isSame(a: ReadonlyMap<string, Material>, b: ReadonlyMap<string, Material>): boolean {
  return a.size === b.size && [...a].every(([id, material]) => b.get(id) === material);
}
