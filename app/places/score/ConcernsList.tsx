import { useMemo } from 'react';
import type { ScoreOfParts } from '@/engine/protocol';
import { useShowOnBench } from '@/panels/useShowOnBench';
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

interface ConcernsListProps {
  concerns: readonly ShownConcern[];
  isRead: boolean;
}

/** Notes that are written otherwise than they sound; a click goes to the note on the Bench. */
export function ConcernsList({ concerns, isRead }: ConcernsListProps) {
  const show = useShowOnBench();
  const groups = useMemo(() => groupsOf(concerns), [concerns]);
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
          <li key={`${group.first.partId} ${group.first.bar} ${group.first.kind}`}>
            <button
              type="button"
              title="Selects them on the Bench"
              onClick={() => show({ partId: group.first.partId, notes: group.ids, tick: group.first.tick })}
              className="w-full border-b border-rule py-1 text-left text-quiet hover:bg-well"
            >
              <span className="font-semibold">Bar {group.first.bar}</span> {inWords(group)}
            </button>
          </li>
        ))}
      </ul>
      {groups.length > MOST_SHOWN && (
        <p className="text-quiet text-ink-2">and {figures(groups.length - MOST_SHOWN)} more</p>
      )}
    </section>
  );
}
