import { TROUBLE_MS, ticksToSeconds, troublesOf, type Trouble } from '@ordle/core';
import { useMemo } from 'react';
import { keysOf, run, showKey, useCommands } from '@/commands';
import { useOpenBench } from '@/music/useBench';
import { usePartView } from '@/music/partViewStore';
import { transport } from '@/sound/transport';
import { selectionStore } from '@/state/selection';
import { figures } from '@/words/counts';

/**
 * How many places are off the grid, and the way from one to the next. Each is selected, and the play line put there.
 * By key and by the menu of the bar also where there is no room for it.
 */
export function TroubleWalk({ isShown, onReveal }: { isShown: boolean; onReveal(row: number): void }) {
  const { part, timeline } = useOpenBench();
  const { view } = usePartView();
  const own = view?.partId === part?.id ? view : null;
  const troubles = useMemo(
    () => (own ? troublesOf(own.notes, own.late, timeline.tempo) : []),
    [own, timeline.tempo],
  );
  const go = (by: 1 | -1) => {
    const next = own && nextTrouble(troubles, placeNow(), by);
    if (!own || !next) return;
    selectionStore.select(
      own.partId,
      next.rows.map((row) => own.notes.id[row]),
      own.notes.id[next.rows[0]],
    );
    transport.locate(ticksToSeconds(timeline.tempo, next.from));
    onReveal(next.rows[0]);
  };
  /** The first selected note, else nothing: then the walk begins at the start. */
  const placeNow = (): number => {
    const { partId, ids } = selectionStore.get();
    const row = own && partId === own.partId ? own.notes.id.findIndex((id) => ids.has(id)) : -1;
    return row < 0 || !own ? -1 : own.notes.start[row];
  };
  const some = troubles.length > 0;
  useCommands({
    'next-trouble': some ? () => go(1) : undefined,
    'previous-trouble': some ? () => go(-1) : undefined,
  });
  if (!isShown || !own || own.notes.length === 0) return null;
  return (
    <div
      className="flex h-6 shrink-0 items-center text-quiet text-ink-2"
      title={`Notes more than ${TROUBLE_MS} ms off the grid; those close together are one place`}
    >
      <span data-testid="troubles" className="px-1">
        {some ? (
          <>
            {figures(troubles.length)}
            {troubles.length === 1 ? ' place' : ' places'}
            <span className="max-2xl:hidden"> over {TROUBLE_MS} ms</span>
          </>
        ) : (
          <span className="max-2xl:hidden">all within {TROUBLE_MS} ms</span>
        )}
      </span>
      {some && (
        <>
          <TroubleButton id="previous-trouble" label="Previous loose place" sign="◂" />
          <TroubleButton id="next-trouble" label="Next loose place" sign="▸" />
        </>
      )}
    </div>
  );
}

function TroubleButton({
  id,
  label,
  sign,
}: {
  id: 'next-trouble' | 'previous-trouble';
  label: string;
  sign: string;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={`${label} (${keysOf(id).map(showKey).join(', ')})`}
      onClick={() => run(id)}
      className="h-6 min-w-6 px-1 font-semibold text-ink hover:underline"
    >
      {sign}
    </button>
  );
}

/** The next place after, or before, a tick; round the end to the other end. */
export function nextTrouble(troubles: readonly Trouble[], tick: number, by: 1 | -1): Trouble | undefined {
  if (by === 1) return troubles.find(({ from }) => from > tick) ?? troubles[0];
  return troubles.findLast(({ from }) => from < tick) ?? troubles.at(-1);
}
