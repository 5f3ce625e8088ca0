import { useEffect, useRef, useState } from 'react';
import { transport } from '@/sound/transport';

/** Tapping is over after a pause of so many times the usual distance of taps, and of so many ms at least. */
const [PAUSE, LEAST] = [3, 1500];

const NONE: readonly number[] = [];

/**
 * Taps along with the playing, in seconds, gathered until a pause or until the playing stops; then they are given on
 * together, so that their lag can be measured over all of them.
 */
export function useTaps(playing: boolean, onTaps: (taps: readonly number[]) => void) {
  const [taps, setTaps] = useState<readonly number[]>(NONE);
  const latest = useRef(onTaps);
  const gathered = useRef(taps);
  useEffect(() => {
    latest.current = onTaps;
    gathered.current = taps;
  });
  // What is tapped when the place is left is laid too.
  useEffect(
    () => () => {
      if (gathered.current.length > 0) latest.current(gathered.current);
    },
    [],
  );
  useEffect(() => {
    if (taps.length === 0) return;
    const give = () => {
      setTaps(NONE);
      latest.current(taps);
    };
    if (!playing) {
      const now = setTimeout(give, 0);
      return () => clearTimeout(now);
    }
    const usual = taps.length < 2 ? 1 : (taps[taps.length - 1] - taps[0]) / (taps.length - 1);
    const timer = setTimeout(give, Math.max(LEAST, PAUSE * 1000 * usual));
    return () => clearTimeout(timer);
  }, [taps, playing]);
  return {
    taps,
    /** A tap now; where the music jumped back, as in a loop, tapping begins anew. */
    tap() {
      const at = transport.second();
      const last = taps.at(-1);
      if (last !== undefined && at <= last) latest.current(taps);
      setTaps(last !== undefined && at <= last ? [at] : [...taps, at]);
    },
  };
}
