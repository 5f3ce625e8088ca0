import { useState } from 'react';
import { Button, Dialog } from '@/ui';
import { COMMANDS } from './catalogue';
import { keyName, showKey } from './keys';
import { commandOfKey, isCustom, keysOf, setKeys, useShortcuts } from './runtime';

const titleOf = (id: string) => COMMANDS.find((command) => command.id === id)?.title ?? id;

/** All shortcuts; each can be changed by pressing other keys. */
export function ShortcutSheet({ open, onClose }: { open: boolean; onClose(): void }) {
  useShortcuts();
  const [asking, setAsking] = useState<string | null>(null);
  const [conflict, setConflict] = useState<{ id: string; key: string; other: string } | null>(null);
  const groups = [...new Set(COMMANDS.map(({ group }) => group))];

  const take = (id: string, key: string) => {
    setAsking(null);
    const other = commandOfKey(key, id);
    if (other) setConflict({ id, key, other });
    else setKeys(id, [key]);
  };

  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="Shortcuts"
      description="Click a shortcut and press the keys you want instead. B, held, always plays as played."
    >
      {conflict && (
        <div role="alert" className="flex items-center gap-2 border border-accent bg-accent-soft px-3 py-1.5">
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
              setConflict(null);
            }}
          >
            Take it
          </Button>
          <Button look="quiet" onClick={() => setConflict(null)}>
            Leave it
          </Button>
        </div>
      )}
      <div className="-mr-3 overflow-y-auto pr-3">
        {groups.map((name) => (
          <section key={name}>
            <h3 className="mt-3 mb-1 font-semibold">{name}</h3>
            {COMMANDS.filter(({ group }) => group === name).map(({ id, title }) => (
              <div key={id} className="flex items-center justify-between border-b border-rule py-0.5">
                <span>{title}</span>
                <span className="flex gap-1">
                  {isCustom(id) && (
                    <Button look="quiet" className="h-6" onClick={() => setKeys(id, null)}>
                      put back
                    </Button>
                  )}
                  <button
                    type="button"
                    aria-label={`Shortcut for ${title}`}
                    onClick={() => setAsking(id)}
                    onBlur={() => setAsking(null)}
                    onKeyDown={(event) => {
                      if (asking !== id || ['Shift', 'Control', 'Alt', 'Meta', 'Tab'].includes(event.key))
                        return;
                      event.preventDefault();
                      event.stopPropagation();
                      take(id, keyName(event.nativeEvent));
                    }}
                    className="min-w-24 rounded-small border border-rule px-2 text-right text-ink-2 hover:border-rule-strong"
                  >
                    {asking === id ? 'press keys' : keysOf(id).map(showKey).join(', ') || 'none'}
                  </button>
                </span>
              </div>
            ))}
          </section>
        ))}
      </div>
    </Dialog>
  );
}
