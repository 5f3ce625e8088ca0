import { lanesIn, readLane } from '../curves';
import type { Material } from '../model';
import {
  applyStep,
  createStep,
  laneUnit,
  type AddedNote,
  type CurveEdit,
  type NoteEdits,
  type StepContext,
} from '../steps';
import type { Block } from './blocks';

/** What takes the place of some blocks: the others, and the hand edits after them that leave everything as it was. */
export interface Independence {
  blocks: Block[];
  edits: NoteEdits;
  /** How many notes became the part's own. */
  notes: number;
}

/**
 * Blocks made independent: they leave the layout, and what they laid is there by hand edits after it, so that what is
 * cleaned before the layout no longer holds for it. Notes keep their identities where nothing else has them by then.
 * `before` is what the layout lays. Null where no block would be left.
 */
export function independent(
  before: Material,
  blocks: readonly Block[],
  ids: ReadonlySet<string>,
  context: StepContext,
): Independence | null {
  const left = blocks.filter(({ id }) => !ids.has(id));
  if (left.length === 0 || left.length === blocks.length) return null;
  const lay = (list: readonly Block[]) =>
    applyStep(before, createStep('layout', { blocks: [...list] }), context);
  const [wanted, without] = [lay(blocks), lay(left)];
  const { kept, missing } = difference(wanted.notes, without.notes);
  const taken = new Set<number>(without.notes.id);
  const add = missing.map((row): AddedNote => {
    const { id, start, end, pitch, velocity, release, channel } = wanted.notes;
    const own = taken.has(id[row]) ? {} : { id: id[row] };
    return {
      ...own,
      start: start[row],
      end: end[row],
      pitch: pitch[row],
      velocity: Math.min(127, Math.max(1, velocity[row])),
      channel: channel[row] + 1,
      ...(release[row] !== 64 && { release: release[row] }),
    };
  });
  const gone = Array.from(without.notes.id).filter((_, row) => !kept.has(row));
  return {
    blocks: left,
    edits: { change: {}, delete: gone, add, curves: curvesBetween(without, wanted) },
    notes: add.length,
  };
}

/** Rows of one table that another has too, each once, and those it has not; by what is heard of them. */
function difference(
  wanted: Material['notes'],
  there: Material['notes'],
): { kept: Set<number>; missing: number[] } {
  const key = ({ start, end, pitch, velocity, release, channel }: Material['notes'], row: number) =>
    [start[row], end[row], pitch[row], velocity[row], release[row], channel[row]].join(' ');
  const rows = new Map<string, number[]>();
  for (let row = there.length - 1; row >= 0; row--) {
    const own = key(there, row);
    const list = rows.get(own);
    if (list) list.push(row);
    else rows.set(own, [row]);
  }
  const kept = new Set<number>();
  const missing: number[] = [];
  for (let row = 0; row < wanted.length; row++) {
    const found = rows.get(key(wanted, row))?.pop();
    if (found === undefined) missing.push(row);
    else kept.add(found);
  }
  return { kept, missing };
}

/**
 * Edits that turn the lanes of one material into those of another: in each lane and channel one stretch from the
 * first to the last difference.
 */
function curvesBetween({ events: from }: Material, { events: to }: Material): CurveEdit[] {
  const lanes = new Set([...lanesIn(from), ...lanesIn(to)].map(({ lane }) => lane));
  const channels = new Set<number>();
  for (const events of [from, to])
    for (const status of events.status) if (status < 0xf0) channels.add(status & 15);
  return [...lanes].flatMap((lane) =>
    [...channels].flatMap((channel): CurveEdit[] => {
      const [old, next] = [readLane(from, lane, channel), readLane(to, lane, channel)];
      const at = (points: typeof old, row: number) => `${points.tick[row]} ${points.value[row]}`;
      let first = 0;
      while (first < old.length && first < next.length && at(old, first) === at(next, first)) first++;
      if (first === old.length && first === next.length) return [];
      let last = 0;
      const most = Math.min(old.length, next.length) - first;
      while (last < most && at(old, old.length - 1 - last) === at(next, next.length - 1 - last)) last++;
      // Lanes are in order of time, so the ends of what differs are its first and last points. Points at their ticks
      // are written too: a stretch holds all at its ends.
      const differing = [old.tick, next.tick].flatMap((tick) => {
        const stretch = tick.subarray(first, tick.length - last);
        return stretch.length === 0 ? [] : [stretch[0], stretch[stretch.length - 1]];
      });
      const [start, end] = [Math.min(...differing), Math.max(...differing)];
      const unit = laneUnit(to, lane, channel);
      const points = Array.from(next.tick.keys())
        .filter((row) => next.tick[row] >= start && next.tick[row] <= end)
        .map((row) => ({ at: next.tick[row], value: unit.of(next.value[row], next.tick[row]) }));
      return [{ lane, channel: channel + 1, from: start, to: end, points }];
    }),
  );
}
