import { laneOfEvent } from '../curves';
import type { InputMap } from '../session';
import { isNoteOff, isNoteOn, type ChannelMessage } from './message';

/** What a struck velocity is written as: between the corners of the curve evenly, beyond them as at the nearest. */
export function mappedVelocity(points: InputMap['velocity'], struck: number): number {
  const at = points.findIndex(([x]) => x >= struck);
  if (at === 0) return points[0][1];
  if (at < 0) return points[points.length - 1][1];
  const [[fromX, fromY], [toX, toY]] = [points[at - 1], points[at]];
  return Math.round(fromY + ((struck - fromX) / (toX - fromX)) * (toY - fromY));
}

/**
 * Puts messages through an input map, on the channel (0-15) of the part. A release goes to the pitch its stroke went
 * to, whatever the map is by then, so that nothing hangs.
 */
export function createInputMapper(map: InputMap, channel: number) {
  let current = map;
  let out = channel;
  /** Input channel and pitch of keys that are down -> what was sounded for each of them, in turn. */
  const down = new Map<number, { status: number; pitch: number }[]>();

  return {
    setMap(next: InputMap, nextChannel: number) {
      [current, out] = [next, nextChannel];
    },
    /** What a message becomes; null where it does not come through. */
    map(message: ChannelMessage): ChannelMessage | null {
      const { status, data1, data2 } = message;
      const key = ((status & 15) << 7) | data1;
      if (isNoteOff(message)) {
        const sounded = down.get(key)?.shift();
        return sounded
          ? { status: (status & 0xf0) | (sounded.status & 15), data1: sounded.pitch, data2 }
          : null;
      }
      if (current.channel !== null && (status & 15) !== current.channel - 1) return null;
      if (isNoteOn(message)) {
        const pitch = data1 + current.transpose;
        if (data1 < current.lowest || data1 > current.highest || pitch < 0 || pitch > 127) return null;
        const sounded = { status: 0x90 | out, pitch };
        down.set(key, [...(down.get(key) ?? []), sounded]);
        return { ...sounded, data1: pitch, data2: mappedVelocity(current.velocity, data2) };
      }
      const lane = laneOfEvent(status, data1);
      if (lane !== null && current.leaveOut.includes(lane)) return null;
      const other =
        status >> 4 === 0xb ? current.controllers.find(({ from }) => from === data1)?.to : undefined;
      return { status: (status & 0xf0) | out, data1: other ?? data1, data2 };
    },
    /** Releases for all keys that are down, which then count as let go. */
    release(): ChannelMessage[] {
      const sounding = [...down.values()].flat();
      down.clear();
      return sounding.map(({ status, pitch }) => ({ status: 0x80 | (status & 15), data1: pitch, data2: 64 }));
    },
  };
}

export type InputMapper = ReturnType<typeof createInputMapper>;
