import { pedalSpans, readLane } from '../curves';
import type { EventColumns } from '../midi';
import { rowsById, type Material } from '../model';

/** What became of a part between two stops, counted; changes a file could not hold do not count. */
export interface ChangeReading {
  /** Notes that are in any way others than they were, those added and removed among them. */
  notes: number;
  removed: number;
  added: number;
  moved: number;
  repitched: number;
  /** Notes whose velocities, or lengths while they were not moved, are others. */
  velocities: number;
  lengths: number;
  /** Presses of the sustain pedal, and points of all controllers, before and after. */
  presses: [before: number, after: number];
  points: [before: number, after: number];
}

/** Counts what is different in `after`. */
export function readChanges(before: Material, after: Material): ChangeReading {
  const reading: ChangeReading = {
    notes: 0,
    removed: 0,
    added: 0,
    moved: 0,
    repitched: 0,
    velocities: 0,
    lengths: 0,
    presses: [0, 0],
    points: [0, 0],
  };
  if (before.notes !== after.notes) countNotes(before, after, reading);
  if (before.events !== after.events) {
    reading.presses = [pressesIn(before.events), pressesIn(after.events)];
    reading.points = [pointsIn(before.events), pointsIn(after.events)];
  }
  return reading;
}

function countNotes({ notes: before }: Material, { notes: after }: Material, reading: ChangeReading): void {
  const { rowOf } = rowsById(after);
  let kept = 0;
  const differs = (a: number, b: number) => Math.round(a) !== Math.round(b);
  for (let row = 0; row < before.length; row++) {
    const other = rowOf(before.id[row]);
    if (other < 0) {
      reading.removed++;
      continue;
    }
    kept++;
    const isMoved = differs(before.start[row], after.start[other]);
    const hasLength = differs(before.end[row], after.end[other]);
    const hasPitch = before.pitch[row] !== after.pitch[other];
    const hasVelocity = differs(before.velocity[row], after.velocity[other]);
    if (isMoved) reading.moved++;
    else if (hasLength) reading.lengths++;
    if (hasPitch) reading.repitched++;
    if (hasVelocity) reading.velocities++;
    if (isMoved || hasLength || hasPitch || hasVelocity) reading.notes++;
  }
  reading.added = after.length - kept;
  reading.notes += reading.added + reading.removed;
}

function pressesIn(events: EventColumns): number {
  let channels = 0;
  for (let row = 0; row < events.length; row++)
    if (events.status[row] >> 4 === 0xb && events.data1[row] === 64)
      channels |= 1 << (events.status[row] & 15);
  let presses = 0;
  for (let channel = 0; channel < 16; channel++)
    if (channels & (1 << channel)) presses += pedalSpans(readLane(events, 'cc64', channel)).length;
  return presses;
}

/** Controllers, pressures and bends. */
function pointsIn({ status, length }: EventColumns): number {
  let points = 0;
  for (let row = 0; row < length; row++) {
    const kind = status[row] >> 4;
    if (kind === 0xa || kind === 0xb || kind === 0xd || kind === 0xe) points++;
  }
  return points;
}
