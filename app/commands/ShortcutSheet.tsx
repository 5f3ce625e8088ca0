import { useState } from 'react';
import { Button, Dialog } from '@/ui';
import { KeyButton, KeyConflictNote, type KeyConflict } from './KeyButton';
import { isCustom, setKeys, useShortcuts } from './runtime';

/** All shortcuts; each can be changed by pressing other keys. */
export function ShortcutSheet({ open, onClose }: { open: boolean; onClose(): void }) {
  const [conflict, setConflict] = useState<KeyConflict | null>(null);
  const commands = useShortcuts();
  const groups = [...new Set(commands.map(({ group }) => group))];
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="Shortcuts"
      description="Click a shortcut and press the keys you want instead. B, held, always plays as played."
    >
      {conflict && <KeyConflictNote conflict={conflict} onSettled={() => setConflict(null)} />}
      <div className="-mr-3 overflow-y-auto pr-3">
        {groups.map((name) => (
          <section key={name}>
            <h3 className="mt-3 mb-1 font-semibold">{name}</h3>
            {commands
              .filter(({ group }) => group === name)
              .map(({ id, title }) => (
                <div key={id} className="flex items-center justify-between border-b border-rule py-0.5">
                  <span>{title}</span>
                  <span className="flex gap-1">
                    {isCustom(id) && (
                      <Button look="quiet" className="h-6" onClick={() => setKeys(id, null)}>
                        reset
                      </Button>
                    )}
                    <KeyButton id={id} title={title} onConflict={setConflict} />
                  </span>
                </div>
              ))}
          </section>
        ))}
      </div>
    </Dialog>
  );
}
