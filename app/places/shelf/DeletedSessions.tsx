import { attempt } from '@/ui/attempt';
import { agoInWords } from '@/saving/SavingState';
import { storage } from '@/saving/workspace';
import type { DeletedSummary } from '@/storage/createStorage';
import { Button } from '@/ui';

/** Deleted sessions, for as long as they can be brought back; folded until somebody wants them. */
export function DeletedSessions({ sessions, now }: { sessions: readonly DeletedSummary[]; now: number }) {
  return (
    <details>
      <summary className="cursor-pointer text-ink-2 hover:text-ink">
        Deleted, kept for a week <span className="text-quiet">({sessions.length})</span>
      </summary>
      <ul aria-label="Deleted sessions" className="mt-2 border-t border-rule">
        {sessions.map(({ id, name, deletedAt }) => (
          <li key={id} className="flex h-9 items-center gap-3 border-b border-rule px-2">
            <span className="min-w-0 grow truncate font-serif text-ink-2">{name}</span>
            <span className="text-quiet text-ink-2">deleted {agoInWords(Math.max(0, now - deletedAt))}</span>
            <Button onClick={() => attempt(() => storage.bringBack(id))}>Bring back</Button>
            <Button onClick={() => attempt(() => storage.removeForGood(id))}>Delete for good</Button>
          </li>
        ))}
      </ul>
    </details>
  );
}
