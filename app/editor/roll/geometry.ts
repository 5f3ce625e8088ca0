import type { EditorWindow } from '@/state/viewSlice';
import { heightAt, placeAt, type PitchRows } from './pitchRows';

/** Where things stand on the canvas, in CSS pixels from its top left corner. */
export interface Layout {
  width: number;
  height: number;
  gutter: number;
  overview: number;
  ruler: number;
  /** Height of the strip that shows what each step touches; 0 without steps. */
  spans: number;
  /** Height of the strip of bars over the velocities; 0 when it is hidden. */
  harmony: number;
  /** Height of the velocities at the bottom; 0 when it is hidden. */
  velocities: number;
  /** Rows of different heights; null where all are alike. */
  rows: PitchRows | null;
}

export const OVERVIEW_HEIGHT = 44;
export const RULER_HEIGHT = 24;
export const VELOCITY_HEIGHT = { least: 48, most: 320 };
export const PIANO_GUTTER = 46;
export const DRUM_GUTTER = 118;

export const MIN_ROW = 3;
export const MAX_ROW = 28;
/** Ticks a pixel at the closest zoom. */
export const CLOSEST = 0.02;

export function rollTop(layout: Layout): number {
  return layout.overview + layout.ruler + layout.spans;
}
export function rollWidth(layout: Layout): number {
  return Math.max(1, layout.width - layout.gutter);
}
export function rollHeight(layout: Layout): number {
  return Math.max(1, harmonyTop(layout) - rollTop(layout));
}

export function xOf(tick: number, window: EditorWindow, layout: Layout): number {
  return layout.gutter + (tick - window.tick) / window.ticksPerPixel;
}
export function tickAt(x: number, window: EditorWindow, layout: Layout): number {
  return window.tick + (x - layout.gutter) * window.ticksPerPixel;
}
/** Where the velocities begins. */
export function velocitiesTop(layout: Layout): number {
  return layout.height - layout.velocities;
}
/** Where the strip of bars begins, which is where the roll ends. */
export function harmonyTop(layout: Layout): number {
  return velocitiesTop(layout) - layout.harmony;
}
/** Top edge of a pitch's row. */
export function yOf(pitch: number, window: EditorWindow, layout: Layout): number {
  const { rows } = layout;
  // The usual case without a detour: this runs for every note of every painting.
  if (!rows) return rollTop(layout) + (window.topPitch - pitch) * window.rowHeight;
  const height = heightAt(rows, window.topPitch + 1) - heightAt(rows, pitch + 1);
  return rollTop(layout) + height * window.rowHeight;
}
/** Height of a pitch's row. */
export function rowHeightOf(pitch: number, window: EditorWindow, { rows }: Layout): number {
  return rows ? (heightAt(rows, pitch + 1) - heightAt(rows, pitch)) * window.rowHeight : window.rowHeight;
}
export function pitchAt(y: number, window: EditorWindow, layout: Layout): number {
  const height = heightAt(layout.rows, window.topPitch + 1) - (y - rollTop(layout)) / window.rowHeight;
  // Adding 0 keeps a negative zero out.
  return Math.ceil(placeAt(layout.rows, height)) - 1 + 0;
}
/** The top pitch that stands `rows` full rows under another. */
export function topBelow(topPitch: number, rows: number, layout: Layout): number {
  return placeAt(layout.rows, heightAt(layout.rows, topPitch + 1) - rows) - 1;
}

/** The window kept inside the music: never wholly before its start or after its end, never off the keyboard. */
export function clampWindow(window: EditorWindow, layout: Layout, endTick: number): EditorWindow {
  const width = rollWidth(layout);
  const farthest = (Math.max(endTick, 1) * 1.25) / width;
  const ticksPerPixel = Math.min(Math.max(window.ticksPerPixel, CLOSEST), Math.max(farthest, CLOSEST));
  const rowHeight = Math.min(MAX_ROW, Math.max(MIN_ROW, window.rowHeight));
  const rows = rollHeight(layout) / rowHeight;
  // A lead of a few pixels, so that the first bar line and notes played before it can be seen.
  const lead = 10 * ticksPerPixel;
  const lastTick = Math.max(-lead, endTick - width * ticksPerPixel * 0.5);
  return {
    tick: Math.min(Math.max(window.tick, -lead), lastTick),
    ticksPerPixel,
    rowHeight,
    topPitch:
      rows >= heightAt(layout.rows, 128)
        ? 127
        : Math.min(127, Math.max(window.topPitch, placeAt(layout.rows, rows) - 1)),
  };
}

export const isSameWindow = (one: EditorWindow, other: EditorWindow): boolean =>
  one.tick === other.tick &&
  one.ticksPerPixel === other.ticksPerPixel &&
  one.topPitch === other.topPitch &&
  one.rowHeight === other.rowHeight;

/** Zooms time around a place of the canvas, which stays where it is. */
export function zoomTime(window: EditorWindow, layout: Layout, x: number, factor: number): EditorWindow {
  const anchor = tickAt(x, window, layout);
  const ticksPerPixel = Math.max(CLOSEST, window.ticksPerPixel * factor);
  return { ...window, ticksPerPixel, tick: anchor - (x - layout.gutter) * ticksPerPixel };
}

/** Zooms pitch around a place of the canvas. */
export function zoomPitch(window: EditorWindow, layout: Layout, y: number, factor: number): EditorWindow {
  const rowHeight = Math.min(MAX_ROW, Math.max(MIN_ROW, window.rowHeight * factor));
  const rows = (y - rollTop(layout)) / window.rowHeight - (y - rollTop(layout)) / rowHeight;
  return { ...window, rowHeight, topPitch: topBelow(window.topPitch, rows, layout) };
}

/** Lowest and highest pitch of some notes; around middle C when there are none. */
export function pitchRange(pitch: ArrayLike<number>): [number, number] {
  let [low, high] = [127, 0];
  for (let row = 0; row < pitch.length; row++) {
    if (pitch[row] < low) low = pitch[row];
    if (pitch[row] > high) high = pitch[row];
  }
  return low > high ? [54, 66] : [low, high];
}

/** A window over `fromTick` to `toTick` and all pitches in use, with room around them. */
export function fitWindow(
  layout: Layout,
  fromTick: number,
  toTick: number,
  pitches: [number, number],
): EditorWindow {
  const [low, high] = pitches;
  const ticksPerPixel = Math.max(CLOSEST, (toTick - fromTick) / Math.max(1, rollWidth(layout) - 20));
  const inUse = heightAt(layout.rows, high + 1) - heightAt(layout.rows, low);
  // A kit has few rows in use, and room for higher ones.
  const most = layout.rows ? 26 : 18;
  const rowHeight = Math.min(most, Math.max(MIN_ROW, rollHeight(layout) / (inUse + 4)));
  const spare = rollHeight(layout) / rowHeight - inUse;
  const topPitch = topBelow(high, -spare / 2, layout);
  return { tick: fromTick - 10 * ticksPerPixel, ticksPerPixel, rowHeight, topPitch };
}
