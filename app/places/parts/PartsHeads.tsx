import { listOf, partsIn, itemOf, type Part, type Session } from '@ordle/core';
import { Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { useAppDispatch } from '@/state/store';
import { Menu, NameField } from '@/ui';
import { msInWords } from '@/words/counts';
import { changePart, deletePart, movePart } from './partsActions';
import type { PartsState } from './useParts';

interface PartsHeadsProps {
  session: Session;
  state: PartsState;
  active: string | null;
  chosen: ReadonlySet<string>;
  scrolled: { top: number; height: number };
  mayWrite: boolean;
  onChoose(id: string, adds: boolean): void;
  onOpen(id: string): void;
  onScroll(down: number): void;
}

/** Beside the rows: each part's ink, name, what it is made of, mute and solo, and what can be done with it. */
export function PartsHeads(props: PartsHeadsProps) {
  const { session, scrolled, onScroll } = props;
  return (
    <div className="flex w-52 shrink-0 flex-col border-r border-rule-strong bg-ground">
      <div className="h-6 shrink-0 border-b border-rule-strong px-3 text-quiet leading-6 text-ink-2">
        Ctrl and click selects several
      </div>
      <div className="min-h-0 grow overflow-hidden" onWheel={(event) => onScroll(event.deltaY)}>
        <ul aria-label="Parts" style={{ transform: `translateY(${-scrolled.top}px)` }}>
          {listOf(session.parts).map((part) => (
            <PartHead key={part.id} {...props} part={part} />
          ))}
        </ul>
      </div>
    </div>
  );
}

function PartHead(props: PartsHeadsProps & { part: Part }) {
  const { session, state, active, chosen, scrolled, mayWrite, onChoose, onOpen, part } = props;
  const dispatch = useAppDispatch();
  const [draft, setDraft] = useState<string | null>(null);
  const row = state.rows.get(part.id);
  const sources = partsIn(part).map((id) => itemOf(session.parts, id)?.name ?? 'a part that was deleted');
  const rename = () => {
    const name = draft?.trim().slice(0, 200);
    setDraft(null);
    if (name && name !== part.name)
      changePart(dispatch, `Rename ${part.name} to ${name}`, part.id, (own) => void (own.name = name));
  };
  const words = [
    part.setAside ? 'set aside' : '',
    row && !Number.isNaN(row.offMs) ? `${msInWords(row.offMs)} ms off` : row ? 'no notes' : '',
    sources.length > 0 ? `of ${sources.join(', ')}` : '',
  ];
  const isSmall = scrolled.height < 50;
  return (
    <li
      style={{ height: scrolled.height }}
      className={`group flex items-start gap-2 overflow-hidden border-b border-rule pt-1 pr-1 pl-2 ${chosen.has(part.id) ? 'bg-sheet outline-2 -outline-offset-2 outline-ink' : active === part.id ? 'bg-sheet' : ''}`}
    >
      <span
        aria-hidden="true"
        className={`mt-0.5 h-5 w-2 shrink-0 rounded-[1px] ${part.setAside ? 'opacity-40' : ''}`}
        style={{ background: `var(--ink-part-${part.ink + 1})` }}
      />
      <span className="min-w-0 grow">
        {draft === null ? (
          <button
            type="button"
            aria-pressed={chosen.has(part.id)}
            title={part.name}
            onClick={(event) => onChoose(part.id, event.ctrlKey || event.metaKey || event.shiftKey)}
            onDoubleClick={() => onOpen(part.id)}
            className={`block max-w-full truncate text-left ${part.setAside ? 'text-ink-2' : 'font-semibold'}`}
          >
            {part.name}
          </button>
        ) : (
          <NameField label={`New name of ${part.name}`} draft={draft} onDraft={setDraft} onCommit={rename} />
        )}
        {!isSmall && (
          <span className="line-clamp-2 text-quiet text-ink-2" title={row?.fault ?? undefined}>
            {row?.fault ?? words.filter(Boolean).join(', ')}
          </span>
        )}
      </span>
      <Letter
        letter="M"
        name={`Mute ${part.name}`}
        isOn={part.muted}
        disabled={!mayWrite}
        onClick={() =>
          changePart(
            dispatch,
            `${part.muted ? 'Unmute' : 'Mute'} ${part.name}`,
            part.id,
            (own) => void (own.muted = !own.muted),
          )
        }
      />
      <Letter
        letter="S"
        name={`Solo ${part.name}`}
        isOn={part.soloed}
        disabled={!mayWrite}
        onClick={() =>
          changePart(
            dispatch,
            `${part.soloed ? 'Unsolo' : 'Solo'} ${part.name}`,
            part.id,
            (own) => void (own.soloed = !own.soloed),
          )
        }
      />
      <Menu
        trigger={
          <button
            type="button"
            aria-label={`More for ${part.name}`}
            className="h-6 text-ink-2 hover:text-ink"
          >
            <Ellipsis size={14} aria-hidden="true" />
          </button>
        }
        items={[
          { label: 'Open on the Bench', onSelect: () => onOpen(part.id) },
          { label: 'Rename', disabled: !mayWrite, onSelect: () => setTimeout(() => setDraft(part.name), 60) },
          {
            label: part.setAside ? 'Bring back' : 'Set aside',
            hint: 'Silent and out of the export, kept for what is made of it',
            disabled: !mayWrite,
            onSelect: () =>
              changePart(
                dispatch,
                part.setAside ? `Bring ${part.name} back` : `Set ${part.name} aside`,
                part.id,
                (own) => void (own.setAside = !own.setAside),
              ),
          },
          {
            label: 'Next colour',
            disabled: !mayWrite,
            onSelect: () =>
              changePart(
                dispatch,
                `Colour of ${part.name}`,
                part.id,
                (own) => void (own.ink = (own.ink + 1) % 8),
              ),
          },
          { label: 'Move up', disabled: !mayWrite, onSelect: () => movePart(dispatch, part, -1) },
          { label: 'Move down', disabled: !mayWrite, onSelect: () => movePart(dispatch, part, 1) },
          { label: 'Delete part', disabled: !mayWrite, onSelect: () => deletePart(dispatch, part) },
        ]}
      />
    </li>
  );
}

function Letter({
  letter,
  name,
  isOn,
  disabled,
  onClick,
}: {
  letter: string;
  name: string;
  isOn: boolean;
  disabled: boolean;
  onClick(): void;
}) {
  return (
    <button
      type="button"
      aria-label={name}
      aria-pressed={isOn}
      disabled={disabled}
      onClick={onClick}
      className={`h-6 w-6 shrink-0 rounded-small text-quiet ${isOn ? 'bg-set text-on-set' : 'hidden text-ink-2 group-focus-within:inline group-hover:inline hover:text-ink'}`}
    >
      {letter}
    </button>
  );
}
