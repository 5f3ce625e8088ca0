import {
  blendedPlayback,
  endOfChosen,
  finerShare,
  fromItsStart,
  ticksWritten,
  timelineWritten,
  type Chosen,
} from '../../evaluate';
import type { PlaybackPart } from '../../evaluate';
import type { Take } from '../../model';
import { barAt, ticksToSeconds } from '../../time';
import type { Sounding } from './rendering';

/** Sustain, sostenuto and hold 2: what they hold sounds after its end. */
const HOLDING = [64, 66, 69];
/** Seconds after the last note within which a pedal that holds it may still go up. */
const HELD_FOR = 10;

/**
 * Chosen parts as they sound: what a MIDI file of them would play, on the same ticks and in the same order. Where parts
 * share a channel the controllers of each hold for all.
 */
export function soundingOf(chosen: Chosen, takes: (key: string) => Take): Sounding {
  const times = ticksWritten(chosen, {}, takes);
  const timeline = timelineWritten(chosen, takes, times);
  const shares = chosen.parts.map(({ part, assembly, material }) => ({
    part,
    share: finerShare(fromItsStart({ assembly, material, firstOrder: 0 }, chosen), times),
  }));
  const parts = shares.map(({ part, share: { assembly, material } }) => {
    const beside = shares
      .filter((other) => other.part.id !== part.id && other.part.channel === part.channel)
      .map((other) => other.share.material.events);
    return {
      program: part.sound.program,
      drums: part.sound.drums,
      channel: part.channel - 1,
      playback: blendedPlayback(material, material, 1, timeline.tempo, beside, assembly),
    };
  });
  const end = parts.reduce((latest, { playback }) => Math.max(latest, endOf(playback)), 0);
  const { excerpt } = chosen;
  const last = endOfChosen(chosen) * times;
  const barTick = excerpt
    ? (excerpt.to - excerpt.from) * times
    : last === 0
      ? 0
      : barAt(timeline.meter, Math.max(0, Math.ceil(last) - 1)).end;
  return { parts, end, barEnd: ticksToSeconds(timeline.tempo, barTick) };
}

/** When the last note of a part ends, or the pedal goes up that holds it. */
function endOf({ noteEnd, eventTime, eventKind, eventData1, eventData2 }: PlaybackPart): number {
  const last = noteEnd.reduce((latest, end) => Math.max(latest, end), 0);
  const down = new Set<number>();
  let at = 0;
  const read = () => {
    if (eventKind[at] !== 0xb0 || !HOLDING.includes(eventData1[at])) return;
    if (eventData2[at] >= 64) down.add(eventData1[at]);
    else down.delete(eventData1[at]);
  };
  for (; at < eventTime.length && eventTime[at] <= last; at++) read();
  for (; at < eventTime.length && down.size > 0 && eventTime[at] <= last + HELD_FOR; at++) {
    read();
    if (down.size === 0) return eventTime[at];
  }
  return last;
}
