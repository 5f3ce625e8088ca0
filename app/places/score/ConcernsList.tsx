import { DEFAULT_NOTATION, type NotationSettings } from '@ordle/core';
import { useMemo } from 'react';
import type { ScoreOfParts } from '@/engine/protocol';
import { useOpenBench } from '@/music/useBench';
import { useShowOnBench } from '@/panels/useShowOnBench';
import { useAppDispatch } from '@/state/store';
import { MoreMenu, type MenuItem } from '@/ui';
import { setNotation } from './scoreActions';
import { counted, figures } from '@/words/counts';

type ShownConcern = ScoreOfParts['concerns'][number];

/** More are not listed one by one. */
const MOST_SHOWN = 200;

/** Notes of one part and bar that share what is to be said of them. */
interface Group {
  first: ShownConcern;
  ids: number[];
  mostMs: number;
}

function groupsOf(concerns: readonly ShownConcern[]): Group[] {
  const groups = new Map<string, Group>();
  for (const concern of concerns) {
    const key = `${concern.partId} ${concern.bar} ${concern.kind}`;
    const group = groups.get(key);
    if (group) {
      group.ids.push(concern.id);
      group.mostMs = Math.max(group.mostMs, concern.ms);
    } else groups.set(key, { first: concern, ids: [concern.id], mostMs: concern.ms });
  }
  return [...groups.values()];
}

function inWords({ first: { kind }, ids, mostMs }: Group): string {
  const notes = counted(ids.length, 'note');
  const upTo = ids.length === 1 ? '' : 'up to ';
  if (kind === 'dropped') return `${notes} not written: the pitch stands there already`;
  if (kind === 'moved') return `${notes} written ${upTo}${figures(mostMs)} ms from where played`;
  return `${notes} written ${upTo}${figures(mostMs)} ms shorter than sounding`;
}

const FINEST = [4, 8, 16, 32, 64] as const;

/** The shortest value of a bar. */
const finestOf = (notation: NotationSettings | undefined, bar: number) =>
  notation?.finestIn?.findLast((each) => each.bar === bar)?.finest ??
  notation?.finest ??
  DEFAULT_NOTATION.finest;

const withFinest = (
  notation: NotationSettings | undefined,
  bar: number,
  finest: (typeof FINEST)[number],
): NotationSettings['finestIn'] => [
  ...(notation?.finestIn ?? []).filter((each) => each.bar !== bar),
  { bar, finest },
];

interface ConcernsListProps {
  concerns: readonly ShownConcern[];
  isRead: boolean;
}

/** Notes that are written otherwise than they sound; a click goes to the note on the Bench. */
export function ConcernsList({ concerns, isRead }: ConcernsListProps) {
  const show = useShowOnBench();
  const dispatch = useAppDispatch();
  const { session, mayWrite } = useOpenBench();
  const groups = useMemo(() => groupsOf(concerns), [concerns]);
  /** What puts it right: here, or by hand on the Bench. */
  const remediesFor = ({ first: { partId, bar, staff, tick }, ids }: Group): MenuItem[] => {
    const notation = session.parts.byId[partId]?.notation;
    const finest = finestOf(notation, bar);
    const finer = FINEST.find((value) => value > finest);
    const set = (label: string, change: NotationSettings) => setNotation(dispatch, partId, label, change);
    return [
      {
        label: finer ? `Down to 1/${finer} in bar ${bar}` : `Nothing is finer than 1/${finest}`,
        disabled: !mayWrite || !finer,
        onSelect: () => finer && set(`Finer in bar ${bar}`, { finestIn: withFinest(notation, bar, finer) }),
      },
      ...(staff === null
        ? []
        : [
            {
              label: `With the ${staff === 0 ? 'left' : 'right'} hand`,
              disabled: !mayWrite,
              onSelect: () =>
                set('With the other hand', {
                  staffOf: {
                    ...notation?.staffOf,
                    ...Object.fromEntries(ids.map((id) => [id, staff === 0 ? (1 as const) : (0 as const)])),
                  },
                }),
            },
          ]),
      {
        label: 'By hand on the Bench',
        onSelect: () => show({ partId, notes: ids, tick }),
      },
    ];
  };
  return (
    <section aria-label="Written otherwise than it sounds" className="flex flex-col gap-1 p-4">
      <h2 className="font-serif text-[1.05rem] font-semibold">
        Written otherwise{' '}
        <span className="font-sans text-work font-normal text-ink-2">
          {isRead ? `${figures(concerns.length)} notes` : ''}
        </span>
      </h2>
      {isRead && concerns.length === 0 && <p className="text-ink-2">Every note is written as it sounds.</p>}
      <ul>
        {groups.slice(0, MOST_SHOWN).map((group) => (
          <li
            key={`${group.first.partId} ${group.first.bar} ${group.first.kind}`}
            className="flex items-start gap-1 border-b border-rule"
          >
            <button
              type="button"
              title="Selects them on the Bench"
              onClick={() => show({ partId: group.first.partId, notes: group.ids, tick: group.first.tick })}
              className="grow py-1 text-left text-quiet hover:bg-well"
            >
              <span className="font-semibold">Bar {group.first.bar}</span> {inWords(group)}
            </button>
            <MoreMenu name={`bar ${group.first.bar}`} items={remediesFor(group)} />
          </li>
        ))}
      </ul>
      {groups.length > MOST_SHOWN && (
        <p className="text-quiet text-ink-2">and {figures(groups.length - MOST_SHOWN)} more</p>
      )}
    </section>
  );
}
