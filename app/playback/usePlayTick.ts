import { secondsToTicks, type Timeline } from '@ordle/core';
import { useEffect, useRef } from 'react';
import { transport } from '@/sound/transport';

/**
 * Tells the tick of the play line: whenever it is put elsewhere or the roll is painted, and at each frame while music plays. `playing` is told
 * along with it.
 */
export function usePlayTick(timeline: Timeline, playing: boolean, show: (tick: number) => void) {
  const latest = useRef(show);
  useEffect(() => {
    latest.current = show;
  });
  useEffect(() => {
    let frame = 0;
    const roll = document.querySelector('[data-testid=roll]');
    const move = () => {
      latest.current(secondsToTicks(timeline.tempo, transport.second()));
      if (playing) {
        cancelAnimationFrame(frame);
        frame = requestAnimationFrame(move);
      }
    };
    move();
    const stopListening = transport.subscribe(move);
    roll?.addEventListener('painted', move);
    return () => {
      cancelAnimationFrame(frame);
      stopListening();
      roll?.removeEventListener('painted', move);
    };
  }, [timeline, playing]);
}
