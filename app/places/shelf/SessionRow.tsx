import { Ellipsis } from 'lucide-react';
import { memo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { attempt } from '@/ui/attempt';
import { TimingPicture } from '@/panels/TimingPicture';
import { RescueButton } from '@/files/RescueButton';
import { storage } from '@/saving/workspace';
import type { SessionSummary } from '@/storage/summary';
import { Button, Menu, WithMenu, type MenuItem } from '@/ui';
import { counted, figures } from '@/words/counts';
import { removeSessions } from './removeSessions';
import { useTimingPicture } from './timingPictures';

interface SessionRowProps {
  session: SessionSummary;
  /** When it was last changed, in words. */
  ago: string;
  isSelected: boolean;
  /** Selects it or not; with `range` all from the row selected last. */
  onSelect(id: string, range: boolean): void;
}

/** One session of the shelf; rendered again only when something of it is another, as a shelf may hold hundreds. */
export const SessionRow = memo(function SessionRow({ session, ago, isSelected, onSelect }: SessionRowProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const { id, name, broken, unsaved } = session;
  const navigate = useNavigate();
  const row = useRef<HTMLLIElement>(null);
  const picture = useTimingPicture(id, session.changedAt, row);

  const rename = () => {
    const next = draft?.trim().slice(0, 200);
    setDraft(null);
    if (next && next !== name) attempt(() => storage.rename(id, next));
  };

  const items: MenuItem[] = [
    {
      label: 'Suggested clean-up',
      hint: 'What would be done to all parts, and why',
      disabled: broken !== null,
      onSelect: () => void navigate(`/s/${id}/clean-up`),
    },
    {
      label: 'Rename',
      disabled: broken !== null,
      onSelect: () => setTimeout(() => setDraft(name), 60),
    },
    {
      label: 'Duplicate',
      disabled: broken !== null,
      onSelect: () => attempt(() => storage.duplicate(id, crypto.randomUUID())),
    },
    { label: 'Delete', onSelect: () => attempt(() => removeSessions([session])) },
  ];
  return (
    <WithMenu
      items={() => [
        { label: 'Open', disabled: broken !== null, onSelect: () => void navigate(`/s/${id}`) },
        ...items,
        null,
        { label: isSelected ? 'Select no longer' : 'Select', onSelect: () => onSelect(id, false) },
      ]}
    >
      <li
        ref={row}
        className={`flex h-9 items-center gap-3 border-b border-rule pr-1 pl-2 ${isSelected ? 'bg-well' : 'hover:bg-sheet'}`}
      >
        <input
          type="checkbox"
          aria-label={`Select ${name}`}
          checked={isSelected}
          onChange={(event) => onSelect(id, (event.nativeEvent as MouseEvent).shiftKey)}
          className="h-3.5 w-3.5 shrink-0 accent-[var(--ink)]"
        />
        {broken !== null ? (
          <span className="flex min-w-0 grow items-center gap-3">
            <span className="truncate font-serif text-[1.05rem] font-semibold text-ink-2">{name}</span>
            <span className="shrink-0 text-quiet font-semibold text-ink">{broken}</span>
            <RescueButton sessionId={id} name={name} />
          </span>
        ) : draft === null ? (
          <span className="flex min-w-0 grow items-baseline gap-3">
            <Link
              to={`/s/${id}`}
              className="truncate rounded-small font-serif text-[1.05rem] font-semibold hover:underline"
            >
              {name}
            </Link>
            {unsaved !== null && (
              <span className="shrink-0 text-quiet font-semibold text-ink" title={unsaved}>
                not saved yet
              </span>
            )}
          </span>
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
            className="grow rounded-small border border-edge bg-sheet px-1 font-serif text-[1.05rem] font-semibold"
          />
        )}
        {broken === null && (
          <>
            <span className="w-20 shrink-0 narrow:hidden">
              {picture && <TimingPicture strip={picture} />}
            </span>
            <span className="w-20 shrink-0 text-right text-ink-2 max-sm:hidden">
              {counted(session.parts, 'part')}
            </span>
            <span className="w-28 shrink-0 text-right text-ink-2 narrow:hidden">
              {figures(session.notes)} notes
            </span>
          </>
        )}
        <span className="w-32 shrink-0 text-right text-ink-2 max-sm:w-20 max-sm:truncate">{ago}</span>
        <Menu
          trigger={
            <Button look="quiet" aria-label={`More for ${name}`} className="w-8 justify-center px-0">
              <Ellipsis size={16} aria-hidden="true" />
            </Button>
          }
          items={items}
        />
      </li>
    </WithMenu>
  );
}, isSame);

function isSame(before: SessionRowProps, after: SessionRowProps): boolean {
  const keys = Object.keys(after.session) as (keyof SessionSummary)[];
  return (
    before.ago === after.ago &&
    before.isSelected === after.isSelected &&
    before.onSelect === after.onSelect &&
    keys.every((key) => before.session[key] === after.session[key])
  );
}
