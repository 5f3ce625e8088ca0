import { sentenceOf } from '@ordle/core';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { CleaningThread } from '@/engine/cleaning/cleaners';
import { requestToHear } from '@/playback/scoreToHear';
import { useTransport } from '@/playback/usePlayback';
import { transport } from '@/sound/transport';

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
        return requestToHear(await thread.sounding(which, index), second);
      });
    } catch (error) {
      setHeard(null);
      toast(transport.state().message ?? sentenceOf(error), { duration: 8000 });
    }
  };
  return { heard, hear };
}
