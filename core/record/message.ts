/** A channel message of MIDI 1.0: status with its channel, and data, 0 where the kind has none. */
export interface ChannelMessage {
  status: number;
  data1: number;
  data2: number;
}

/** A message as it arrived: when, in ms on the clock of the page. */
export interface StampedMessage extends ChannelMessage {
  stamp: number;
}

/**
 * The channel message in some bytes of an input; null for system messages (clock and active sensing among them) and
 * for what is no whole message. By the message tables of MIDI 1.0.
 */
export function channelMessageOf(bytes: ArrayLike<number>): ChannelMessage | null {
  const status = bytes[0];
  if (bytes.length < 2 || status < 0x80 || status >= 0xf0) return null;
  const isShort = (status & 0xe0) === 0xc0;
  if (bytes.length < (isShort ? 2 : 3)) return null;
  const [data1, data2] = [bytes[1], isShort ? 0 : bytes[2]];
  return data1 > 127 || data2 > 127 ? null : { status, data1, data2 };
}

export const isNoteOn = ({ status, data2 }: ChannelMessage): boolean => status >> 4 === 9 && data2 > 0;

export const isNoteOff = ({ status, data2 }: ChannelMessage): boolean =>
  status >> 4 === 8 || (status >> 4 === 9 && data2 === 0);
