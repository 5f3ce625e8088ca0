import type { MenuItem } from '@/ui';
import type { CommandId } from './command';
import { showKey } from './keys';
import { allCommands, canRun, keysOf, run } from './runtime';

/**
 * Commands as a menu offers them, with their keys: those that can be done just now. Groups are parted by lines; one in
 * which nothing can be done is left out.
 */
export function commandItems(...groups: readonly (readonly CommandId[])[]): (MenuItem | null)[] {
  return inGroups(
    groups.map((ids) =>
      ids.filter(canRun).map((id): MenuItem => ({
        label: allCommands().find((command) => command.id === id)?.title ?? id,
        hint: keysOf(id).map(showKey).at(0),
        onSelect: () => void run(id),
      })),
    ),
  );
}

/** Groups of items with lines between those that are not empty. */
export const inGroups = (groups: readonly (readonly (MenuItem | null)[])[]): (MenuItem | null)[] =>
  groups.filter(({ length }) => length > 0).flatMap((group, at) => (at === 0 ? group : [null, ...group]));
