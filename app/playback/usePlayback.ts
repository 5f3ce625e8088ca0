import { itemOf, listOf, barAt, ticksToSeconds, type Session, type Timeline } from '@ordle/core';
import { useCallback, useEffect, useMemo, useRef, useSyncExternalStore } from 'react';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { createLatest } from '@/engine/latest';
import type { PlaybackRequest, WaitingPart } from '@/engine/protocol';
import type { Score } from '@ordle/sound';
import { NO_SOUND, transport } from '@/sound/transport';
import { useAppSelector } from '@/state/store';
import type { BenchState } from '@/music/useBench';
import { isScoreHeld } from './heldScore';
import { useHolding } from './holding';
import { scoreParts } from './scoreParts';

/** Seconds that ring on after the last note before playing ends. */
const TAIL_SECONDS = 1.5;
const MOST_CLICKS = 200000;

/** Pitches of parts that are muted. */
type Silent = Readonly<Record<string, readonly number[]>>;

export function useTransport() {
  return useSyncExternalStore(transport.subscribe, transport.state);
}

/**
 * Plays the session as the Bench shows it and keeps what is playing in step with every change. `loopTime` is the time
 * the loop is told in, where what is played is laid under another tempo.
 */
export function usePlayback(bench: BenchState | null, loopTime?: Timeline) {
  const { playing, message } = useTransport();
  const loop = useAppSelector((state) => state.view.loop);
  const click = useAppSelector((state) => state.view.click);
  const silent = useAppSelector((state) => state.view.silent);
  const holding = useHolding();
  const blend = holding ? 0 : (bench?.view.blend ?? 1);
  const session = bench?.session;
  const timeline = bench?.timeline;
  const partId = bench?.part?.id;
  const stopIndex = bench?.stop?.index ?? 0;

  const request = useMemo<PlaybackRequest | null>(
    () =>
      session && partId
        ? {
            session,
            stops: { [partId]: stopIndex },
            blend,
            partIds: listOf(session.parts).map(({ id }) => id),
          }
        : null,
    [session, partId, stopIndex, blend],
  );
  const update = useRef(
    createLatest(
      async (asked: { request: PlaybackRequest; timeline: Timeline; silent: Silent }) =>
        scoreOf(asked.request, asked.timeline, asked.silent),
      (score) => !isScoreHeld() && transport.setScore(score),
      (error) => console.error(error),
    ),
  );

  useEffect(() => {
    if (playing && request && timeline && !isScoreHeld()) update.current.ask({ request, timeline, silent });
  }, [playing, request, timeline, silent]);

  const range = useMemo(() => {
    const told = loopTime ?? timeline;
    if (!loop.on || !told || loop.to <= loop.from) return null;
    return { from: ticksToSeconds(told.tempo, loop.from), to: ticksToSeconds(told.tempo, loop.to) };
  }, [loop, timeline, loopTime]);
  useEffect(() => {
    if (message === NO_SOUND) toast(message, { duration: 8000 });
  }, [message]);
  useEffect(() => {
    // While something is recorded its own loop holds.
    if (!isScoreHeld()) transport.setLoop(range);
  }, [range]);
  useEffect(() => transport.setClick(click ? 1 : 0), [click]);
  useEffect(() => () => transport.stop(), [session?.id]);

  const toggle = useCallback(async () => {
    const { playing: isPlaying, starting } = transport.state();
    // While the instruments load, the same key takes the wish back.
    if (isPlaying || starting) return transport.stop();
    if (!request || !timeline) return;
    try {
      await transport.play(async () => {
        const score = await scoreOf(request, timeline, silent);
        let second = transport.second();
        if (range && (second < range.from || second >= range.to)) second = range.from;
        else if (!range && second >= score.end - 0.01) second = 0;
        return { score, second, loop: range, click: click ? 1 : 0 };
      });
    } catch (error) {
      toast(transport.state().message ?? (error instanceof Error ? error.message : String(error)), {
        duration: 8000,
      });
    }
  }, [request, timeline, range, click, silent]);

  const around = useCallback(
    async (tick: number) => {
      if (!timeline) return;
      const [from, to] = aroundTick(timeline, tick);
      transport.locate(from);
      if (!transport.state().playing) await toggle();
      stopAt(from, to);
    },
    [timeline, toggle],
  );

  return { toggle, around, playing };
}

/** From a beat before a tick to a bar after it, in seconds. */
export function aroundTick({ meter, tempo }: Timeline, tick: number): [from: number, to: number] {
  const bar = barAt(meter, Math.max(0, tick));
  const from = Math.max(0, tick - meter.beatTicks[bar.row]);
  return [ticksToSeconds(tempo, from), ticksToSeconds(tempo, tick + bar.end - bar.start)];
}

let watch: ReturnType<typeof setInterval> | undefined;

/** Ends playing at a second, unless it was stopped or put elsewhere before. */
function stopAt(from: number, to: number) {
  clearInterval(watch);
  watch = setInterval(() => {
    const second = transport.second();
    const isOver = !transport.state().playing || second < from - 0.1 || second > to + 1;
    if (!isOver && second < to) return;
    clearInterval(watch);
    if (!isOver) transport.stop();
  }, 40);
}

let toldSilent = '';

/** Says once which parts are not heard, and why. */
function tellSilent(session: Session, waiting: readonly WaitingPart[]) {
  const heard = waiting.filter(({ partId }) => {
    const part = itemOf(session.parts, partId);
    return part && !part.muted && !part.setAside;
  });
  const words = heard.map(({ why }) => why).join(' ');
  if (words !== toldSilent && words !== '') toast(`Not heard: ${words}`, { duration: 8000 });
  toldSilent = words;
}

/** What is heard of a session, as seconds. */
export async function scoreOf(
  request: PlaybackRequest,
  timeline: Timeline,
  silent: Silent = {},
): Promise<Score> {
  const { session } = request;
  const heard = await engine.playback(request);
  tellSilent(session, heard.waiting);
  const parts = scoreParts(session, heard.parts, silent);
  const lastEnd = parts.reduce(
    (latest, { playback }) => playback.noteEnd.reduce((most, end) => Math.max(most, end), latest),
    0,
  );
  return { parts, end: lastEnd + TAIL_SECONDS, ...clicks(timeline, lastEnd) };
}

/** A click on every beat, the first of each bar accented, to the end of the last bar. */
function clicks({ meter, tempo }: Timeline, lastSecond: number): Pick<Score, 'clickTimes' | 'clickAccents'> {
  const times: number[] = [];
  const accents: number[] = [];
  for (let tick = 0; ticksToSeconds(tempo, tick) < lastSecond && times.length < MOST_CLICKS;) {
    const bar = barAt(meter, tick);
    for (let beat = bar.start; beat < bar.end - 1e-6; beat += meter.beatTicks[bar.row]) {
      times.push(ticksToSeconds(tempo, beat));
      accents.push(beat === bar.start ? 1 : 0);
    }
    tick = bar.end;
  }
  return { clickTimes: Float64Array.from(times), clickAccents: Uint8Array.from(accents) };
}
