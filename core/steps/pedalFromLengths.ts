import { pedalSpans, pedalledEnds, readLane, writeLanes, type LaneChange } from '../curves';
import type { EventColumns } from '../midi';
import { withColumns, type Material, type NoteTable } from '../model';
import { firstAtOrAfter, secondsToTicks, ticksToSeconds, type Timeline } from '../time';
import { channelEvents, eventsOf } from './channelEvents';
import { laneChannels } from './laneChannels';
import { replaced, underPresses } from './presses';
import type { StepContext } from './stepKind';
import type { Where } from './where';

/** Ticks within which ends count as one release, and seconds beyond which starts count as apart. */
const SAME_END = 1;
const APART = 0.05;

/** A press that holds what some notes held by themselves, and where those notes are let go under it, by their rows. */
interface Hold {
  press: [number, number];
  rows: { row: number; end: number }[];
}

/**
 * Long notes as shorter ones under presses that hold them as long as they were. A press under which anything on the
 * channel would sound longer or shorter, whatever part it is in, is left out.
 */
export function pedalFromLengths(
  material: Material,
  step: { lane: string; where: Where },
  { timeline, channel: only, beside }: StepContext,
  touched: Uint8Array,
  after: number,
): Material {
  const { notes, events } = material;
  const others = eventsOf(beside);
  const playedBeside = (beside?.() ?? []).map((material) => material.notes);
  /** Where each note sounds to, of this part's and of those of the others. */
  const soundingOf = (ends: Float64Array, own: EventColumns) => {
    const all = channelEvents(own, others);
    return [pedalledEnds(notes, ends, all), ...playedBeside.map((each) => pedalledEnds(each, each.end, all))];
  };
  const sounded = soundingOf(notes.end, events);
  const changes: LaneChange[] = [];
  const end = notes.end.slice();
  for (const channel of laneChannels(material, step.lane, step.where, only)) {
    const points = readLane(events, step.lane, channel);
    const spans = pedalSpans(points);
    const withHolds = (holds: readonly Hold[]) => {
      const presses = holds.map(({ press }) => press);
      const ends = notes.end.slice();
      for (const { rows } of holds)
        for (const { row, end: early } of rows) ends[row] = Math.min(ends[row], early);
      return { ends, points: replaced(points, spans, underPresses(presses), presses) };
    };
    const holds = verifiedHolds(
      holdsOfLengths(notes, touched, channel, after, timeline),
      (list) => {
        const tried = withHolds(list);
        const written = writeLanes(events, [{ lane: step.lane, channel, points: tried.points }]);
        const sounds = soundingOf(tried.ends, written);
        return [notes, ...playedBeside].map((each, at) =>
          Array.from(each.id.keys()).filter(
            (row) => each.channel[row] === channel && Math.abs(sounds[at][row] - sounded[at][row]) > 1,
          ),
        );
      },
      sounded,
    );
    if (holds.length === 0) continue;
    const made = withHolds(holds);
    made.ends.forEach((tick, row) => (end[row] = Math.min(end[row], tick)));
    changes.push({ lane: step.lane, channel, points: made.points });
  }
  const written = writeLanes(events, changes);
  return written === events ? material : { notes: withColumns(notes, { end }), events: written };
}

/**
 * Turns lengths into pedal, the way back from holding notes to the pedal's release. Notes of a channel that end
 * together, to the tick, without having begun together were let go by something other than fingers: a press ends
 * there. It begins `after` seconds after the first of them, yet after every earlier end of the channel, so that
 * nothing rings on that did not before. Its notes are let go when the next note starts, but not before the press has
 * begun.
 */
function holdsOfLengths(
  notes: NoteTable,
  touched: Uint8Array,
  channel: number,
  after: number,
  { tempo }: Timeline,
): Hold[] {
  const later = (tick: number, seconds: number) =>
    secondsToTicks(tempo, ticksToSeconds(tempo, tick) + seconds);
  const own: number[] = [];
  for (let row = 0; row < notes.length; row++) if (notes.channel[row] === channel) own.push(row);
  const starts = Float64Array.from(own, (row) => notes.start[row]);
  const byEnd = [...own].sort((a, b) => notes.end[a] - notes.end[b]);
  const holds: Hold[] = [];
  for (let first = 0, stop = 0; first < byEnd.length; first = stop) {
    const limit = notes.end[byEnd[first]] + SAME_END;
    while (stop < byEnd.length && notes.end[byEnd[stop]] <= limit) stop++;
    const group = byEnd.slice(first, stop).filter((row) => touched[row] === 1);
    if (group.length < 2) continue;
    const begins = group.map((row) => notes.start[row]);
    const [earliest, latest] = [Math.min(...begins), Math.max(...begins)];
    if (latest <= later(earliest, APART)) continue;
    const release = notes.end[byEnd[stop - 1]];
    const lastEnd = first === 0 ? -1 : notes.end[byEnd[first - 1]];
    const down = Math.max(later(earliest, after), lastEnd + 1);
    if (down + 1 >= release) continue;
    const rows = group.map((row) => {
      const next = starts[firstAtOrAfter(starts, notes.start[row] + 1)] ?? Infinity;
      // A tick after the press at least: let go at its very tick, another reader would not hold it.
      return { row, end: Math.min(release, Math.max(next, down + 1)) };
    });
    holds.push({ press: [down, release], rows });
  }
  return holds;
}

/**
 * The holds that leave every note sounding as long as before. `changedBy` tells the rows of notes that sound
 * otherwise with some holds, for one table after the other, the part's own first; those that reach such a note are left
 * out until there is none. `sounded` is where each note ended before.
 */
function verifiedHolds(
  holds: readonly Hold[],
  changedBy: (holds: readonly Hold[]) => readonly (readonly number[])[],
  sounded: readonly Float64Array[],
): readonly Hold[] {
  let left = holds;
  while (left.length > 0) {
    const tables = changedBy(left);
    if (tables.every((rows) => rows.length === 0)) return left;
    const changed = new Set(tables[0]);
    const ends = Float64Array.from(tables.flatMap((rows, at) => rows.map((row) => sounded[at][row]))).sort();
    const reaches = ({ press: [down, release], rows }: Hold) => {
      const end = ends[firstAtOrAfter(ends, down - 1)];
      return (end !== undefined && end <= release + 1) || rows.some(({ row }) => changed.has(row));
    };
    const next = left.filter((hold) => !reaches(hold));
    // A note changed by none of those left: nothing is certain.
    left = next.length < left.length ? next : [];
  }
  return left;
}
