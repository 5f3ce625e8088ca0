import { secondsToTicks, type Timeline } from '@ordle/core';
import { useEffect, useRef, useSyncExternalStore } from 'react';
import { cancelFrame, onNextFrame } from '@/surface';
import { transport } from '@/sound/transport';

/**
 * Tells the tick of the play line: whenever it is put elsewhere, and at each frame while music plays.
 */
export function usePlayTick(timeline: Timeline, playing: boolean, show: (tick: number) => void) {
  const latest = useRef(show);
  useEffect(() => {
    latest.current = show;
  });
  useEffect(() => {
    const move = () => {
      latest.current(secondsToTicks(timeline.tempo, transport.second()));
      if (playing) onNextFrame(move);
    };
    move();
    const stopListening = transport.subscribe(move);
    return () => {
      cancelFrame(move);
      stopListening();
    };
  }, [timeline, playing]);
}

/** The tick where the play line was put, for what depends on it while nothing plays. */
export function usePlaceOfPlayLine({ tempo }: Timeline): number {
  const second = useSyncExternalStore(transport.subscribe, () =>
    transport.state().playing ? 0 : transport.second(),
  );
  return secondsToTicks(tempo, second);
}
