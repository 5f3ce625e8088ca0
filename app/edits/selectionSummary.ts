import type { PartView } from '@ordle/core';
import { selectedRows } from '@/state/selection';

/**
 * How many notes are selected, and the values all of them share; null where they differ. Ticks and velocities are
 * whole.
 */
export interface SelectionSummary {
  count: number;
  start: number | null;
  length: number | null;
  pitch: number | null;
  velocity: number | null;
}

/** What the selected notes of some views have in common, in one pass without an object a note. */
export function selectionSummary(
  views: readonly (readonly [PartView, ReadonlySet<number>])[],
): SelectionSummary {
  const summary: SelectionSummary = { count: 0, start: null, length: null, pitch: null, velocity: null };
  for (const [{ notes }, ids] of views) addTo(summary, notes, selectedRows(notes.id, ids));
  return summary;
}

function addTo(summary: SelectionSummary, notes: PartView['notes'], selected: Uint8Array): void {
  for (let row = 0; row < notes.length; row++) {
    if (selected[row] === 0) continue;
    const start = Math.round(notes.start[row]);
    const length = Math.round(notes.end[row] - notes.start[row]);
    const velocity = Math.round(notes.velocity[row]);
    if (summary.count++ === 0) Object.assign(summary, { start, length, pitch: notes.pitch[row], velocity });
    if (summary.start !== start) summary.start = null;
    if (summary.length !== length) summary.length = null;
    if (summary.pitch !== notes.pitch[row]) summary.pitch = null;
    if (summary.velocity !== velocity) summary.velocity = null;
  }
}
