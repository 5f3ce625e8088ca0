import { isNoteOff, isNoteOn, controllerName, pitchName, type StampedMessage } from '@ordle/core';
import { createSmallStore } from '@/ui/smallStore';
import { onArrival, type InputSource } from './inputs';

/** What arrived last, in words, and how strong it was (0-1). */
export interface Monitored {
  count: number;
  words: string;
  strength: number;
  /** The controller that moved last, for learning. */
  controller: number | null;
  velocity: number | null;
}

const store = createSmallStore<Monitored>({
  count: 0,
  words: '',
  strength: 0,
  controller: null,
  velocity: null,
});
export const useMonitor = store.useValue;

function inWords({ name }: InputSource, message: StampedMessage): string {
  const { status, data1, data2 } = message;
  const channel = `channel ${(status & 15) + 1}`;
  const kind = status & 0xf0;
  if (isNoteOn(message)) return `${name}: ${pitchName(data1)}, velocity ${data2}, ${channel}`;
  if (isNoteOff(message)) return `${name}: ${pitchName(data1)} let go, ${channel}`;
  if (kind === 0xb0) return `${name}: ${controllerName(data1) ?? `controller ${data1}`} ${data2}, ${channel}`;
  if (kind === 0xe0) return `${name}: pitch bend ${(data1 | (data2 << 7)) - 8192}, ${channel}`;
  if (kind === 0xc0) return `${name}: program ${data1 + 1}, ${channel}`;
  if (kind === 0xd0) return `${name}: pressure ${data1}, ${channel}`;
  return `${name}: pressure of ${pitchName(data1)} ${data2}, ${channel}`;
}

/** Shown at most once a frame, however much arrives. */
let waiting: [InputSource, StampedMessage] | null = null;
let count = 0;

function show(): void {
  const last = waiting;
  waiting = null;
  if (!last) return;
  const [source, message] = last;
  const { status, data1, data2 } = message;
  const before = store.get();
  store.set({
    count,
    words: inWords(source, message),
    strength: isNoteOn(message) ? data2 / 127 : before.strength,
    controller: status >> 4 === 0xb ? data1 : before.controller,
    velocity: isNoteOn(message) ? data2 : before.velocity,
  });
}

let isOn = false;

/** Follows what arrives, once. */
export function watchMonitor(): void {
  if (isOn) return;
  isOn = true;
  onArrival((source, message) => {
    count++;
    if (!waiting) requestAnimationFrame(show);
    waiting = [source, message];
  });
}
