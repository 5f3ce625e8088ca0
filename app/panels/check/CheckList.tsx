import { itemOf, type ExportCheck, type Session } from '@ordle/core';
import { useAppDispatch } from '@/state/store';
import { Button } from '@/ui';
import { concernInWords } from './checkWords';
import { useShowOnBench } from '../useShowOnBench';
import { mendOf } from './mends';

interface CheckListProps {
  session: Session;
  check: ExportCheck;
  ticksPerQuarter: number;
  /** Which version the concerns are of. */
  version: 'cleaned' | 'played';
  mayWrite: boolean;
  /** Leaves a part out of what is written. */
  onLeaveOut(partId: string): void;
  /** Takes a part along that was left out. */
  onTakeAlong(partId: string): void;
}

/** What to know before a file is written, each with a way to see it and, where there is one, to put it right. */
export function CheckList({
  session,
  check,
  ticksPerQuarter,
  version,
  mayWrite,
  onLeaveOut,
  onTakeAlong,
}: CheckListProps) {
  const dispatch = useAppDispatch();
  const show = useShowOnBench();
  const nameOf = (id: string | null) => itemOf(session.parts, id ?? undefined)?.name ?? '';
  if (check.concerns.length === 0)
    return <p className="text-ink-2">No problems found: every note is clear to other programs.</p>;
  return (
    <ul className="border-t border-rule">
      {check.concerns.map((concern) => {
        const mend = version === 'cleaned' && mayWrite ? mendOf(concern, session, ticksPerQuarter) : null;
        return (
          <li
            key={`${concern.kind} ${concern.partId} ${concern.otherId}`}
            className="flex items-start gap-2 border-b border-rule py-1.5"
          >
            <span className="grow">
              {concernInWords(concern, nameOf(concern.partId), nameOf(concern.otherId))}
            </span>
            {concern.kind !== 'muted' && concern.kind !== 'left-behind' && (
              <Button look="quiet" className="h-6 shrink-0 px-1.5" onClick={() => show(concern, version)}>
                Show
              </Button>
            )}
            {mend && (
              <Button className="h-6 shrink-0 px-1.5" onClick={() => mend.run(dispatch)}>
                {mend.label}
              </Button>
            )}
            {concern.kind === 'left-behind' && (
              <Button className="h-6 shrink-0 px-1.5" onClick={() => onTakeAlong(concern.otherId ?? '')}>
                Take it along
              </Button>
            )}
            {concern.kind === 'muted' && (
              <Button className="h-6 shrink-0 px-1.5" onClick={() => onLeaveOut(concern.partId)}>
                Leave out
              </Button>
            )}
          </li>
        );
      })}
    </ul>
  );
}
