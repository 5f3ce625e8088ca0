import {
  barAt,
  listOf,
  secondsToTicks,
  ticksToSeconds,
  type PlaybackPart,
  type Session,
  type Timeline,
} from '@ordle/core';
import { useEffect, useMemo, useRef } from 'react';
import { useColours } from '@/editor';
import { engine } from '@/engine/engineClient';
import { useAnswer } from '@/engine/useAnswer';
import { currentTake } from '@/recording/recorder';
import { type RecordingPlan } from '@/recording/recordingPlan';
import { transport } from '@/sound/transport';
import { LINE_AT, PIXELS_A_SECOND, paintRibbon, type RibbonScene } from './ribbon';

interface RibbonProps {
  session: Session;
  timeline: Timeline;
  plan: RecordingPlan;
  /** Puts the play line elsewhere; absent while it may not be. */
  onLocate?(tick: number): void;
}

const heardParts = async ({ session }: { session: Session }) =>
  (
    await engine.playback({
      session,
      stops: {},
      blend: 1,
      partIds: listOf(session.parts).map(({ id }) => id),
    })
  ).parts;

/** The stretch a recording will begin and end at, in seconds; without an end it goes on. */
function rangeOf({ tempo }: Timeline, { from, loop, punch }: RecordingPlan) {
  const own = punch ?? loop;
  const second = (tick: number) => ticksToSeconds(tempo, tick);
  return own ? { from: second(own.from), to: second(own.to) } : { from: second(from), to: Infinity };
}

/** The music as a ribbon that moves under a fixed line; painted at every frame while it does. */
export function Ribbon({ session, timeline, plan, onLocate }: RibbonProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const colours = useColours();
  const { answer } = useAnswer<{ session: Session }, PlaybackPart[]>(heardParts, { session });
  const inks = useMemo(
    () => new Map(listOf(session.parts).map(({ id, ink }) => [id, colours.parts[ink]])),
    [session, colours],
  );
  const others = useMemo(
    () =>
      listOf(session.parts).flatMap((part, index) => {
        const playback = answer?.[index];
        return playback && !part.muted && !part.setAside
          ? [{ id: part.id, playback, ink: colours.parts[part.ink] }]
          : [];
      }),
    [session, answer, colours],
  );
  useEffect(() => {
    let frame = 0;
    const paint = () => {
      const element = canvas.current;
      const context = element?.getContext('2d');
      if (!element || !context) return;
      const { clientWidth: width, clientHeight: height } = element;
      const dense = window.devicePixelRatio || 1;
      if (element.width !== Math.round(width * dense) || element.height !== Math.round(height * dense)) {
        element.width = Math.round(width * dense);
        element.height = Math.round(height * dense);
      }
      context.setTransform(dense, 0, 0, dense, 0, 0);
      const take = currentTake();
      const { counting, playing } = transport.state();
      const isReplaced = take !== null && (take.settings.mode === 'take' || take.settings.mode === 'replace');
      const own = new Set(take?.targets.map(({ partId }) => partId));
      const scene: RibbonScene = {
        timeline,
        second: transport.second(),
        others: others.filter(({ id }) => !isReplaced || !own.has(id)),
        take,
        inks,
        counting: counting ? beatsLeft(timeline, plan) : 0,
        range: rangeOf(timeline, take?.plan ?? plan),
      };
      paintRibbon(context, width, height, scene, colours);
      if (playing || take) frame = requestAnimationFrame(paint);
    };
    const again = () => {
      cancelAnimationFrame(frame);
      frame = requestAnimationFrame(paint);
    };
    again();
    const stop = transport.subscribe(again);
    const watch = new ResizeObserver(again);
    if (canvas.current) watch.observe(canvas.current);
    return () => {
      cancelAnimationFrame(frame);
      stop();
      watch.disconnect();
    };
  }, [timeline, plan, others, inks, colours]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label="The music as it comes, and what is played"
      data-testid="ribbon"
      title={onLocate && 'A click puts the play line there, on the nearest beat'}
      onClick={({ clientX, currentTarget }) => {
        const box = currentTarget.getBoundingClientRect();
        const second = transport.second() + (clientX - box.left - box.width * LINE_AT) / PIXELS_A_SECOND;
        onLocate?.(nearestBeat(timeline, second));
      }}
      className="min-h-0 w-full grow"
    />
  );
}

/** The beat nearest to a second, in ticks. */
function nearestBeat({ tempo, meter }: Timeline, second: number): number {
  const tick = Math.max(0, secondsToTicks(tempo, second));
  const bar = barAt(meter, tick);
  const beat = meter.beatTicks[bar.row];
  return Math.min(bar.end, bar.start + Math.round((tick - bar.start) / beat) * beat);
}

/** How many beats are still counted. */
function beatsLeft({ tempo, meter }: Timeline, { start }: RecordingPlan): number {
  const now = transport.musicAt(performance.now());
  if (now === null) return 0;
  const from = ticksToSeconds(tempo, start);
  const beat = ticksToSeconds(tempo, start + meter.beatTicks[0]) - from;
  return Math.max(1, Math.ceil((from - now) / beat - 1e-6));
}
