import { createTimeline, type ViewNotes } from '@ordle/core';
import type { Layout } from '../roll/geometry';
import { rowsInBox } from '../roll/pitchIndex';
import type { NoteGestureTarget } from '../roll/noteGestures';
import type { NoteGesture, Preview } from '../roll/preview';

/** Notes [start, end, pitch, velocity] as the editor has them. */
export function viewNotes(list: [number, number, number, number?][]): ViewNotes {
  const sorted = [...list].sort((a, b) => a[0] - b[0]);
  let reach = -Infinity;
  return {
    length: sorted.length,
    id: Float64Array.from(sorted, (_, row) => 100 + row),
    start: Float64Array.from(sorted, ([start]) => start),
    end: Float64Array.from(sorted, ([, end]) => end),
    pitch: Uint8Array.from(sorted, ([, , pitch]) => pitch),
    velocity: Float64Array.from(sorted, ([, , , velocity]) => velocity ?? 80),
    reach: Float64Array.from(sorted, ([, end]) => (reach = Math.max(reach, end))),
    usedPitches: new Uint8Array(128),
  };
}

export const LAYOUT: Layout = {
  width: 1046,
  height: 660,
  gutter: 46,
  overview: 30,
  ruler: 30,
  spans: 0,
  harmony: 0,
  velocities: 100,
  rows: null,
};
/** Four ticks a pixel, ten pixels a key, C5 at the top. */
export const WINDOW = { tick: 0, ticksPerPixel: 4, topPitch: 72, rowHeight: 10 };

/** A place on the canvas. */
export const at = (tick: number, pitch: number): [number, number] => [
  46 + tick / 4,
  60 + (72 - pitch + 0.5) * 10,
];

/** A target that writes down what gestures do. */
export function recordingTarget(notes: ViewNotes, more: Partial<NoteGestureTarget> = {}) {
  const selected = new Set<number>();
  const log = { done: [] as NoteGesture[], previews: [] as (Preview | null)[], sounds: [] as number[] };
  const { meter } = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);
  const target: NoteGestureTarget = {
    layout: () => LAYOUT,
    window: () => WINDOW,
    notes: () => notes,
    isSelected: (row) => selected.has(row),
    meter: () => meter,
    chordEnd: (start) => start + 30,
    grid: () => ({ values: ['1/16'], swing: 50 }),
    snap: () => 'line',
    tool: () => 'select',
    mayEdit: () => true,
    preview: (preview) => void log.previews.push(preview),
    select(rows, how) {
      if (how === 'replace') selected.clear();
      for (const row of rows) {
        if (how === 'toggle' && selected.has(row)) selected.delete(row);
        else selected.add(row);
      }
    },
    done: (gesture) => void log.done.push(gesture),
    sound: (pitch) => void log.sounds.push(pitch),
    pressOther: () => false,
    selectBox({ from, to, low, high }, how) {
      target.select(rowsInBox(notes, from, to, low, high), how);
    },
    leastStart: () => Math.min(...[...selected].map((row) => notes.start[row])),
    selectionSpan: () => null,
    ...more,
  };
  return { target, selected, log };
}

/** A pointer event with some keys held. */
export function pointer(keys: { alt?: boolean; shift?: boolean; ctrl?: boolean } = {}): PointerEvent {
  return {
    altKey: keys.alt ?? false,
    shiftKey: keys.shift ?? false,
    ctrlKey: keys.ctrl ?? false,
    metaKey: false,
  } as PointerEvent;
}
