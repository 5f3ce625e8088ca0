import type { ListedRow } from '@ordle/core';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useState } from 'react';
import { useAppDispatch } from '@/state/store';
import { MoreMenu, NameField } from '@/ui';
import { counted } from '@/words/counts';
import { LetterButton } from './LetterButton';
import { renameGroup, setGroup, switchParts } from './groupActions';
import type { PartsHeadsProps } from './PartsHeads';

/** The heading of a group: folds it, selects all of its parts, mutes and solos them together. */
export function GroupHead(props: PartsHeadsProps & { group: ListedRow & { kind: 'group' } }) {
  const { chosen, mayWrite, onChoose, onFold, group } = props;
  const { name, parts, isFolded } = group;
  const dispatch = useAppDispatch();
  const [draft, setDraft] = useState<string | null>(null);
  const ids = parts.map(({ id }) => id);
  const isChosen = ids.every((id) => chosen.has(id));
  const Fold = isFolded ? ChevronRight : ChevronDown;
  return (
    <div
      className={`group flex h-full items-start gap-1 pt-1 pr-1 pl-1 ${isChosen ? 'bg-sheet outline-2 -outline-offset-2 outline-ink' : 'bg-well'}`}
    >
      <button
        type="button"
        aria-expanded={!isFolded}
        aria-label={`${isFolded ? 'Unfold' : 'Fold'} ${name}`}
        onClick={() => onFold(name)}
        className="flex h-6 w-6 shrink-0 items-center justify-center text-ink-2 hover:text-ink"
      >
        <Fold size={14} aria-hidden="true" />
      </button>
      <span className="min-w-0 grow">
        {draft === null ? (
          <button
            type="button"
            title={`Select all of ${name}`}
            onClick={(event) => onChoose(ids, event.ctrlKey || event.metaKey || event.shiftKey)}
            className="block h-6 max-w-full truncate text-left font-serif font-semibold"
          >
            {name}
            <span className="font-sans text-quiet font-normal text-ink-2">
              {' '}
              {counted(parts.length, 'part')}
            </span>
          </button>
        ) : (
          <NameField
            label={`New name of ${name}`}
            draft={draft}
            onDraft={setDraft}
            onCommit={() => {
              renameGroup(dispatch, name, draft);
              setDraft(null);
            }}
          />
        )}
      </span>
      {(['muted', 'soloed'] as const).map((what) => {
        const isOn = parts.every((part) => part[what]);
        const word = what === 'muted' ? 'Mute' : 'Solo';
        return (
          <LetterButton
            key={what}
            letter={word[0]}
            name={`${word} ${name}`}
            isOn={isOn}
            disabled={!mayWrite}
            onClick={() => switchParts(dispatch, ids, name, what, !isOn)}
          />
        );
      })}
      <MoreMenu
        name={name}
        items={[
          { label: 'Rename', disabled: !mayWrite, onSelect: () => setTimeout(() => setDraft(name), 60) },
          {
            label: 'Take the group apart',
            hint: 'Its parts stay where they are',
            disabled: !mayWrite,
            onSelect: () => setGroup(dispatch, ids, undefined, `Take ${name} apart`),
          },
        ]}
      />
    </div>
  );
}
