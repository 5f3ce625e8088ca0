import type { PlaybackPart } from '@ordle/core';

/** A channel message without its channel. */
export type Message = [kind: number, data1: number, data2: number];

const CONTROLLER = 0xb0;
const PROGRAM = 0xc0;
/** Parameter numbers and data entry: what they mean depends on their order, so they are repeated as they came. */
const PARAMETER_CONTROLLERS = new Set([6, 38, 96, 97, 98, 99, 100, 101]);
const BANK_CONTROLLERS = [0, 32];

/**
 * The messages that bring an instrument into the state it has at `second`: bank and program, registered parameters (the bend
 * range) in their order, then the last value of every controller, pressure and the bend. Messages at `second` itself are
 * not included: they are about to be played.
 */
export function chaseMessages(part: PlaybackPart, second: number): Message[] {
  const controllers = new Map<number, number>();
  const keyPressures = new Map<number, number>();
  const parameters: Message[] = [];
  let program: Message | null = null;
  let pressure: Message | null = null;
  let bend: Message | null = null;
  for (let row = 0; row < part.eventTime.length && part.eventTime[row] < second; row++) {
    const message: Message = [part.eventKind[row], part.eventData1[row], part.eventData2[row]];
    if (message[0] === CONTROLLER) {
      if (PARAMETER_CONTROLLERS.has(message[1])) parameters.push(message);
      else controllers.set(message[1], message[2]);
    } else if (message[0] === PROGRAM) program = message;
    else if (message[0] === 0xa0) keyPressures.set(message[1], message[2]);
    else if (message[0] === 0xd0) pressure = message;
    else if (message[0] === 0xe0) bend = message;
  }
  const messages: Message[] = [];
  for (const bank of BANK_CONTROLLERS) {
    const value = controllers.get(bank);
    if (value !== undefined) messages.push([CONTROLLER, bank, value]);
    controllers.delete(bank);
  }
  if (program) messages.push(program);
  messages.push(...parameters);
  for (const [controller, value] of controllers) messages.push([CONTROLLER, controller, value]);
  for (const [pitch, value] of keyPressures) messages.push([0xa0, pitch, value]);
  if (pressure) messages.push(pressure);
  if (bend) messages.push(bend);
  return messages;
}

/** Rows of the notes that are held across `second`: struck before it and released after it. */
export function heldNotes(part: PlaybackPart, second: number): number[] {
  const held: number[] = [];
  for (let row = 0; row < part.noteStart.length && part.noteStart[row] < second; row++) {
    if (part.noteEnd[row] > second) held.push(row);
  }
  return held;
}
