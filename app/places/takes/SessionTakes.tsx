import { listOf, type Session } from '@ordle/core';
import { useState } from 'react';
import { SessionChoice, TickList } from '@/panels/otherSession/SessionChoice';
import { useOtherSession } from '@/panels/otherSession/useOtherSession';
import { Button, Dialog } from '@/ui';
import { counted } from '@/words/counts';

interface SessionTakesProps {
  /** The session that is open, which is not offered. */
  openId: string;
  onBring(from: Session, takes: Session['takes']['byId'][string][]): void;
  onClose(): void;
}

/** The performances of another session of the shelf, to be brought in as takes; they are shared, not copied. */
export function SessionTakes({ openId, onBring, onClose }: SessionTakesProps) {
  const other = useOtherSession(openId);
  const { from } = other;
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const takes = from ? listOf(from.takes).filter(({ noteCount }) => noteCount > 0) : [];
  return (
    <Dialog open title="Takes of another session" onClose={onClose}>
      <div className="flex flex-col gap-3">
        <SessionChoice other={other} onLook={() => setChosen(new Set())} />
        {from && takes.length === 0 && <p>This session has no takes with notes.</p>}
        <TickList
          label="Takes of the session"
          chosen={chosen}
          onChosen={setChosen}
          items={takes.map(({ id, name, noteCount }) => ({
            id,
            name: name.trim() || 'without a name',
            words: counted(noteCount, 'note'),
          }))}
        />
        <span className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button
            look="main"
            disabled={chosen.size === 0}
            onClick={() => {
              if (from)
                onBring(
                  from,
                  takes.filter(({ id }) => chosen.has(id)),
                );
              onClose();
            }}
          >
            {chosen.size === 0 ? 'Copy' : `Copy ${counted(chosen.size, 'take')}`}
          </Button>
        </span>
      </div>
    </Dialog>
  );
}
