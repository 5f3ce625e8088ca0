import type { PlaybackPart } from '@ordle/core';

/** A channel message without its channel. */
export type Message = [kind: number, data1: number, data2: number];

const KEY_PRESSURE = 0xa0;
const CONTROLLER = 0xb0;
const PROGRAM = 0xc0;
const PRESSURE = 0xd0;
const BEND = 0xe0;
/** Parameter numbers and data entry: what they mean depends on their order, so they are repeated as they came. */
const PARAMETER_CONTROLLERS = new Set([6, 38, 96, 97, 98, 99, 100, 101]);
const BANK_CONTROLLERS = [0, 32];
/**
 * What holds notes after their keys were let go: sustain, sostenuto and hold 2 (MIDI 1.0, controllers 64, 66 and 69).
 */
export const HOLDING_CONTROLLERS = [64, 66, 69];

/**
 * What controllers stand at in an instrument nobody has touched (General MIDI 1 and RP-015, from memory); 0 where
 * nothing is said.
 */
const RESTING_CONTROLLERS: Readonly<Record<number, number>> = {
  7: 100,
  8: 64,
  10: 64,
  11: 127,
  70: 64,
  71: 64,
  72: 64,
  73: 64,
  74: 64,
  75: 64,
  76: 64,
  77: 64,
  78: 64,
};
export const restingController = (controller: number): number => RESTING_CONTROLLERS[controller] ?? 0;

/** Bend range (RPN 0) of two semitones, both tunings (RPN 1 and 2) at their middle, and no parameter chosen. */
export const RESTING_PARAMETERS: readonly Message[] = (
  [
    [101, 0],
    [100, 0],
    [6, 2],
    [38, 0],
    [101, 0],
    [100, 1],
    [6, 64],
    [38, 0],
    [101, 0],
    [100, 2],
    [6, 64],
    [38, 0],
    [101, 127],
    [100, 127],
  ] as const
).map(([controller, value]): Message => [CONTROLLER, controller, value]);

/** Everything that messages have set on a channel: what a note played now sounds with. */
export interface ChannelState {
  program: number | null;
  controllers: Map<number, number>;
  keyPressures: Map<number, number>;
  pressure: number;
  bend: [number, number];
  parameters: Message[];
}

/** An instrument nobody has touched. */
const restingState = (): ChannelState => ({
  program: null,
  controllers: new Map(),
  keyPressures: new Map(),
  pressure: 0,
  bend: [0, 64],
  parameters: [],
});

/** The state after the first `count` messages of a part. */
export function stateAfter(part: PlaybackPart, count: number): ChannelState {
  const state = restingState();
  const { eventKind, eventData1, eventData2 } = part;
  for (let row = 0; row < count; row++) {
    const [kind, data1, data2] = [eventKind[row], eventData1[row], eventData2[row]];
    if (kind === CONTROLLER) {
      if (PARAMETER_CONTROLLERS.has(data1)) state.parameters.push([kind, data1, data2]);
      else state.controllers.set(data1, data2);
    } else if (kind === PROGRAM) state.program = data1;
    else if (kind === KEY_PRESSURE) state.keyPressures.set(data1, data2);
    else if (kind === PRESSURE) state.pressure = data1;
    else if (kind === BEND) state.bend = [data1, data2];
  }
  return state;
}

/**
 * The messages that bring an instrument nobody has touched into the state it has at `second`: bank and program,
 * registered parameters (the bend range) in their order, then controllers, pressure and bend. Messages at `second`
 * itself are not included: they are about to be played.
 */
export function chaseMessages(part: PlaybackPart, second: number): Message[] {
  let count = 0;
  while (count < part.eventTime.length && part.eventTime[count] < second) count++;
  return messagesBetween(restingState(), stateAfter(part, count), 0);
}

/**
 * The messages that bring a channel from one state into another. `program` is the part's own, in force where no
 * message names one.
 */
export function messagesBetween(from: ChannelState, to: ChannelState, program: number): Message[] {
  const messages: Message[] = [];
  const moveController = (controller: number) => {
    const rest = restingController(controller);
    const wanted = to.controllers.get(controller) ?? rest;
    if ((from.controllers.get(controller) ?? rest) !== wanted)
      messages.push([CONTROLLER, controller, wanted]);
  };
  if (to.program === null && from.program !== null) {
    // Back to the part's own sound, which stands in the first bank whatever bank is chosen for the next program change.
    for (const bank of BANK_CONTROLLERS) messages.push([CONTROLLER, bank, 0]);
    messages.push([PROGRAM, program, 0]);
    for (const bank of BANK_CONTROLLERS) messages.push([CONTROLLER, bank, to.controllers.get(bank) ?? 0]);
  } else {
    BANK_CONTROLLERS.forEach(moveController);
    if (to.program !== null && (to.program !== from.program || messages.length > 0))
      messages.push([PROGRAM, to.program, 0]);
  }
  if (!sameMessages(from.parameters, to.parameters)) {
    if (from.parameters.length > 0) messages.push(...RESTING_PARAMETERS);
    for (const parameter of to.parameters) messages.push(parameter);
  }
  for (const controller of new Set([...from.controllers.keys(), ...to.controllers.keys()]))
    if (!BANK_CONTROLLERS.includes(controller)) moveController(controller);
  for (const pitch of new Set([...from.keyPressures.keys(), ...to.keyPressures.keys()])) {
    const wanted = to.keyPressures.get(pitch) ?? 0;
    if ((from.keyPressures.get(pitch) ?? 0) !== wanted) messages.push([KEY_PRESSURE, pitch, wanted]);
  }
  if (from.pressure !== to.pressure) messages.push([PRESSURE, to.pressure, 0]);
  if (from.bend[0] !== to.bend[0] || from.bend[1] !== to.bend[1]) messages.push([BEND, ...to.bend]);
  return messages;
}

function sameMessages(a: readonly Message[], b: readonly Message[]): boolean {
  return (
    a.length === b.length && a.every((message, at) => message.every((byte, place) => byte === b[at][place]))
  );
}

/** Rows of the notes that are held across `second`: struck before it and released after it. */
export function heldNotes(part: PlaybackPart, second: number): number[] {
  const held: number[] = [];
  for (let row = 0; row < part.noteStart.length && part.noteStart[row] < second; row++) {
    if (part.noteEnd[row] > second) held.push(row);
  }
  return held;
}
