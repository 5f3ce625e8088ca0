import { listOf } from '@ordle/core';
import { useOpenBench } from '@/music/useBench';
import { useAppDispatch } from '@/state/store';
import { Segmented } from '@/ui';
import { lockPart } from './tempoActions';

/** Which parts stay in real time when the tempo changes, and which go along. */
export function Locks() {
  const { session, mayWrite } = useOpenBench();
  const dispatch = useAppDispatch();
  return (
    <details>
      <summary className="cursor-pointer text-ink-2">
        Parts that keep their real time:{' '}
        {listOf(session.parts).filter(({ lockedTo }) => lockedTo === 'seconds').length} of{' '}
        {session.parts.order.length}
      </summary>
      <ul aria-label="Locks" className="mt-1">
        {listOf(session.parts).map((part) => (
          <li key={part.id} className="flex h-7 items-center justify-between gap-2">
            <span className="min-w-0 truncate">{part.name}</span>
            <span className="w-32 shrink-0">
              <Segmented
                label={`${part.name} follows`}
                value={part.lockedTo}
                options={[
                  { value: 'beats', label: 'tempo', title: 'Its notes keep their place in the bars' },
                  { value: 'seconds', label: 'real time', title: 'Its notes keep their seconds' },
                ]}
                disabled={!mayWrite}
                onChange={(lockedTo) => lockPart(dispatch, part, lockedTo)}
              />
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}
