import { sentenceOf, type Session } from '@ordle/core';
import { useEffect, useState } from 'react';
import { storage } from '@/saving/workspace';
import type { SessionSummary } from '@/storage/summary';

/**
 * Another session of the shelf that something is to come from: those there are, and the one that was picked, looked
 * into but not opened.
 */
export interface OtherSession {
  sessions: SessionSummary[] | null;
  from: Session | null;
  error: string | null;
  look(id: string): void;
}

export function useOtherSession(openId: string): OtherSession {
  const [sessions, setSessions] = useState<SessionSummary[] | null>(null);
  const [from, setFrom] = useState<Session | null>(null);
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
  return {
    sessions,
    from,
    error,
    look(id) {
      storage.glance(id).then(
        (session) => {
          setFrom(session);
          setError(null);
        },
        (reason: unknown) => setError(sentenceOf(reason)),
      );
    },
  };
}
