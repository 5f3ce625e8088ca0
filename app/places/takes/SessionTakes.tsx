import { listOf, sentenceOf, type Session } from '@ordle/core';
import { useEffect, useState } from 'react';
import { storage } from '@/state/workspace';
import type { SessionSummary } from '@/storage/summary';
import { Button, Dialog, Select } from '@/ui';
import { counted } from '@/words/counts';

interface SessionTakesProps {
  /** The session that is open, which is not offered. */
  openId: string;
  onBring(from: Session, takes: Session['takes']['byId'][string][]): void;
  onClose(): void;
}

/** The performances of another session of the shelf, to be brought in as takes; they are shared, not copied. */
export function SessionTakes({ openId, onBring, onClose }: SessionTakesProps) {
  const [sessions, setSessions] = useState<SessionSummary[] | null>(null);
  const [from, setFrom] = useState<Session | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [error, setError] = useState<string | null>(null);
  useEffect(() => {
    let isAwaited = true;
    storage.list().then(
      (all) => isAwaited && setSessions(all.filter(({ id, broken }) => id !== openId && broken === null)),
      (reason: unknown) => isAwaited && setError(sentenceOf(reason)),
    );
    return () => {
      isAwaited = false;
    };
  }, [openId]);
  const look = (id: string) => {
    setChosen(new Set());
    storage.glance(id).then(
      (session) => {
        setFrom(session);
        setError(null);
      },
      (reason: unknown) => setError(sentenceOf(reason)),
    );
  };
  const takes = from ? listOf(from.takes).filter(({ noteCount }) => noteCount > 0) : [];
  const toggle = (id: string) =>
    setChosen((before) => {
      const next = new Set(before);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  return (
    <Dialog open title="Takes of another session" onClose={onClose}>
      <div className="flex flex-col gap-3">
        {sessions?.length === 0 && <p>There is no other session on the shelf.</p>}
        {sessions && sessions.length > 0 && (
          <Select label="Session" value={from?.id ?? ''} onChange={look}>
            <option value="" disabled>
              Which session?
            </option>
            {sessions.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </Select>
        )}
        {error !== null && (
          <p role="alert" className="font-semibold">
            {error}
          </p>
        )}
        {from && takes.length === 0 && <p>This session has no takes with notes.</p>}
        <ul aria-label="Takes of the session" className="max-h-72 overflow-y-auto">
          {takes.map((take) => (
            <li key={take.id}>
              <label className="flex h-7 items-center gap-2">
                <input
                  type="checkbox"
                  checked={chosen.has(take.id)}
                  onChange={() => toggle(take.id)}
                  className="h-3.5 w-3.5 accent-[var(--ink)]"
                />
                <span className="min-w-0 grow truncate">{take.name.trim() || 'without a name'}</span>
                <span className="text-ink-2">{counted(take.noteCount, 'note')}</span>
              </label>
            </li>
          ))}
        </ul>
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
            {chosen.size === 0 ? 'Bring in' : `Bring in ${counted(chosen.size, 'take')}`}
          </Button>
        </span>
      </div>
    </Dialog>
  );
}
