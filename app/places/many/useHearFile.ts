import { sentenceOf } from '@ordle/core';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { CleaningThread } from '@/engine/cleaning/cleaners';
import { useTransport } from '@/playback/usePlayback';
import { transport } from '@/sound/transport';

/** Seconds that ring on after the last note before playing ends. */
const TAIL_SECONDS = 1.5;

/** A file that is heard: as it came, or as it was made. */
export interface HeardFile {
  index: number;
  which: 'given' | 'made';
}

/** Plays files as they came and as they were made; the one in place of the other goes on from the same second. */
export function useHearFile(thread: CleaningThread) {
  const { playing, starting } = useTransport();
  const [heard, setHeard] = useState<HeardFile | null>(null);
  const hasBegun = useRef(false);
  useEffect(() => {
    if (playing) hasBegun.current = true;
    // It ended by itself.
    else if (!starting && hasBegun.current) setHeard(null);
  }, [playing, starting]);
  useEffect(() => () => transport.stop(), []);

  const hear = async ({ index, which }: HeardFile) => {
    if (heard?.index === index && heard.which === which) {
      setHeard(null);
      transport.stop();
      return;
    }
    const second = heard?.index === index ? transport.second() : 0;
    hasBegun.current = false;
    setHeard({ index, which });
    try {
      await transport.play(async () => {
        const { parts, end } = await thread.sounding(which, index);
        return {
          score: {
            parts: parts.map((part) => ({ ...part, audible: true })),
            end: end + TAIL_SECONDS,
            clickTimes: new Float64Array(0),
            clickAccents: new Uint8Array(0),
          },
          second: second < end ? second : 0,
          loop: null,
          click: 0,
        };
      });
    } catch (error) {
      setHeard(null);
      toast(transport.state().message ?? sentenceOf(error), { duration: 8000 });
    }
  };
  return { heard, hear };
}
