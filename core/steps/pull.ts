import type { NoteTable } from '../model';
import {
  createGrid,
  gapsAround,
  nearestLines,
  secondsToTicks,
  ticksToSeconds,
  type NoteValue,
  type TempoMap,
  type Timeline,
} from '../time';

/** What a pull goes by; the fields of a quantize step. */
export interface PullSettings {
  grid: NoteValue | NoteValue[];
  swing: number;
  shiftMs: number;
  strength: number;
  leaveWithinMs: number;
  leaveBeyond: number;
}

/**
 * A distance this close to a limit counts as on it; in ticks, or in seconds under a changing tempo, where it is a
 * microsecond.
 */
export const TOLERANCE = 1e-6;

/** How a step pulls places, a column of ticks at a time. */
export interface Pull {
  /** The line each place belongs to, written into `lines`. */
  lines(ticks: Float64Array, lines: Float64Array): void;
  /** Where each place goes, written into `targets`; `far` gets 1 where it stays because its line is too far off. */
  targets(ticks: Float64Array, targets: Float64Array, far?: Uint8Array): void;
  /**
   * Notes pulled with their ends, which keep their distance: as `targets` and then the ends, in one go. False, and
   * nothing written, where some notes may stay.
   */
  carry(from: Pick<NoteTable, 'start' | 'end'>, to: Pick<NoteTable, 'start' | 'end'>): boolean;
}

/**
 * New place = place + strength/100 x (line - place), the line being the nearest of the swung grid, itself
 * `shiftMs` later.
 */
export function createPull(step: PullSettings, timeline: Timeline): Pull {
  const grid = createGrid(timeline.meter, gridsOf(step), step.swing);
  const { tempo } = timeline;
  const shift = step.shiftMs / 1000;
  const share = step.strength / 100;

  function lines(ticks: Float64Array, found: Float64Array) {
    if (shift === 0) return nearestLines(grid, ticks, found);
    nearestLines(grid, movedBySeconds(ticks, -shift, tempo), found);
    found.set(movedBySeconds(found, shift, tempo));
  }

  /** How far from its line each place may be at most; null where all are near enough. */
  function reaches(ticks: Float64Array): Float64Array | null {
    if (step.leaveBeyond === 100) return null;
    const gaps = new Float64Array(ticks.length);
    gapsAround(grid, shift === 0 ? ticks : movedBySeconds(ticks, -shift, tempo), gaps);
    return gaps.map((gap) => (step.leaveBeyond / 200) * gap + TOLERANCE);
  }

  function targets(ticks: Float64Array, found: Float64Array, far?: Uint8Array) {
    lines(ticks, found);
    const near = step.leaveWithinMs > 0 ? step.leaveWithinMs / 1000 + 1e-12 : -1;
    const reach = reaches(ticks);
    if (!reach && near < 0) {
      pullPlainly(ticks, found, share);
      return;
    }
    for (let row = 0; row < ticks.length; row++) {
      const tick = ticks[row];
      const goal = found[row];
      const distance = goal < tick ? tick - goal : goal - tick;
      if (reach && distance > reach[row]) {
        found[row] = tick;
        if (far) far[row] = 1;
      } else if (near >= 0 && Math.abs(ticksToSeconds(tempo, goal) - ticksToSeconds(tempo, tick)) <= near) {
        found[row] = tick;
      } else {
        // At full strength exactly the line, which tick + (goal - tick) need not be.
        const to = share === 1 ? goal : tick + share * (goal - tick);
        found[row] = to < 0 ? 0 : to;
      }
    }
  }

  function carry(from: Pick<NoteTable, 'start' | 'end'>, to: Pick<NoteTable, 'start' | 'end'>): boolean {
    if (step.leaveBeyond !== 100 || step.leaveWithinMs > 0) return false;
    lines(from.start, to.start);
    carryPlainly(from, to, share);
    return true;
  }

  return { lines, targets, carry };
}

/** The usual case of `targets` as a loop of its own, which runs for every note at every move of a slider. */
function pullPlainly(ticks: Float64Array, found: Float64Array, share: number) {
  for (let row = 0; row < ticks.length; row++) {
    const tick = ticks[row];
    // At full strength exactly the line, which tick + (goal - tick) need not be.
    const to = share === 1 ? found[row] : tick + share * (found[row] - tick);
    found[row] = to < 0 ? 0 : to;
  }
}

/** The same with the ends, which go as far as their starts do, to a tick after them at the least. */
function carryPlainly(
  from: Pick<NoteTable, 'start' | 'end'>,
  { start, end }: Pick<NoteTable, 'start' | 'end'>,
  share: number,
) {
  const { start: playedStart, end: playedEnd } = from;
  for (let row = 0; row < playedStart.length; row++) {
    const tick = playedStart[row];
    const pulled = share === 1 ? start[row] : tick + share * (start[row] - tick);
    const begins = pulled < 0 ? 0 : pulled;
    const to = playedEnd[row] + (begins - tick);
    start[row] = begins;
    end[row] = to < begins + 1 ? begins + 1 : to;
  }
}

function movedBySeconds(ticks: Float64Array, seconds: number, tempo: TempoMap): Float64Array {
  const moved = new Float64Array(ticks.length);
  for (let row = 0; row < ticks.length; row++)
    moved[row] = secondsToTicks(tempo, ticksToSeconds(tempo, ticks[row]) + seconds);
  return moved;
}

export function gridsOf(step: Pick<PullSettings, 'grid'>): NoteValue[] {
  return Array.isArray(step.grid) ? step.grid : [step.grid];
}
