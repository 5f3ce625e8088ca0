import { OrdleError, sentenceOf } from '@ordle/core';
import { useEffect, useState, useSyncExternalStore } from 'react';
import { Link, Outlet, useLocation, useParams } from 'react-router';
import { selectDocument } from '@/state/sessionSlice';
import { useAppSelector } from '@/state/store';
import { workspace } from '@/saving/workspace';
import { BrokenOffBanner } from '@/panels/recording/BrokenOffBanner';
import { onOpeningFault, openingFault } from '@/storage/database';
import { NeededPartDialog } from './NeededPartDialog';
import { NewMarkerDialog } from './NewMarkerDialog';
import { LeavingUnsaved } from '@/saving/LeavingUnsaved';
import { RescueButton } from '@/files/RescueButton';
import { LastAction } from './LastAction';
import { PLACES } from './PlacesNav';
import { TopBar } from './TopBar';
import { Tour } from './Tour';
import { useSessionCommands } from './useSessionCommands';
import { Wordmark } from '@/ui/Wordmark';

/** Opens the session of the address and puts its places into the frame; says plainly when that is not possible. */
export function SessionFrame() {
  const { id = '' } = useParams();
  const [fault, setFault] = useState<{ id: string; error: unknown } | null>(null);
  const session = useAppSelector(selectDocument);
  const openId = session?.id;
  const isOutdated = useSyncExternalStore(onOpeningFault, openingFault)?.code === 'database-newer';
  const mayWrite = useAppSelector((state) => state.session.mayWrite);
  const name = session?.name;
  useSessionCommands(id);
  const { pathname } = useLocation();
  const place = pathname.endsWith('/clean-up')
    ? 'Suggested clean-up'
    : (PLACES.find(({ path }) => path(id) === pathname)?.label ?? 'Session');

  useEffect(() => {
    workspace.open(id).catch((error: unknown) => setFault({ id, error }));
    return () => workspace.close();
  }, [id]);
  useEffect(() => {
    if (name) document.title = `${place} · ${name} · Ordle`;
    return () => void (document.title = 'Ordle');
  }, [name, place]);

  if (fault?.id === id) return <CannotOpen id={id} error={fault.error} />;
  if (openId !== id) return <main className="p-8 text-ink-2">Opening the session ...</main>;
  return (
    <div className="flex h-full flex-col">
      <LastAction />
      <TopBar sessionId={id}>
        <a
          href="#music"
          onClick={(event) => {
            event.preventDefault();
            const skipTo = ['main canvas[tabindex]', 'main [tabindex="0"]', 'main button, main a'];
            for (const each of skipTo) {
              const found = document.querySelector<HTMLElement>(each);
              if (found) return found.focus();
            }
          }}
          className="sr-only z-50 bg-ink px-3 py-1 text-sheet focus:not-sr-only focus:absolute focus:top-1 focus:left-1"
        >
          Skip to the music
        </a>
        <h1 className="sr-only">
          {place}: {name}
        </h1>
      </TopBar>
      <LeavingUnsaved sessionId={id} />
      <Tour />
      {session && <BrokenOffBanner session={session} mayWrite={mayWrite} />}
      <NeededPartDialog />
      <NewMarkerDialog />
      {!mayWrite && (
        <p role="status" className="border-b border-rule bg-well px-4 py-1.5">
          {isOutdated
            ? 'Nothing can be changed here any more. Everything up to now is stored; reload the page to go on.'
            : 'This session is open in another tab, so here you can look and listen only. It becomes yours to change as soon as the other tab lets it go.'}
        </p>
      )}
      <div className="flex min-h-0 grow">
        <Outlet />
      </div>
    </div>
  );
}

/** Why a session cannot be opened, and what can still be had of it. */
function CannotOpen({ id, error }: { id: string; error: unknown }) {
  const isDamaged = error instanceof OrdleError && error.code === 'session-unreadable';
  return (
    <main className="flex h-full flex-col items-center justify-center gap-4 p-8 text-center">
      <Wordmark />
      <p role="alert" className="max-w-md">
        {sentenceOf(error)}
      </p>
      {isDamaged && <RescueButton sessionId={id} name="session" />}
      <Link to="/" className="underline">
        Back to the shelf
      </Link>
    </main>
  );
}
