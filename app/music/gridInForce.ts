import { itemOf, kindOf, quartersOf, type NoteValue } from '@ordle/core';
import { store, useAppSelector } from '@/state/store';
import type { BenchState } from '@/music/useBench';

/** The grid the editor shows and snaps to: that of the quantize current step, else the one chosen below. */
export function gridInForce(bench: BenchState): { values: NoteValue[]; swing: number } {
  const { part, stop } = bench;
  const step = (part && itemOf(part.steps, stop?.id))?.step;
  const own = step && kindOf(step.kind).grid?.(step);
  if (own) return { values: own.grids, swing: own.swing };
  return { values: [shownGrid(bench)], swing: 50 };
}

/** Values the adaptive grid chooses among, and the pixels its lines lie apart at least. */
const ADAPTIVE = ['1/1', '1/2', '1/4', '1/8', '1/16', '1/32', '1/64'];
const ADAPTIVE_PIXELS = 14;

/** The grid chosen for the editor: a note value, a tuplet, or as fine as the zoom allows. */
function shownGrid({ part, view, timeline }: BenchState): NoteValue {
  const { windows } = store.getState();
  if (view.tuplet) return view.tuplet;
  if (view.grid !== 'adaptive') return view.grid;
  const ticksPerPixel = (part && windows[part.id]?.ticksPerPixel) || 4;
  const fits = (value: string) =>
    (quartersOf(value) * timeline.ticksPerQuarter) / ticksPerPixel >= ADAPTIVE_PIXELS;
  return ADAPTIVE.findLast(fits) ?? '1/1';
}

/** The grid lateness is told against, which must not change with the zoom. */
export function rulingGrid(view: BenchState['view']): NoteValue {
  return view.tuplet ?? (view.grid === 'adaptive' ? '1/16' : view.grid);
}

/**
 * Renders again when the zoom changes the grid in force, which it does where the grid is as fine as the zoom allows.
 */
export function useZoomOfGrid(partId: string | undefined): void {
  useAppSelector(({ view, windows }) =>
    view.grid === 'adaptive' && partId !== undefined ? windows[partId]?.ticksPerPixel : null,
  );
}
