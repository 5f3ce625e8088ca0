import { sentenceOf, type ExportChoice, type Session } from '@ordle/core';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { useTransport } from '@/playback/usePlayback';
import { transport } from '@/sound/transport';

/** Seconds that ring on after the last note before playing ends. */
const TAIL_SECONDS = 1.5;

/**
 * Plays exactly what will be written: the chosen parts alone, muted or not, on the file's own ticks, and of some bars
 * these. It ends when something else is chosen or the place is left, and the play line is where it was.
 */
export function useListening(session: Session, choice: ExportChoice) {
  const { playing, starting } = useTransport();
  const [isOurs, setOurs] = useState(false);
  const before = useRef(0);
  const stop = useRef(() => undefined as void);
  useEffect(() => {
    stop.current = () => {
      if (!isOurs) return;
      transport.stop();
      transport.locate(before.current);
      setOurs(false);
    };
  });
  useEffect(() => () => stop.current(), [session, choice]);
  const toggle = async () => {
    if (isOurs && (playing || starting)) return stop.current();
    if (playing || starting) return transport.stop();
    before.current = transport.second();
    setOurs(true);
    try {
      await transport.play(async () => {
        const { parts, end } = await engine.exportSound({ session, choice });
        return {
          score: {
            parts: parts.map((part) => ({ ...part, audible: true })),
            end: end + TAIL_SECONDS,
            clickTimes: new Float64Array(0),
            clickAccents: new Uint8Array(0),
          },
          second: 0,
          loop: null,
          click: 0,
        };
      });
    } catch (error) {
      setOurs(false);
      toast(transport.state().message ?? sentenceOf(error), { duration: 8000 });
    }
  };
  return { toggle, isPlaying: isOurs && playing, isGettingReady: isOurs && starting };
}
