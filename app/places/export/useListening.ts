import { sentenceOf, type ExportChoice, type Session } from '@ordle/core';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { requestToHear } from '@/playback/scoreToHear';
import { useTransport } from '@/playback/usePlayback';
import { transport } from '@/sound/transport';

/** What is heard: the so-manieth of so many, and its name where it is a section or a block. */
interface Heard {
  at: number;
  count: number;
  name: string;
}

/**
 * Plays exactly what will be written: the chosen parts alone, muted or not, on the file's own ticks; of some bars
 * these, and of sections or blocks one after the other, each from its own start. It ends when something else is chosen
 * or the place is left, and the play line is where it was.
 */
export function useListening(session: Session, choice: ExportChoice) {
  const { playing, starting } = useTransport();
  const [heard, setHeard] = useState<Heard | null>(null);
  const before = useRef(0);
  const hasBegun = useRef(false);

  const begin = async (at: number) => {
    hasBegun.current = false;
    setHeard((now) => ({ at, count: now?.count ?? 1, name: '' }));
    try {
      await transport.play(async () => {
        const { name, count, ...sounding } = await engine.exportSound({ session, choice, at });
        setHeard({ at, count, name });
        return requestToHear(sounding);
      });
    } catch (error) {
      setHeard(null);
      toast(transport.state().message ?? sentenceOf(error), { duration: 8000 });
    }
  };
  const end = () => {
    setHeard(null);
    transport.locate(before.current);
  };
  const stop = () => {
    // First, so that nothing follows.
    hasBegun.current = false;
    setHeard(null);
    transport.stop();
    transport.locate(before.current);
  };
  const latest = useRef({ heard, begin, end, stop });
  useEffect(() => {
    latest.current = { heard, begin, end, stop };
  });

  // Where one has ended by itself the next begins.
  useEffect(() => {
    const { heard: now, begin: go, end: over } = latest.current;
    if (playing) hasBegun.current = true;
    if (!now || playing || starting || !hasBegun.current) return;
    if (now.at + 1 < now.count) void go(now.at + 1);
    else over();
  }, [playing, starting]);

  useEffect(() => () => void (latest.current.heard && latest.current.stop()), [session, choice]);
  const toggle = async () => {
    if (heard) return stop();
    if (playing || starting) return transport.stop();
    before.current = transport.second();
    await begin(0);
  };
  const told = heard && heard.count > 1 ? `${heard.name}, ${heard.at + 1} of ${heard.count}` : null;
  return { toggle, told, isPlaying: heard !== null && playing, isGettingReady: heard !== null && starting };
}
