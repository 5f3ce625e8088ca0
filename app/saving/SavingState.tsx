import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { useAppSelector } from '@/state/store';
import { storage, workspace } from '@/saving/workspace';
import { Button } from '@/ui';
import { attempt } from '@/ui/attempt';

/** Whether the work is safe, in words. */
export function SavingState() {
  const saving = useAppSelector((state) => state.session.saving);
  const mayWrite = useAppSelector((state) => state.session.mayWrite);
  const id = useAppSelector((state) => state.session.work?.document.id);
  const failed = saving.state === 'failed';
  const now = useNow(failed ? 1000 : 5000);
  if (saving.state === 'failed') {
    const seconds = saving.retryAt === null ? null : Math.max(0, Math.ceil((saving.retryAt - now) / 1000));
    return (
      <span className="flex min-w-0 items-center gap-2 text-quiet font-semibold text-ink">
        <span className="max-w-96 truncate" role="alert" title={saving.message}>
          {mayWrite && 'Not saved. '}
          {saving.message}
        </span>
        {seconds !== null && (
          <Button
            title={`Tried again by itself in ${seconds} s; until then the work is kept in this tab.`}
            onClick={() => id !== undefined && storage.saver.retry(id)}
          >
            Save now <span className="w-7 text-right text-ink-2">{seconds} s</span>
          </Button>
        )}
        {seconds === null && mayWrite && <KeepCopy />}
      </span>
    );
  }
  if (!mayWrite) return <span className="text-quiet text-ink-2">read only</span>;
  return (
    // As wide whatever it says, so that what stands beside it is not moved away from under a pointer.
    <span
      className="w-30 min-w-20 shrink-[6] truncate text-quiet text-ink-2 max-lg:w-auto max-lg:min-w-0 max-sm:max-w-10"
      role="status"
      data-testid="saving"
      data-state={saving.state}
    >
      {saving.state === 'waiting'
        ? 'saving'
        : `saved ${agoInWords(Math.max(0, Math.max(now, saving.at) - saving.at))}`}
    </span>
  );
}

/** For a session that can no longer be saved under its own name. */
function KeepCopy() {
  const navigate = useNavigate();
  return (
    <Button
      onClick={() =>
        attempt(async () => {
          const id = await workspace.keepCopy(crypto.randomUUID());
          if (id !== null) await navigate(`/s/${id}`);
        })
      }
    >
      Keep as a copy
    </Button>
  );
}

function useNow(everyMs: number): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return now;
}

/** A span of time as people say it. */
export function agoInWords(ms: number): string {
  const minutes = Math.round(ms / 60000);
  if (ms < 45000) return 'just now';
  if (minutes < 60) return minutes <= 1 ? 'a minute ago' : `${minutes} minutes ago`;
  const hours = Math.round(minutes / 60);
  if (hours < 24) return hours === 1 ? 'an hour ago' : `${hours} hours ago`;
  const days = Math.round(hours / 24);
  return days === 1 ? 'yesterday' : `${days} days ago`;
}
