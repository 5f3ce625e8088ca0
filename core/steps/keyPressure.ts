import { pickEvents, type EventColumns } from '../midi';
import { mergeOrder, type NoteTable } from '../model';

/** What becomes of notes, by row: their new pitch, by how many ticks they moved, and 1 for those that are gone. */
export interface Fate {
  pitch: Uint8Array;
  shift?: Float64Array;
  gone?: Uint8Array;
}

/**
 * The events with the pressure of single keys taken along with its notes: each belongs to the note of its key and
 * channel that began last at or before it. The very same events when none goes anywhere.
 */
export function withKeyPressure(events: EventColumns, notes: NoteTable, readFate: () => Fate): EventColumns {
  let any = false;
  for (let row = 0; row < events.length && !any; row++) any = (events.status[row] & 0xf0) === 0xa0;
  if (!any) return events;
  const fate = readFate();
  // Notes and events are both in order of time: one pass keeps the last note begun on each key.
  const last = new Int32Array(2048).fill(-1);
  const [data1, tick] = [events.data1.slice(), events.tick.slice()];
  const kept: number[] = [];
  let changed = false;
  for (let row = 0, note = 0; row < events.length; row++) {
    kept.push(row);
    if ((events.status[row] & 0xf0) !== 0xa0) continue;
    for (; note < notes.length && notes.start[note] <= events.tick[row]; note++)
      last[(notes.channel[note] << 7) | notes.pitch[note]] = note;
    const owner = last[((events.status[row] & 15) << 7) | events.data1[row]];
    if (owner < 0) continue;
    if (fate.gone?.[owner]) kept.pop();
    data1[row] = fate.pitch[owner];
    tick[row] = Math.max(0, tick[row] + (fate.shift?.[owner] ?? 0));
    changed ||=
      fate.gone?.[owner] === 1 || data1[row] !== events.data1[row] || tick[row] !== events.tick[row];
  }
  if (!changed) return events;
  const moved = pickEvents({ ...events, data1, tick }, kept);
  return pickEvents(
    moved,
    mergeOrder(moved.length, (a, b) => moved.tick[a] - moved.tick[b]),
  );
}
