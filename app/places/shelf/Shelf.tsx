import { sentenceOf } from '@ordle/core';
import { useCallback, useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { offerDemoOnce, openDemo } from '@/files/demo';
import { useImport } from '@/files/ImportProvider';
import { newSession } from '@/files/newSession';
import { ThemeButton } from '@/ui/ThemeButton';
import { beginTour } from '@/ui/tourStore';
import { Wordmark } from '@/ui/Wordmark';
import { storage } from '@/saving/workspace';
import { onSessionsChanged } from '@/storage/changes';
import type { DeletedSummary } from '@/storage/createStorage';
import { openingFault } from '@/storage/database';
import type { SessionSummary } from '@/storage/summary';
import { storageUse, tidyNowAndThen } from '@/storage/upkeep';
import { Button, MessagesRoom } from '@/ui';
import { BackUp } from './BackUp';
import { DeletedSessions } from './DeletedSessions';
import { Sessions } from './Sessions';

/**
 * Milliseconds within which several changes make the shelf look through the sessions once: many files may be coming
 * in.
 */
const REFRESH_MS = 250;

/** The sessions kept in this browser, and the ways to bring in more. */
export function Shelf() {
  useEffect(() => {
    document.title = 'Shelf · Ordle';
    return () => void (document.title = 'Ordle');
  }, []);
  const [sessions, setSessions] = useState<SessionSummary[] | null>(null);
  const [deleted, setDeleted] = useState<DeletedSummary[]>([]);
  const [now, setNow] = useState(() => Date.now());
  const [busy, setBusy] = useState(false);
  const [use, setUse] = useState<{ used: number; quota: number } | null>(null);
  const { pickFiles } = useImport();
  const navigate = useNavigate();

  const refresh = useCallback(() => {
    Promise.all([storage.list(), storage.listDeleted()]).then(
      ([list, gone]) => {
        setSessions(list);
        setDeleted(gone);
        setNow(Date.now());
      },
      (error: unknown) => {
        toast(sentenceOf(error));
        setSessions([]);
      },
    );
    void storageUse().then(setUse);
  }, []);

  useEffect(() => {
    refresh();
    void offerDemoOnce().then(
      (made) => made && refresh(),
      (error: unknown) => toast(sentenceOf(error)),
    );
    void tidyNowAndThen(storage);
    let timer: ReturnType<typeof setTimeout> | null = null;
    const stop = onSessionsChanged(() => {
      timer ??= setTimeout(() => {
        timer = null;
        refresh();
      }, REFRESH_MS);
    });
    return () => {
      stop();
      if (timer) clearTimeout(timer);
    };
  }, [refresh]);
  const fault = openingFault();

  const go = async (pathOf: () => Promise<string>) => {
    setBusy(true);
    try {
      navigate(await pathOf());
    } catch (error) {
      toast(sentenceOf(error));
    } finally {
      setBusy(false);
    }
  };
  const demo = () => {
    beginTour();
    return go(async () => `/s/${await openDemo()}`);
  };
  const begin = () => go(async () => `/s/${await newSession()}/record`);

  return (
    <div className="flex h-full flex-col">
      <header className="flex h-10 shrink-0 items-center gap-4 border-b border-rule px-3">
        <Wordmark />
        <MessagesRoom />
        <ThemeButton />
      </header>
      <main className="mx-auto flex w-full max-w-4xl grow flex-col gap-5 overflow-y-auto px-6 py-6 max-sm:px-3">
        <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-3">
          <div>
            <h1 className="font-serif text-2xl font-semibold">Shelf</h1>
            <p className="mt-1 text-ink-2">
              The sessions kept in this browser. Drop Standard MIDI Files anywhere; each becomes a session.
            </p>
          </div>
          <div className="flex flex-wrap gap-2">
            <Button onClick={() => void demo()} disabled={busy}>
              Open the demo
            </Button>
            <Button
              onClick={() => void begin()}
              disabled={busy}
              title="An empty session, to play something in"
            >
              New session
            </Button>
            <Button
              onClick={() => void navigate('/many')}
              title="A recipe, or what is suggested for each, on many files at once"
            >
              Clean many
            </Button>
            <Button look="main" onClick={pickFiles}>
              Import files
            </Button>
          </div>
        </div>
        {sessions !== null && fault !== null && (
          <p role="alert" className="border border-ink bg-sheet px-4 py-2">
            {fault.message}
          </p>
        )}
        {sessions === null && <p className="text-ink-2">Looking through the shelf ...</p>}
        {sessions?.length === 0 && <EmptyShelf />}
        {sessions !== null && sessions.length > 0 && <Sessions sessions={sessions} now={now} />}
        {deleted.length > 0 && <DeletedSessions sessions={deleted} now={now} />}
        <div className="mt-auto">{sessions !== null && <BackUp sessions={sessions} />}</div>
        <p className="flex flex-wrap justify-between gap-4 text-quiet text-ink-2">
          <span>
            {use && `Using ${megabytes(use.used)} of the ${megabytes(use.quota)} allowed by this browser.`}
          </span>
          <Link to="/guide" className="ml-auto underline hover:text-ink">
            Guide
          </Link>
          <a href="/licences.txt" className="underline hover:text-ink">
            Licences
          </a>
        </p>
      </main>
    </div>
  );
}

function megabytes(bytes: number): string {
  return bytes > 2e9 ? `${(bytes / 1e9).toFixed(1)} GB` : `${(bytes / 1e6).toFixed(1)} MB`;
}

function EmptyShelf() {
  return (
    <div className="border border-dashed border-rule-strong px-8 py-12">
      <h2 className="font-serif text-lg font-semibold">Nothing here yet</h2>
      <p className="mt-2 max-w-lg">
        Import a recorded performance as a Standard MIDI File (.mid), or open the demo: music for a harbour
        museum, played by people who drag, rush and strike twice.
      </p>
      <p className="mt-2 max-w-lg text-ink-2">
        What was played is never changed. Every clean-up is a step that can be heard, changed, switched off or
        removed later.
      </p>
    </div>
  );
}
