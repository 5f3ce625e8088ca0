import { keysOf, run, showKey, type CommandId } from '@/commands';
import { useOpenBench } from '@/music/useBench';
import type { View } from '@/state/viewSlice';
import { Button, Menu, type MenuItem } from '@/ui';

/** How what is dragged goes by the grid, in words. */
export const SNAPPINGS = [
  { value: 'steps', label: 'keep offset' },
  { value: 'line', label: 'onto the grid' },
  { value: 'off', label: 'free' },
] as const;
/** What is shown of the notes, in words. */
export const VERSIONS = [
  { value: 'both', label: 'both' },
  { value: 'cleaned', label: 'cleaned' },
  { value: 'played', label: 'as played' },
] as const;
const PASTES = [
  ['paste', 'Paste among what is there'],
  ['paste-replace', 'Paste in place of what is there'],
  ['paste-push', 'Paste and push the rest later'],
  ['paste-in-place', 'Paste where it was copied'],
] as const;

interface EditorMenuProps {
  /** Whether the bar has room for everything, and for most of it. */
  isWhole: boolean;
  hasMost: boolean;
  set(change: Partial<View>): void;
}

/** The ways to paste, with their keys, and what there is no room for in the bar. */
export function EditorMenu({ isWhole, hasMost, set }: EditorMenuProps) {
  const { view, mayWrite } = useOpenBench();
  const keys = (id: CommandId) => keysOf(id).map(showKey).join(', ');
  const command = (id: CommandId, label: string) => ({
    label,
    hint: keys(id),
    onSelect: () => void run(id),
  });
  const items: MenuItem[] = [
    ...PASTES.map(([id, label]) => ({
      label,
      hint: keys(id),
      disabled: !mayWrite,
      onSelect: () => void run(id),
    })),
    ...(hasMost
      ? []
      : [
          command('next-trouble', 'Next loose place'),
          command('previous-trouble', 'Previous loose place'),
          ...SNAPPINGS.map(({ value, label }) => ({
            label: `Snap ${label}`,
            checked: view.snap === value,
            onSelect: () => set({ snap: value }),
          })),
        ]),
    ...(isWhole
      ? []
      : [
          ...VERSIONS.map(({ value, label }) => ({
            label: `Show ${label}`,
            checked: view.show === value,
            onSelect: () => set({ show: value }),
          })),
          { label: 'Note list', checked: view.list, onSelect: () => set({ list: !view.list }) },
        ]),
  ];
  return (
    <Menu
      align="end"
      trigger={
        <Button disabled={isWhole && !mayWrite} className="h-6 shrink-0 px-1.5">
          {isWhole ? 'Paste ▾' : 'More ▾'}
        </Button>
      }
      items={items}
    />
  );
}
