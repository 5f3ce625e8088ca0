import { sentenceOf } from '@ordle/core';
import { useEffect, useState } from 'react';
import { Link, Outlet, useParams } from 'react-router';
import { selectDocument } from '@/state/sessionSlice';
import { useAppSelector } from '@/state/store';
import { closeSession, openSession } from '@/state/workspace';
import { Rail } from './Rail';
import { TopBar } from './TopBar';
import { useSessionCommands } from './useSessionCommands';
import { Wordmark } from './Wordmark';

/** Opens the session of the address and puts its places into the frame; says plainly when that is not possible. */
export function SessionFrame() {
  const { id = '' } = useParams();
  const [fault, setFault] = useState<{ id: string; message: string } | null>(null);
  const error = fault?.id === id ? fault.message : null;
  const openId = useAppSelector((state) => selectDocument(state)?.id);
  const mayWrite = useAppSelector((state) => state.session.mayWrite);
  const name = useAppSelector((state) => selectDocument(state)?.name);
  useSessionCommands(id);

  useEffect(() => {
    openSession(id).catch((problem: unknown) => setFault({ id, message: sentenceOf(problem) }));
    return closeSession;
  }, [id]);
  useEffect(() => {
    if (name) document.title = `${name} · Ordle`;
    return () => void (document.title = 'Ordle');
  }, [name]);

  if (error !== null) {
    return (
      <main className="flex h-full flex-col items-center justify-center gap-4 p-8 text-center">
        <Wordmark />
        <p role="alert" className="max-w-md">
          {error}
        </p>
        <Link to="/" className="underline">
          Back to the shelf
        </Link>
      </main>
    );
  }
  if (openId !== id) return <main className="p-8 text-ink-2">Opening the session ...</main>;
  return (
    <div className="flex h-full flex-col">
      <TopBar />
      {!mayWrite && (
        <p role="status" className="border-b border-rule bg-accent-soft px-4 py-1.5">
          This session is open in another tab, so here you can look and listen only. It becomes yours to
          change as soon as the other tab lets it go.
        </p>
      )}
      <div className="flex min-h-0 grow">
        <Rail sessionId={id} />
        <Outlet />
      </div>
    </div>
  );
}
