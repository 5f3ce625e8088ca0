import { isNoteOff, isNoteOn, type StampedMessage } from './message';

/** A message that was played, and where the music was then: seconds counted on through loops; null where none ran. */
export interface RememberedMessage extends StampedMessage {
  at: number | null;
  /** Number of the run of music it fell into. */
  run: number | null;
}

/** Kept of each input: so many messages or so long, whichever is more. */
export const MEMORY_MESSAGES = 10_000;
export const MEMORY_MS = 20 * 60_000;

/** A pause of so long, with no key down, parts what was played. */
export const SILENCE_MS = 4000;

/** The newest part of what was played that has to be kept. */
export function trimmed<T extends StampedMessage>(messages: readonly T[]): readonly T[] {
  const newest = messages.at(-1)?.stamp ?? 0;
  const surplus = messages.length - MEMORY_MESSAGES;
  if (surplus <= 0 || newest - messages[0].stamp <= MEMORY_MS) return messages;
  const old = messages.findIndex(({ stamp }) => newest - stamp <= MEMORY_MS);
  return messages.slice(Math.min(surplus, old));
}

/** A stretch of what was played, by its first row and the one after its last. */
export interface PlayedStretch {
  first: number;
  end: number;
  /** Ms on the page's clock. */
  from: number;
  to: number;
  notes: number;
}

/** What was played, parted where for four seconds or longer nothing came and no key was down. */
export function playedStretches(messages: readonly StampedMessage[]): PlayedStretch[] {
  const stretches: PlayedStretch[] = [];
  const down = new Map<number, number>();
  messages.forEach((message, row) => {
    const last = stretches.at(-1);
    const isApart = !last || (down.size === 0 && message.stamp - last.to >= SILENCE_MS);
    const stretch = isApart
      ? { first: row, end: row + 1, from: message.stamp, to: message.stamp, notes: 0 }
      : last;
    if (isApart) stretches.push(stretch);
    stretch.end = row + 1;
    stretch.to = message.stamp;
    const key = ((message.status & 15) << 7) | message.data1;
    if (isNoteOn(message)) {
      stretch.notes++;
      down.set(key, (down.get(key) ?? 0) + 1);
    } else if (isNoteOff(message)) {
      const left = (down.get(key) ?? 0) - 1;
      if (left > 0) down.set(key, left);
      else down.delete(key);
    }
  });
  return stretches;
}
