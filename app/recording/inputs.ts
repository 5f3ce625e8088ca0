import { channelMessageOf, isNoteOff, isNoteOn, type StampedMessage } from '@ordle/core';
import { createSmallStore } from '@/ui/smallStore';

export type InputKind = 'keys' | 'pads' | 'computer-keys' | 'controls' | 'practice-player' | 'device';

/** Something that can be played. */
export interface InputSource {
  id: string;
  name: string;
  kind: InputKind;
}

/** The stand-ins that are always there; devices come and go. */
export const STAND_INS = {
  keys: { id: 'keys', name: 'Keys on the screen', kind: 'keys' },
  pads: { id: 'pads', name: 'Drum pads on the screen', kind: 'pads' },
  computerKeys: { id: 'computer-keys', name: 'Computer keys', kind: 'computer-keys' },
  controls: { id: 'controls', name: 'Controls on the screen', kind: 'controls' },
  practice: { id: 'practice-player', name: 'Practice player', kind: 'practice-player' },
} as const satisfies Record<string, InputSource>;

const sources = createSmallStore<readonly InputSource[]>(Object.values(STAND_INS));

export const useInputs = sources.useValue;
export const inputNamed = (id: string) => sources.get().find((source) => source.id === id);

type Listener = (source: InputSource, message: StampedMessage) => void;
const listeners = new Set<Listener>();
/** Input -> keys and pedals of it that are down, each with what lets it go. */
const down = new Map<string, Map<string, number[]>>();
const PEDALS = [64, 66, 67, 69];

/** Hears everything that arrives, of all inputs, as it arrived. */
export function onArrival(listener: Listener): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/**
 * Bytes of an input, with the moment they were played at (ms on the clock of the page). System messages are ignored.
 */
export function arrive(source: InputSource, bytes: ArrayLike<number>, stamp = performance.now()): void {
  const message = channelMessageOf(bytes);
  if (!message) return;
  const { status, data1, data2 } = message;
  const held = down.get(source.id) ?? new Map<string, number[]>();
  down.set(source.id, held);
  const key = `${isNoteOn(message) || isNoteOff(message) ? 'note' : 'pedal'} ${status & 15} ${data1}`;
  if (isNoteOn(message)) held.set(key, [0x80 | (status & 15), data1, 64]);
  else if (isNoteOff(message)) held.delete(key);
  else if (status >> 4 === 0xb && PEDALS.includes(data1)) {
    if (data2 > 0) held.set(key, [status, data1, 0]);
    else held.delete(key);
  }
  listeners.forEach((listener) => listener(source, { ...message, stamp }));
}

/** Lets go whatever is down on an input, or on all. */
export function letGoInputs(id?: string): void {
  for (const source of sources.get())
    if (id === undefined || source.id === id)
      for (const bytes of [...(down.get(source.id)?.values() ?? [])]) arrive(source, bytes);
}

export function addInput(source: InputSource): void {
  sources.set([...sources.get().filter(({ id }) => id !== source.id), source]);
}

/** An input that is not there any more: what was down on it is let go. */
export function removeInput(id: string): void {
  letGoInputs(id);
  sources.set(sources.get().filter((source) => source.id !== id));
}
