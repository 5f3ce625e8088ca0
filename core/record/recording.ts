import type { TakeContent } from '../model';
import type { Session } from '../session';
import type { Timeline } from '../time';
import type { ChannelMessage } from './message';
import { createOpenTake } from './openTake';
import { passesPlayed, type Recorded } from './recordedPart';
import { createMusicRun, recordedTempos, recordedTime, takeTickOf, type TickRange } from './run';

/**
 * Where and how is recorded: the tick it begins at, the loop it runs in, a stretch that alone counts, and a share of
 * the session's tempo.
 */
export interface RecordingSettings {
  from: number;
  loop: TickRange | null;
  punch: TickRange | null;
  speed: number;
}

/** A recording under way. */
export function createRecording(
  session: Pick<Session, 'tempos' | 'meters'>,
  timeline: Timeline,
  { from, loop, punch, speed }: RecordingSettings,
) {
  const time = recordedTime(timeline, from, speed);
  const run = createMusicRun(timeline, loop);
  const open = createOpenTake();
  const place = (second: number) => takeTickOf(time, run.at(second).unrolled);
  const ticks = (tick: number) => Math.max(0, Math.round(takeTickOf(time, tick)));

  return {
    time,
    run,
    open,
    settings: { from, loop, punch, speed },
    /** A message at a second of the music, counted on through the loop. */
    add: (second: number, message: ChannelMessage) => open.add(place(second), message),
    /** The take, without its key, and where it lies; it ends at a second. */
    seal(second: number, name: string): { content: TakeContent; recorded: Omit<Recorded, 'take'> } {
      const { unrolled, pass } = run.at(second);
      const { events, endTick } = open.seal(takeTickOf(time, unrolled));
      const recorded = { events, time, from, end: unrolled, loop, punch };
      const content = {
        name,
        division: { kind: 'metrical' as const, ticksPerQuarter: time.ticksPerQuarter },
        tempos: recordedTempos(session.tempos, timeline, time, loop, pass + 1),
        meters: session.meters.map((meter) => ({ ...meter, tick: meter.tick === 0 ? 0 : ticks(meter.tick) })),
        events,
        endTick,
      };
      return { content, recorded: { ...recorded, passes: passesPlayed(recorded, timeline) } };
    },
  };
}

export type Recording = ReturnType<typeof createRecording>;
