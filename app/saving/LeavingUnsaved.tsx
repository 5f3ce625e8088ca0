import { useEffect } from 'react';
import { useBlocker } from 'react-router';
import { useAppSelector } from '@/state/store';
import { storage } from '@/saving/workspace';
import { Button, Dialog } from '@/ui';

/** Asks before a session is left whose newest changes could not be saved. */
export function LeavingUnsaved({ sessionId }: { sessionId: string }) {
  const saving = useAppSelector((state) => state.session.saving);
  const mayWrite = useAppSelector((state) => state.session.mayWrite);
  // A tab that only looks on has nothing of its own to lose.
  const failed = mayWrite && saving.state === 'failed';
  const blocker = useBlocker(
    ({ nextLocation }) => failed && !nextLocation.pathname.startsWith(`/s/${sessionId}`),
  );
  // Saved meanwhile: nothing is left to ask.
  useEffect(() => {
    if (blocker.state === 'blocked' && !failed) blocker.proceed();
  }, [blocker, failed]);
  const stay = () => blocker.reset?.();
  return (
    <Dialog open={blocker.state === 'blocked'} onClose={stay} title="This session is not saved">
      <p>{saving.state === 'failed' ? saving.message : ''}</p>
      <p className="text-ink-2">
        If you leave, what is unsaved is kept in this tab, stands on the shelf as unsaved, and saving goes on
        being tried. Closing the tab would lose it.
      </p>
      <div className="flex justify-end gap-2">
        <Button onClick={() => blocker.proceed?.()}>Leave</Button>
        <Button onClick={() => storage.saver.retry(sessionId)}>Save now</Button>
        <Button look="main" onClick={stay}>
          Stay
        </Button>
      </div>
    </Dialog>
  );
}
