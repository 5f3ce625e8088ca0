import { createEventBuilder, type EventColumns } from '../midi';
import { isNoteOff, isNoteOn, type ChannelMessage } from './message';

/** A note of an open take, by its row; `end` is Infinity while it is held. Ticks of the take. */
export interface OpenNote {
  row: number;
  start: number;
  end: number;
  pitch: number;
  velocity: number;
}

const PEDALS = [64, 66, 67, 69];

/**
 * What is being played, growing: rows keep their numbers while it grows and when it is sealed. Notes are paired
 * first-in first-out, as the file reader does, so that row n here is row n of the sealed take.
 */
export function createOpenTake() {
  const events = createEventBuilder(1024);
  const notes: OpenNote[] = [];
  const moves: (ChannelMessage & { tick: number })[] = [];
  /** Status channel and pitch -> rows of notes that are held. */
  const held = new Map<number, number[]>();
  /** Channel and number of pedals that are down. */
  const pedals = new Set<number>();
  let last = 0;
  let length = 0;

  function add(at: number, { status, data1, data2 }: ChannelMessage): void {
    // What two inputs send crosswise by their latencies stands at the later place: rows never move.
    const tick = Math.max(last, 0, Math.round(at));
    last = tick;
    length++;
    events.add(tick, status, data1, data2);
    const key = ((status & 15) << 7) | data1;
    if (isNoteOn({ status, data1, data2 })) {
      const row = notes.length;
      notes.push({ row, start: tick, end: Infinity, pitch: data1, velocity: data2 });
      held.set(key, [...(held.get(key) ?? []), row]);
    } else if (isNoteOff({ status, data1, data2 })) {
      const row = held.get(key)?.shift();
      if (row !== undefined) notes[row] = { ...notes[row], end: tick };
    } else {
      moves.push({ tick, status, data1, data2 });
      if (status >> 4 !== 0xb || !PEDALS.includes(data1)) return;
      if (data2 > 0) pedals.add(key);
      else pedals.delete(key);
    }
  }

  return {
    add,
    notes: notes as readonly OpenNote[],
    /** Controllers, bend and pressure, in order. */
    moves: moves as readonly (ChannelMessage & { tick: number })[],
    length: () => length,
    lastTick: () => last,
    /** Ends what is still held at a tick, pedals too, and gives the events of the take. */
    seal(at: number): { events: EventColumns; endTick: number } {
      const end = Math.max(last, Math.round(at));
      for (const [key, rows] of held)
        while (rows.length > 0) add(end, { status: 0x80 | (key >> 7), data1: key & 127, data2: 64 });
      for (const key of pedals) add(end, { status: 0xb0 | (key >> 7), data1: key & 127, data2: 0 });
      return { events: events.build(), endTick: end };
    },
  };
}
