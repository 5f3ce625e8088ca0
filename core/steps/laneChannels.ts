import { channelsOfLane } from '../curves';
import type { Material } from '../model';

/**
 * Channels (0-15) a step on lanes works on: the one its where names, else the part's, else all that the lane or the
 * notes use.
 */
export function laneChannels(
  { notes, events }: Material,
  lane: string,
  where: { channel?: number },
  channel: number | undefined,
): number[] {
  if (where.channel !== undefined)
    return channel === undefined || channel === where.channel - 1 ? [where.channel - 1] : [];
  if (channel !== undefined) return [channel];
  return [...new Set([...channelsOfLane(events, lane), ...notes.channel])].sort((a, b) => a - b);
}
