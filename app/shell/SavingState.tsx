import { useEffect, useState } from 'react';
import { useAppSelector } from '@/state/store';

/** Whether the work is safe, in words. */
export function SavingState() {
  const saving = useAppSelector((state) => state.session.saving);
  const mayWrite = useAppSelector((state) => state.session.mayWrite);
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 5000);
    return () => clearInterval(timer);
  }, []);
  if (!mayWrite) return <span className="text-quiet text-ink-2">read only</span>;
  if (saving.state === 'failed') {
    return (
      <span className="max-w-96 truncate text-quiet text-accent" role="alert" title={saving.message}>
        {saving.message}
      </span>
    );
  }
  return (
    <span className="text-quiet text-ink-2" role="status" data-testid="saving" data-state={saving.state}>
      {saving.state === 'waiting'
        ? 'saving'
        : `saved ${agoInWords(Math.max(0, Math.max(now, saving.at) - saving.at))}`}
    </span>
  );
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
