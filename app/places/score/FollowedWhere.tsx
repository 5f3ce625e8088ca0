import { ticksToSeconds, type Part, type Reference, type Session } from '@ordle/core';
import { useState, useSyncExternalStore } from 'react';
import type { PlayedScore } from '@/engine/protocol';
import { useOpenBench } from '@/music/useBench';
import { selectionStore } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { transport } from '@/sound/transport';
import { Button, NumberField } from '@/ui';
import { changeReference } from './scoreActions';

interface FollowedWhereProps {
  session: Session;
  part: Part;
  reference: Reference;
  played: PlayedScore;
  mayWrite: boolean;
}

const clock = (seconds: number) =>
  `${Math.floor(seconds / 60)}:${(seconds % 60).toFixed(1).padStart(4, '0')}`;

/** Where in the score the playing is: repeats and cuts that were found, and what a person says of them. */
export function FollowedWhere({ session, part, reference, played, mayWrite }: FollowedWhereProps) {
  const dispatch = useAppDispatch();
  const { timeline } = useOpenBench();
  const selection = useSyncExternalStore(selectionStore.subscribe, selectionStore.get);
  const [bar, setBar] = useState<number | null>(null);
  const { firstBar, said = [] } = reference;
  const heard = tickOf(played, selection.partId, [...selection.ids]);
  const place = barOfNote(played, selection.partId, [...selection.ids]);
  const wanted = bar ?? place ?? firstBar;
  const last = reference.bars.length - 2 + firstBar;
  return (
    <>
      {played.passages.length > 0 && (
        <ul aria-label="Repeats and cuts" className="flex flex-col">
          {played.passages.map(({ from, to, seconds }) => (
            <li key={seconds}>
              <button
                type="button"
                className="w-full border-b border-rule py-1 text-left text-quiet hover:bg-well"
                title="Puts the play line there"
                onClick={() => transport.locate(seconds)}
              >
                <span className="tabular-nums">{clock(seconds)}</span> from bar {from} to bar {to}
              </button>
            </li>
          ))}
        </ul>
      )}
      {said.length > 0 && (
        <ul aria-label="Said of the score" className="flex flex-col">
          {said.map(({ at, bar: told }) => (
            <li key={at} className="flex items-center justify-between text-quiet">
              {clock(ticksToSeconds(timeline.tempo, at))} is bar {told + firstBar}, as you said
              <Button
                disabled={!mayWrite}
                title="Lets the bar be found again"
                onClick={() =>
                  changeReference(dispatch, session, part, 'Let the bar be found', {
                    said: said.filter((each) => each.at !== at),
                  })
                }
              >
                forget
              </Button>
            </li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap items-center gap-1.5 text-quiet">
        {heard === null ? (
          <span className="text-ink-2">Followed wrongly? Select the note a bar begins with.</span>
        ) : (
          <>
            The selected note begins bar
            <NumberField
              label="Bar of the score"
              tip="The bar of the score that begins with the selected note."
              value={wanted}
              min={firstBar}
              max={last}
              className="w-12"
              disabled={!mayWrite}
              onCommit={setBar}
            />
            <Button
              disabled={!mayWrite}
              onClick={() => {
                const others = said.filter(({ at }) => Math.abs(at - heard) > timeline.ticksPerQuarter / 8);
                changeReference(dispatch, session, part, `Say where bar ${wanted} is`, {
                  said: [...others, { at: heard, bar: wanted - firstBar }].sort((a, b) => a.at - b.at),
                });
                setBar(null);
              }}
            >
              Say so
            </Button>
          </>
        )}
      </div>
    </>
  );
}

/** The tick the first selected note was played at; null without one. */
function tickOf({ marks, extras }: PlayedScore, partId: string | null, ids: readonly number[]) {
  const [id] = ids;
  if (id === undefined) return null;
  const found = [...marks, ...extras].find(({ note }) => note?.partId === partId && note?.id === id);
  return found?.playedAt ?? null;
}

/** The bar of the score in which it was found. */
function barOfNote(played: PlayedScore, partId: string | null, ids: readonly number[]): number | null {
  const mark = played.marks.find(({ note }) => note?.partId === partId && note?.id === ids[0]);
  if (!mark) return null;
  const page = played.barTicks.findLastIndex((tick) => tick <= mark.tick + 1);
  return page < 0 ? null : Number(played.barNames[page]);
}
