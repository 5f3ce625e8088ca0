import { useEffect } from 'react';
import { useBlocker } from 'react-router';
import { useAppSelector } from '@/state/store';
import { storage } from '@/saving/workspace';
import { Button, Dialog } from '@/ui';
import { useLeavingQuestion } from './leaving';

/** Asks before a session is left whose newest changes could not be saved, or a place where something is under way. */
export function LeavingUnsaved({ sessionId }: { sessionId: string }) {
  const saving = useAppSelector((state) => state.session.saving);
  const mayWrite = useAppSelector((state) => state.session.mayWrite);
  // A tab that only looks on has nothing of its own to lose.
  const failed = mayWrite && saving.state === 'failed';
  const question = useLeavingQuestion();
  const blocker = useBlocker(({ currentLocation, nextLocation }) =>
    question
      ? currentLocation.pathname !== nextLocation.pathname
      : failed && !nextLocation.pathname.startsWith(`/s/${sessionId}`),
  );
  // Saved meanwhile: nothing is left to ask.
  useEffect(() => {
    if (blocker.state === 'blocked' && !failed && !question) blocker.proceed();
  }, [blocker, failed, question]);
  const stay = () => blocker.reset?.();
  if (question)
    return (
      <Dialog
        open={blocker.state === 'blocked'}
        onClose={stay}
        title={question.title}
        description={question.text}
      >
        <div className="flex justify-end gap-2">
          <Button onClick={() => void question.onLeave().then(() => blocker.proceed?.())}>
            {question.leave}
          </Button>
          <Button look="main" onClick={stay}>
            {question.stay}
          </Button>
        </div>
      </Dialog>
    );
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
