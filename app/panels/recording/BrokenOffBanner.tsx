import type { Session } from '@ordle/core';
import { useEffect, useState } from 'react';
import { brokenOffIn, dropBrokenOff, finishedOf, type BrokenOff } from '@/recording/brokenOff';
import { putRecordings } from '@/recording/putRecording';
import { currentTake } from '@/recording/recorder';
import { useAppDispatch } from '@/state/store';
import { Button } from '@/ui';

const lasting = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;

/** Offers recordings that were broken off by name: to keep them, or to discard them after asking once more. */
export function BrokenOffBanner({ session, mayWrite }: { session: Session; mayWrite: boolean }) {
  const dispatch = useAppDispatch();
  const [found, setFound] = useState<BrokenOff[]>([]);
  const [asked, setAsked] = useState<string | null>(null);
  const { id } = session;
  useEffect(() => {
    if (!mayWrite) return;
    let isGone = false;
    void brokenOffIn({ id }, currentTake()?.id ?? null).then((list) => !isGone && setFound(list));
    return () => {
      isGone = true;
    };
  }, [id, mayWrite]);
  const drop = (each: BrokenOff) => {
    void dropBrokenOff(each.id);
    setFound((list) => list.filter((other) => other !== each));
  };
  return found.map((each) => (
    <p
      key={each.id}
      role="status"
      className="flex items-center gap-3 border-b border-rule bg-well px-4 py-1.5"
    >
      <span className="grow">
        A recording of {lasting(each.seconds)} at {each.names.join(' and ')} was broken off.
      </span>
      <Button
        onClick={() =>
          void putRecordings(dispatch, session, finishedOf(each, session)).then((put) => put && drop(each))
        }
      >
        Keep it
      </Button>
      {asked === each.id ? (
        <Button onClick={() => drop(each)}>Really discard it</Button>
      ) : (
        <Button look="quiet" onClick={() => setAsked(each.id)}>
          Discard
        </Button>
      )}
    </p>
  ));
}
