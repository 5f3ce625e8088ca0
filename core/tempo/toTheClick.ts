import { barAt, secondsToTicks, ticksToSeconds, type Timeline } from '../time';
import type { FoundBeats } from './findBeats';

/** A beat within this of half a beat of the session lies on it, in seconds. */
const ON_LINE = 0.035;
/** More surely than this, playing was recorded to the click. */
const RATHER = 0.5;

/**
 * Whether found beats are those of a session, to which then was recorded: how many of them lie on its beats or half
 * way between, against how many would by chance. `sure` is 0 to 1; without beats 0.
 */
export function toTheClick(
  { beats }: Pick<FoundBeats, 'beats'>,
  timeline: Timeline,
): { is: boolean; sure: number } {
  const { tempo, meter } = timeline;
  let [on, chance] = [0, 0];
  for (const at of beats) {
    const tick = secondsToTicks(tempo, at);
    const bar = barAt(meter, Math.max(0, tick));
    const half = (timeline.ticksPerQuarter * 2) / meter.denominator[bar.row];
    const line = bar.start + Math.round((tick - bar.start) / half) * half;
    const width = ticksToSeconds(tempo, line + half) - ticksToSeconds(tempo, line);
    if (Math.abs(ticksToSeconds(tempo, line) - at) <= ON_LINE) on++;
    chance += Math.min(1, (2 * ON_LINE) / width);
  }
  if (beats.length < 2 || chance >= beats.length) return { is: false, sure: 0 };
  const sure = Math.max(0, (on - chance) / (beats.length - chance));
  return { is: sure > RATHER, sure };
}
