import { handLineOfShares, itemOf, partsIn, type Part } from '@ordle/core';
import { useState } from 'react';
import { deletePart } from '@/edits/deletePart';
import { useAppDispatch } from '@/state/store';
import { MoreMenu, NameField, WithMenu, type MenuItem } from '@/ui';
import { counted, msInWords } from '@/words/counts';
import { groupParts, setGroup, stepPart, switchParts } from './groupActions';
import { LetterButton } from './LetterButton';
import { changePart } from './partsActions';
import type { PartsHeadsProps } from './PartsHeads';

/** A part beside its row: what it is called and made of, and what can be done with it. */
export function PartHead(props: PartsHeadsProps & { part: Part }) {
  const { session, state, active, chosen, scrolled, mayWrite, onChoose, onOpen, onHandLine, part } = props;
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
  // What is done to one of several selected is done to all of them.
  const together = chosen.has(part.id) && chosen.size > 1 ? [...chosen] : [part.id];
  const whom = together.length > 1 ? counted(together.length, 'part') : part.name;
  const divided = partsIn(part).find((id) =>
    handLineOfShares({ order: [part.id], byId: { [part.id]: part } }, id),
  );
  const isSmall = scrolled.height < 50;
  const items: MenuItem[] = [
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
        changePart(dispatch, `Colour of ${part.name}`, part.id, (own) => void (own.ink = (own.ink + 1) % 8)),
    },
    {
      label: together.length > 1 ? `Group ${whom}` : 'Put into a new group',
      hint: 'Listed, muted and soloed together',
      disabled: !mayWrite,
      onSelect: () => groupParts(dispatch, together),
    },
    ...(part.group === undefined
      ? []
      : [
          {
            label: `Take out of ${part.group}`,
            disabled: !mayWrite,
            onSelect: () => setGroup(dispatch, together, undefined),
          },
        ]),
    ...(divided === undefined
      ? []
      : [
          {
            label: 'Change the line between the hands',
            disabled: !mayWrite,
            onSelect: () => setTimeout(() => onHandLine(divided), 60),
          },
        ]),
    { label: 'Move up', disabled: !mayWrite, onSelect: () => stepPart(dispatch, part.id, -1) },
    { label: 'Move down', disabled: !mayWrite, onSelect: () => stepPart(dispatch, part.id, 1) },
    { label: 'Delete part', disabled: !mayWrite, onSelect: () => deletePart(dispatch, part) },
  ];
  return (
    <WithMenu items={() => items}>
      <div
        className={`group flex h-full items-start gap-2 pt-1 pr-1 ${part.group === undefined ? 'pl-2' : 'border-l-4 border-edge pl-3'} ${chosen.has(part.id) ? 'bg-sheet outline-2 -outline-offset-2 outline-ink' : active === part.id ? 'bg-sheet' : ''}`}
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
              onClick={(event) => onChoose([part.id], event.ctrlKey || event.metaKey || event.shiftKey)}
              onDoubleClick={() => onOpen(part.id)}
              className={`block max-w-full truncate text-left ${part.setAside ? 'text-ink-2' : 'font-semibold'}`}
            >
              {part.name}
            </button>
          ) : (
            <NameField
              label={`New name of ${part.name}`}
              draft={draft}
              onDraft={setDraft}
              onCommit={rename}
            />
          )}
          {!isSmall && (
            <span className="line-clamp-2 text-quiet text-ink-2" title={row?.fault ?? undefined}>
              {row?.fault ?? words.filter(Boolean).join(', ')}
            </span>
          )}
        </span>
        {(['muted', 'soloed'] as const).map((what) => {
          const word = what === 'muted' ? 'Mute' : 'Solo';
          return (
            <LetterButton
              key={what}
              letter={word[0]}
              name={`${word} ${part.name}`}
              isOn={part[what]}
              disabled={!mayWrite}
              onClick={() => switchParts(dispatch, together, whom, what, !part[what])}
            />
          );
        })}
        <MoreMenu name={part.name} items={items} />
      </div>
    </WithMenu>
  );
}
