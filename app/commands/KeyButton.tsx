import { useState } from 'react';
import { Button } from '@/ui';
import { keyName, showKey } from './keys';
import { allCommands, commandOfKey, keysOf, setKeys, useShortcuts } from './runtime';

const titleOf = (id: string) => allCommands().find((command) => command.id === id)?.title ?? id;

/** A key that was asked for a command while another has it. */
export interface KeyConflict {
  id: string;
  key: string;
  other: string;
}

interface KeyButtonProps {
  id: string;
  title: string;
  onConflict(conflict: KeyConflict): void;
}

/** The keys of a command; after a click the next keys pressed become its own. */
export function KeyButton({ id, title, onConflict }: KeyButtonProps) {
  useShortcuts();
  const [asking, setAsking] = useState(false);
  return (
    <button
      type="button"
      aria-label={`Shortcut for ${title}`}
      onClick={() => setAsking(true)}
      onBlur={() => setAsking(false)}
      onKeyDown={(event) => {
        if (!asking || ['Shift', 'Control', 'Alt', 'Meta', 'Tab'].includes(event.key)) return;
        event.preventDefault();
        event.stopPropagation();
        setAsking(false);
        const key = keyName(event.nativeEvent);
        const other = commandOfKey(key, id);
        if (other) onConflict({ id, key, other });
        else setKeys(id, [key]);
      }}
      className="min-w-20 shrink-0 rounded-small border border-rule px-2 text-right text-ink-2 hover:border-edge"
    >
      {asking ? 'press keys' : keysOf(id).map(showKey).join(', ') || 'add shortcut'}
    </button>
  );
}

/** Says that a key is taken, and lets a person give it to the other command or leave it. */
export function KeyConflictNote({ conflict, onSettled }: { conflict: KeyConflict; onSettled(): void }) {
  return (
    <div role="alert" className="flex items-center gap-2 border border-ink bg-sheet px-3 py-1.5">
      <span className="grow">
        {showKey(conflict.key)} already does “{titleOf(conflict.other)}”.
      </span>
      <Button
        onClick={() => {
          setKeys(
            conflict.other,
            keysOf(conflict.other).filter((key) => key !== conflict.key),
          );
          setKeys(conflict.id, [conflict.key]);
          onSettled();
        }}
      >
        Take it
      </Button>
      <Button look="quiet" onClick={onSettled}>
        Leave it
      </Button>
    </div>
  );
}
