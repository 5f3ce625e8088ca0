import type { MeterMap, PartView, ViewNotes } from '@ordle/core';
import type { EditorWindow } from '@/state/viewSlice';
import type { Navigation } from '@/surface';
import {
  clampWindow,
  fitWindow,
  isSameWindow,
  pitchRange,
  rollWidth,
  topBelow,
  zoomPitch,
  zoomTime,
  type Layout,
} from './geometry';
import { firstLook, toFollow, toReveal } from './windowMoves';

/** How long the window must rest before it is remembered. */
const REST_MS = 300;

interface WindowOptions {
  layout(): Layout;
  endTick(): number;
  /** The window is another one. */
  onMoved(): void;
  /** It came to rest. */
  onRest(window: EditorWindow): void;
}

/**
 * Which stretch of time and pitch the roll shows: held to what there is, moved by wheel, fingers and commands,
 * remembered when it rests.
 */
export function createRollWindow({ layout, endTick, onMoved, onRest }: WindowOptions) {
  let window: EditorWindow = { tick: 0, ticksPerPixel: 4, topPitch: 84, rowHeight: 12 };
  /** Whether nobody has moved it yet, so that a first look may. */
  let isFresh = true;
  let rest: ReturnType<typeof setTimeout> | undefined;

  const held = (next: EditorWindow) => clampWindow(next, layout(), endTick());

  function moveTo(next: EditorWindow) {
    const moved = held(next);
    isFresh = false;
    // At the ends of zoom and music turning the wheel on paints nothing anew.
    if (isSameWindow(moved, window)) return;
    window = moved;
    clearTimeout(rest);
    rest = setTimeout(() => onRest(window), REST_MS);
    onMoved();
  }

  const pan = (right: number, down: number) =>
    moveTo({
      ...window,
      tick: window.tick + right * window.ticksPerPixel,
      topPitch: topBelow(window.topPitch, down / window.rowHeight, layout()),
    });
  const navigation: Navigation = {
    pan,
    zoomTime: (x, factor) => moveTo(zoomTime(window, layout(), x, factor)),
    zoomRows: (y, factor) => moveTo(zoomPitch(window, layout(), y, factor)),
  };

  return {
    now: () => window,
    moveTo,
    navigation,
    /** The layout, or what there is, is another one. */
    hold: () => void (window = held(window)),
    /** Another part: where it was left, or a first look. */
    begin(remembered: EditorWindow | null) {
      isFresh = remembered === null;
      if (remembered) window = held(remembered);
    },
    /** The first look at a part, for as long as nobody has moved the window. */
    look(view: PartView, meter: MeterMap) {
      if (isFresh) window = held(firstLook(layout(), meter, view, endTick()));
    },
    /** Turns like a page when a place is out of sight. */
    follow(tick: number) {
      const followed = toFollow(window, layout(), tick);
      if (followed !== window) moveTo(followed);
    },
    /** Brings a note into sight. */
    reveal(notes: ViewNotes, row: number) {
      const next = toReveal(window, layout(), notes, row);
      if (next !== window) moveTo(next);
    },
    /** All of the part, and the pitches of some notes. */
    fit(shown: readonly ViewNotes[]) {
      const ranges = shown.filter(({ length }) => length > 0).map(({ pitch }) => pitchRange(pitch));
      const [low, high] = [
        Math.min(...ranges.map(([least]) => least)),
        Math.max(...ranges.map(([, most]) => most)),
      ];
      moveTo(fitWindow(layout(), 0, endTick(), ranges.length > 0 ? [low, high] : pitchRange([])));
    },
    /** Shows a stretch of time and some pitches. */
    zoomTo: (from: number, to: number, pitches: [number, number]) =>
      moveTo(fitWindow(layout(), from, to, pitches)),
    zoom: (factor: number) => {
      const { gutter } = layout();
      moveTo(zoomTime(window, layout(), gutter + rollWidth(layout()) / 2, factor));
    },
    pan: (pixels: number, rows: number) => pan(pixels, -rows * window.rowHeight),
    destroy: () => clearTimeout(rest),
  };
}
