import type { EventColumns } from '../midi';
import { firstAtOrAfter } from '../time';
import { BEND_CENTRE, centsOfRaw, DEFAULT_BEND_CENTS } from './bend';

/**
 * What the channels of some events are left in: the value of every controller, bend, pressure, program and registered
 * parameter that was set, by a key of channel and thing. Values as in the messages; a parameter's is its two data
 * bytes.
 */
export type ChannelState = Map<number, number>;

/** One message: status, data. */
export type Message = [status: number, data1: number, data2: number];

const [BEND, PRESSURE, PROGRAM, KEY_PRESSURE, PARAMETER] = [0x80, 0x81, 0x82, 0x100, 0x1000];
const [DATA, DATA_FINE, NRPN_FINE, RPN, RPN_FINE] = [6, 38, 98, 101, 100];
/** Sustain, sostenuto, soft and hold 2. */
const PEDALS: readonly number[] = [64, 66, 67, 69];
const NOTHING: ReadonlySet<number> = new Set();
const NO_PARAMETER = 0x3fff;
const keyOf = (channel: number, thing: number) => channel * 0x100000 + thing;

/**
 * What a channel is in when nothing was ever set: by "reset all controllers" of RP-015, and level and panorama of
 * General MIDI 1 (RP-003). What neither speaks of stays as it is.
 */
function initialValue(thing: number): number | undefined {
  if (thing === BEND) return 64 << 7;
  if (thing === PRESSURE || (thing >= KEY_PRESSURE && thing < PARAMETER)) return 0;
  if (thing === 1 || thing === 2 || (thing >= 64 && thing <= 69)) return 0;
  return { 7: 100, 10: 64, 11: 127 }[thing];
}

/** What decides how the notes that sound on a channel are pitched and which sound they have. */
export interface SoundState {
  /** 0-127; null where none was set. */
  program: number | null;
  /** How far pitches are bent, in cents. */
  bendCents: number;
  /** How far a whole bend goes, in cents. */
  bendRange: number;
}

/** That state of a channel (0-15). Without a range a bend goes two semitones (General MIDI). */
export function soundIn(state: ChannelState, channel: number): SoundState {
  const set = state.get(keyOf(channel, PARAMETER)) ?? 0;
  // A range of nothing is none (see `bendRanges`).
  const bendRange = (set >> 7) * 100 + (set & 127) || DEFAULT_BEND_CENTS;
  return {
    program: state.get(keyOf(channel, PROGRAM)) ?? null,
    bendCents: centsOfRaw(state.get(keyOf(channel, BEND)) ?? BEND_CENTRE, bendRange),
    bendRange,
  };
}

/** Reads events one after the other into a state, of one channel (0-15) or, without one, of all. */
export function createStateReader(channel?: number) {
  const state: ChannelState = new Map();
  /**
   * The registered parameter each channel's data entry speaks of; none at first, and none while an unregistered one
   * is chosen.
   */
  const parameter = new Uint16Array(16).fill(NO_PARAMETER);
  const selected = (on: number, mask: number, bits: number) => {
    parameter[on] = (parameter[on] & mask) | bits;
  };
  function read(events: EventColumns, row: number) {
    const status = events.status[row];
    const on = status & 15;
    if (status >= 0xf0 || (channel !== undefined && on !== channel)) return;
    const [first, second] = [events.data1[row], events.data2[row]];
    const kind = status & 0xf0;
    if (kind === 0xe0) state.set(keyOf(on, BEND), (second << 7) | first);
    else if (kind === 0xd0) state.set(keyOf(on, PRESSURE), first);
    else if (kind === 0xc0) state.set(keyOf(on, PROGRAM), first);
    else if (kind === 0xa0) state.set(keyOf(on, KEY_PRESSURE + first), second);
    else if (kind === 0xb0 && first < 120) readController(on, first, second);
  }
  function readController(on: number, controller: number, value: number) {
    if (controller === RPN) selected(on, 0x7f, value << 7);
    else if (controller === RPN_FINE) selected(on, 0x3f80, value);
    else if (controller === NRPN_FINE || controller === NRPN_FINE + 1) parameter[on] = NO_PARAMETER;
    else if (controller === DATA || controller === DATA_FINE) {
      if (parameter[on] === NO_PARAMETER) return;
      const key = keyOf(on, PARAMETER + parameter[on]);
      const was = state.get(key) ?? 0;
      state.set(key, controller === DATA ? (was & 0x7f) | (value << 7) : (was & 0x3f80) | value);
    } else state.set(keyOf(on, controller), value);
  }
  return { state, read };
}

/** The state after the events before a tick. */
export function stateBefore(events: EventColumns, tick: number, channel?: number): ChannelState {
  const { state, read } = createStateReader(channel);
  for (let row = 0; row < events.length && events.tick[row] < tick; row++) read(events, row);
  return state;
}

/** The keys that are set by the events at a tick. */
export function setAt(events: EventColumns, tick: number, channel?: number): Set<number> {
  const { state, read } = createStateReader(channel);
  for (
    let row = firstAtOrAfter(events.tick, tick, events.length);
    row < events.length && events.tick[row] === tick;
    row++
  )
    read(events, row);
  return new Set(state.keys());
}

/**
 * The messages that take channels from one state to another: what `to` has, where it differs, and the initial value
 * for what only `from` has. Banks come before programs, and parameters before what they change the meaning of. `soon`
 * are keys that are set anew at that very place.
 */
export function messagesToReach(
  from: ChannelState,
  to: ChannelState,
  soon: ReadonlySet<number> = NOTHING,
): Message[] {
  const wanted = new Map<number, number>();
  for (const [key, value] of to) {
    const was = from.get(key) ?? (isMomentary(key % 0x100000) ? initialOf(key) : undefined);
    if (was !== value) wanted.set(key, value);
  }
  for (const [key, value] of from) {
    const initial = initialOf(key);
    if (!to.has(key) && initial !== undefined && initial !== value) wanted.set(key, initial);
  }
  for (const key of soon) wanted.delete(key);
  const rank = (key: number) => {
    const thing = key % 0x100000;
    if (thing === 0 || thing === 32) return 0;
    if (thing === PROGRAM) return 1;
    return thing >= PARAMETER ? 2 : 3;
  };
  return [...wanted]
    .sort(([a], [b]) => rank(a) - rank(b) || a - b)
    .flatMap(([key, value]) => messagesOf(Math.floor(key / 0x100000), key % 0x100000, value));
}

/** What goes back by itself, so that nobody need be told of its initial value; a level is said, whatever it is. */
const isMomentary = (thing: number) => ![7, 10, 11].includes(thing);
const initialOf = (key: number) => initialValue(key % 0x100000);

function messagesOf(channel: number, thing: number, value: number): Message[] {
  const controller = (number: number, data: number): Message => [0xb0 | channel, number, data];
  if (thing === BEND) return [[0xe0 | channel, value & 127, value >> 7]];
  if (thing === PRESSURE) return [[0xd0 | channel, value, 0]];
  if (thing === PROGRAM) return [[0xc0 | channel, value, 0]];
  if (thing >= PARAMETER) {
    const parameter = thing - PARAMETER;
    return [
      controller(RPN, parameter >> 7),
      controller(RPN_FINE, parameter & 127),
      controller(DATA, value >> 7),
      controller(DATA_FINE, value & 127),
      // Closed again, so that a stray data entry changes nothing (RP-018).
      controller(RPN, 127),
      controller(RPN_FINE, 127),
    ];
  }
  if (thing >= KEY_PRESSURE) return [[0xa0 | channel, thing - KEY_PRESSURE, value]];
  return [controller(thing, value)];
}

/** Lifts the pedals that are down in a state: changes it, and gives the messages. */
export function liftPedals(state: ChannelState): Message[] {
  const down = [...state].filter(([key, value]) => PEDALS.includes(key % 0x100000) && value > 0);
  for (const [key] of down) state.set(key, 0);
  return down.map(([key]) => [0xb0 | Math.floor(key / 0x100000), key % 0x100000, 0]);
}

/** Follows what channels are in while stretches of some events are laid one after the other. */
export interface StateTracker {
  /** The messages needed where a stretch begins that has the source from a tick on. */
  enter(sourceTick: number): Message[];
  /** Says that the stretch has ended, at a tick of the source. */
  leave(sourceTick: number): void;
  /** The messages that lift the pedals still down. */
  lift(): Message[];
  /**
   * Whether the source moves the pedals again after where the last stretch ended, so that something of them was cut
   * off.
   */
  hasMore(): boolean;
}

export function createStateTracker(events: EventColumns, channel?: number): StateTracker {
  let state: ChannelState = new Map();
  let left = -Infinity;
  const known = new Map<number, ChannelState>();
  const at = (tick: number): ChannelState => {
    const found = known.get(tick) ?? stateBefore(events, tick, channel);
    known.set(tick, found);
    return found;
  };
  return {
    enter(sourceTick) {
      const wanted = at(sourceTick);
      const messages = messagesToReach(state, wanted, setAt(events, sourceTick, channel));
      state = reached(state, wanted);
      return messages;
    },
    leave(sourceTick) {
      left = sourceTick;
      state = reached(state, at(sourceTick));
    },
    lift: () => liftPedals(state),
    hasMore() {
      for (let row = 0; row < events.length; row++) {
        const isPedal = (events.status[row] & 0xf0) === 0xb0 && PEDALS.includes(events.data1[row]);
        if (
          isPedal &&
          events.tick[row] >= left &&
          (channel === undefined || (events.status[row] & 15) === channel)
        )
          return true;
      }
      return false;
    },
  };
}

/** The state after going from one to another: what has no initial value to go back to stays as it was. */
export function reached(from: ChannelState, to: ChannelState): ChannelState {
  const next = new Map(to);
  for (const [key, value] of from) if (!next.has(key) && initialOf(key) === undefined) next.set(key, value);
  return next;
}
