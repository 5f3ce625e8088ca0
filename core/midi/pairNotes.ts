import type { EventColumns } from './events';

/**
 * Which rows of a track belong together as notes: for note n, `on[n]` and `off[n]` are event rows; `off` is -1 (as
 * 0xFFFFFFFF) for a note never released. In order of the note-ons.
 */
export interface NotePairs {
  on: Uint32Array;
  off: Uint32Array;
}

export const NEVER_RELEASED = 0xffffffff;

const NO_PAIRS: NotePairs = { on: new Uint32Array(0), off: new Uint32Array(0) };

/**
 * Pairs note-ons with note-offs first-in first-out per channel and pitch: when the same pitch is struck again before
 * its release, the first release ends the first stroke. A note-on of velocity 0 is a note-off (MIDI 1.0).
 * Releases without a stroke belong to no note. Events never change, so they are paired once, however often it is asked.
 */
export function pairNotes(events: EventColumns): NotePairs {
  const known = pairsOf.get(events);
  if (known) return known;
  const pairs = pairedAnew(events);
  pairsOf.set(events, pairs);
  return pairs;
}

const pairsOf = new WeakMap<EventColumns, NotePairs>();

function pairedAnew(events: EventColumns): NotePairs {
  const { status, data1, data2, length } = events;
  let count = 0;
  for (let row = 0; row < length; row++) if (status[row] >> 4 === 9 && data2[row] > 0) count++;
  if (count === 0) return NO_PAIRS;
  const on = new Uint32Array(count);
  const off = new Uint32Array(count).fill(NEVER_RELEASED);
  // A queue per channel and pitch, as linked lists through the notes: no allocation per note.
  const head = new Int32Array(2048).fill(-1);
  const tail = new Int32Array(2048).fill(-1);
  const next = new Int32Array(count).fill(-1);
  let note = 0;
  for (let row = 0; row < length; row++) {
    const kind = status[row] >> 4;
    if (kind !== 9 && kind !== 8) continue;
    const key = ((status[row] & 15) << 7) | data1[row];
    if (kind === 9 && data2[row] > 0) {
      on[note] = row;
      if (head[key] < 0) head[key] = note;
      else next[tail[key]] = note;
      tail[key] = note;
      note++;
    } else if (head[key] >= 0) {
      off[head[key]] = row;
      head[key] = next[head[key]];
    }
  }
  return { on, off };
}
