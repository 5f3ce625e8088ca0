import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { showKey } from './keys';
import type { CommandId } from './command';
import { canRun, keysOf, run, useShortcuts } from './runtime';

interface PaletteProps {
  open: boolean;
  onClose(): void;
  /** More to find: sessions' parts and the like. */
  extra: readonly { group: string; title: string; run(): void }[];
}

/** Finds any action by its words. */
export function Palette({ open, onClose, extra }: PaletteProps) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-24 left-1/2 z-50 w-[34rem] max-w-[92vw] -translate-x-1/2 border border-rule-strong bg-sheet"
        >
          <Dialog.Title className="sr-only">Find an action</Dialog.Title>
          <ActionList onClose={onClose} extra={extra} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** What the palette offers, gathered only while it is open. */
function ActionList({ onClose, extra }: Omit<PaletteProps, 'open'>) {
  const pick = (act: () => void) => {
    onClose();
    // After the palette is gone, so that focus is back where the action expects it.
    setTimeout(act, 0);
  };
  const offered = useShortcuts().filter(({ id }) => id !== 'palette' && canRun(id));
  const groups = [...new Set(offered.map(({ group }) => group))];
  const extraGroups = [...new Set(extra.map(({ group }) => group))];
  return (
    <Command label="Find an action" className="flex flex-col">
      <Command.Input
        autoFocus
        placeholder="Find an action"
        className="border-b border-rule bg-transparent px-4 py-3 outline-none placeholder:text-ink-3"
      />
      <Command.List className="max-h-96 overflow-y-auto p-1.5">
        <Command.Empty className="px-3 py-4 text-ink-2">Nothing is called that.</Command.Empty>
        {groups.map((name) => (
          <Command.Group
            key={name}
            heading={name}
            className="[&_[cmdk-group-heading]]:px-2.5 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-quiet [&_[cmdk-group-heading]]:text-ink-2"
          >
            {offered
              .filter(({ group }) => group === name)
              .map(({ id, title }) => (
                <Command.Item
                  key={id}
                  value={`${title} ${name}`}
                  onSelect={() => pick(() => run(id as CommandId))}
                  className="flex cursor-pointer justify-between px-2.5 py-1 data-[selected=true]:bg-well"
                >
                  {title}
                  <kbd className="font-sans text-quiet text-ink-2">{keysOf(id).map(showKey).join(', ')}</kbd>
                </Command.Item>
              ))}
          </Command.Group>
        ))}
        {extraGroups.map((name) => (
          <Command.Group
            key={name}
            heading={name}
            className="[&_[cmdk-group-heading]]:px-2.5 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-quiet [&_[cmdk-group-heading]]:text-ink-2"
          >
            {extra
              .filter(({ group }) => group === name)
              .map((entry, index) => (
                <Command.Item
                  key={index}
                  value={`${entry.title} ${name} ${index}`}
                  onSelect={() => pick(entry.run)}
                  className="cursor-pointer px-2.5 py-1 data-[selected=true]:bg-well"
                >
                  {entry.title}
                </Command.Item>
              ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command>
  );
}
