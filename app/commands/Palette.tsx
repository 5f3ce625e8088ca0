import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useMemo, useState } from 'react';
import { found, type Findable } from './find';
import { showKey } from './keys';
import { useShortcuts } from './runtime';

/** An entry of the palette. */
export type PaletteEntry = Findable & { run(): void };

interface PaletteProps {
  open: boolean;
  onClose(): void;
  /** What can be done just now, asked for while the palette is open. */
  entries(): readonly PaletteEntry[];
}

/** Finds anything by its words: places, actions, steps, settings, lanes, parts and help. */
export function Palette({ open, onClose, entries }: PaletteProps) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-24 left-1/2 z-50 w-[34rem] max-w-[92vw] -translate-x-1/2 border border-rule-strong bg-sheet short:top-2"
        >
          <Dialog.Title className="sr-only">Find an action</Dialog.Title>
          <List onClose={onClose} entries={entries} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Entries listed at most for what was typed. */
const MOST_FOUND = 40;

/** What the palette offers, gathered only while it is open. */
function List({ onClose, entries }: Omit<PaletteProps, 'open'>) {
  const [typed, setTyped] = useState('');
  // The keys of commands may be a person's own.
  const shortcuts = useShortcuts();
  // eslint-disable-next-line react-hooks/exhaustive-deps -- gathered once, and anew with other commands
  const all = useMemo(() => entries(), [shortcuts]);
  const pick = (act: () => void) => {
    onClose();
    // After the palette is gone, so that focus is back where the action expects it.
    setTimeout(act, 0);
  };
  const listed =
    typed.trim() === ''
      ? all.filter(({ group }) => !QUIET.has(group))
      : found(all, typed).slice(0, MOST_FOUND);
  const groups = typed.trim() === '' ? [...new Set(listed.map(({ group }) => group))] : [''];
  const item = (entry: PaletteEntry) => (
    <Command.Item
      key={entry.id}
      value={entry.id}
      onSelect={() => pick(entry.run)}
      className="flex min-h-6 cursor-pointer items-baseline justify-between gap-4 px-2.5 py-1 data-[selected=true]:bg-well pointer-coarse:min-h-11"
    >
      {entry.title}
      <span className="flex items-baseline gap-3 text-quiet whitespace-nowrap text-ink-2">
        {typed.trim() !== '' && entry.group}
        <kbd className="font-sans">{(entry.keys ?? []).map(showKey).join(', ')}</kbd>
      </span>
    </Command.Item>
  );
  return (
    <Command label="Find an action" shouldFilter={false} className="flex flex-col">
      <Command.Input
        autoFocus
        value={typed}
        onValueChange={setTyped}
        placeholder="Find an action"
        className="border-b border-rule bg-transparent px-4 py-3 outline-none placeholder:text-ink-3"
      />
      <Command.List className="max-h-[min(24rem,70vh)] overflow-y-auto p-1.5">
        <Command.Empty className="px-3 py-4 text-ink-2">No match.</Command.Empty>
        {groups.map((name) =>
          name === '' ? (
            listed.map(item)
          ) : (
            <Command.Group
              key={name}
              heading={name}
              className="[&_[cmdk-group-heading]]:px-2.5 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-quiet [&_[cmdk-group-heading]]:text-ink-2"
            >
              {listed.filter(({ group }) => group === name).map(item)}
            </Command.Group>
          ),
        )}
      </Command.List>
    </Command>
  );
}

/** Groups that are found by typing, and not listed before. */
const QUIET = new Set(['Settings', 'Lanes']);
