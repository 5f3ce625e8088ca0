import { sentenceOf } from '@ordle/core';
import { Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { agoInWords } from '@/shell/SavingState';
import { deleteSession, duplicateSession, renameSession, type SessionSummary } from '@/storage/sessions';
import { Button, Menu } from '@/ui';

/** One session of the shelf. */
export function SessionRow({ session, now }: { session: SessionSummary; now: number }) {
  const [draft, setDraft] = useState<string | null>(null);
  const attempt = (work: Promise<void>) => void work.catch((error: unknown) => toast(sentenceOf(error)));

  const rename = () => {
    const name = draft?.trim().slice(0, 200);
    setDraft(null);
    if (name && name !== session.name) attempt(renameSession(session.id, name));
  };

  const remove = async () => {
    const bringBack = await deleteSession(session.id);
    toast(`“${session.name}” was deleted.`, {
      duration: 12000,
      action: { label: 'Undo', onClick: () => attempt(bringBack()) },
    });
  };

  return (
    <li className="flex h-13 items-center gap-4 border-b border-rule px-2 hover:bg-sheet">
      {draft === null ? (
        <Link
          to={`/s/${session.id}`}
          className="grow rounded-small font-serif text-[1.05rem] font-semibold hover:text-accent"
        >
          {session.name}
        </Link>
      ) : (
        <input
          aria-label="New name"
          autoFocus
          value={draft}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={rename}
          onKeyDown={(event) => {
            if (event.key === 'Enter') rename();
            if (event.key === 'Escape') setDraft(null);
          }}
          className="grow rounded-small border border-rule-strong bg-sheet px-1 font-serif text-[1.05rem] font-semibold"
        />
      )}
      <span className="w-20 text-right text-ink-2">
        {session.parts === 1 ? '1 part' : `${session.parts} parts`}
      </span>
      <span className="w-28 text-right text-ink-2">{session.notes.toLocaleString('en')} notes</span>
      <span className="w-32 text-right text-ink-2">{agoInWords(Math.max(0, now - session.changedAt))}</span>
      <Menu
        trigger={
          <Button look="quiet" aria-label={`More for ${session.name}`} className="w-8 justify-center px-0">
            <Ellipsis size={16} aria-hidden="true" />
          </Button>
        }
        items={[
          { label: 'Rename', onSelect: () => setTimeout(() => setDraft(session.name), 60) },
          { label: 'Duplicate', onSelect: () => attempt(duplicateSession(session.id, crypto.randomUUID())) },
          { label: 'Delete', onSelect: () => attempt(remove()) },
        ]}
      />
    </li>
  );
}
