import { createSurface, type Gesture, type Region } from '@/surface';
import { readColours, type Colours } from '../colours';
import { watchColours } from '../watchColours';
import { beginBarsRuler, zoomedAt } from './barsRuler';
import { paintBarsRuler } from './paintBarsRuler';
import { paintAssembled } from './paintAssembled';
import { paintRows, paintTakesAbove, placeOfSeam } from './paintTakes';
import {
  RULER,
  barAtX,
  heightOfCells,
  heldWindow,
  isSameTakesWindow,
  pitchOfRows,
  rowAt,
  rowsBottom,
  tickOfX,
  topOfRow,
  xOfTick,
  type TakesLayout,
  type TakesWindow,
} from './takesGeometry';
import type { Cell, TakesContent, TakesScene } from './takesScene';

export interface TakesElements {
  canvas: HTMLCanvasElement;
  overlay: HTMLCanvasElement;
  playLine: HTMLElement;
}

/** What a person does on the canvas. Bars count from 0. */
export interface TakesEvents {
  /** Chooses a take for some bars; `layers` adds it to what sounds there, or takes it away. */
  onChoose(row: number, from: number, to: number, layers: boolean): void;
  onFocus(cell: Cell): void;
  onSeam(index: number): void;
  onLocate(tick: number): void;
  onLoop(from: number, to: number): void;
  /** The rows were scrolled, or have another height. */
  onRows(window: { top: number; height: number }): void;
}

/** Pixels before a press counts as a drag, and around a ring that take hold of it. */
const DRAG = 4;
const REACH = 9;
/** Bars in sight at the first look. */
const FIRST_BARS = 8;

/** The takes of a part on a surface: rows are takes, columns bars. */
export function createTakesEditor({ canvas, overlay, playLine }: TakesElements, events: TakesEvents) {
  let content: TakesContent | null = null;
  let layout: TakesLayout = { width: 1, height: 1, rows: 0 };
  let window: TakesWindow = { tick: 0, ticksPerPixel: 20, top: 0 };
  let isFresh = true;
  let colours: Colours = readColours();
  let dragged: TakesScene['dragged'] = null;
  let hovered: Cell | null = null;
  let pitches: [number, number] = [48, 72];
  let isFocused = document.activeElement === canvas;
  let playTick = 0;

  const end = () => content?.lines.at(-1) ?? 1;

  function scene(): TakesScene | null {
    if (!content) return null;
    const pixelRatio = globalThis.devicePixelRatio || 1;
    return { ...content, layout, window, colours, pixelRatio, dragged, hovered, pitches, isFocused };
  }

  function placePlayLine() {
    const x = xOfTick(playTick, window);
    playLine.style.visibility = x < 0 || x > layout.width ? 'hidden' : 'visible';
    playLine.style.transform = `translateX(${x}px)`;
  }

  function moveTo(next: TakesWindow) {
    const held = heldWindow(next, layout, end());
    if (isSameTakesWindow(held, window)) return;
    window = held;
    surface.invalidate();
    events.onRows({ top: window.top, height: pitchOfRows(layout) });
  }

  function layOut() {
    layout = { ...layout, rows: content?.takes.length ?? 0 };
    if (isFresh && content && content.takes.length > 0 && layout.width > 1) {
      const last = content.lines[Math.min(FIRST_BARS, content.lines.length - 1)];
      window = { tick: 0, ticksPerPixel: last / layout.width, top: 0 };
      isFresh = false;
    }
    window = heldWindow(window, layout, end());
    events.onRows({ top: window.top, height: pitchOfRows(layout) });
  }

  function seamUnder(x: number, y: number): number {
    if (!content) return -1;
    return content.seams.findIndex((seam) => {
      const place = placeOfSeam({ window, layout }, seam);
      return Math.hypot(x - place.x, y - place.y) <= REACH;
    });
  }

  function beginInRows(x: number, y: number, event: PointerEvent): Gesture | null {
    if (!content || content.takes.length === 0) return null;
    canvas.focus({ preventScroll: true });
    const seam = seamUnder(x, y);
    if (seam >= 0) {
      events.onSeam(seam);
      return null;
    }
    const { lines } = content;
    const row = rowAt(y, window, layout);
    const first = barAtX(x, window, lines);
    const layers = event.altKey || event.ctrlKey || event.metaKey;
    dragged = { row, from: first, to: first };
    surface.invalidateAbove();
    return {
      scrolls: true,
      move(toX) {
        if (!dragged || (Math.abs(toX - x) < DRAG && dragged.from === dragged.to)) return;
        const bar = barAtX(toX, window, lines);
        dragged = { row, from: Math.min(first, bar), to: Math.max(first, bar) };
        surface.invalidateAbove();
      },
      end() {
        const made = dragged;
        dragged = null;
        surface.invalidateAbove();
        if (!made) return;
        events.onFocus({ row, bar: made.from });
        events.onChoose(row, made.from, made.to, layers);
      },
      abandon() {
        dragged = null;
        surface.invalidateAbove();
      },
    };
  }

  const rulerTarget = {
    window: () => window,
    lines: () => content?.lines ?? Float64Array.of(0, 1),
    onLocate: events.onLocate,
    onLoop: events.onLoop,
  };

  const regions: Region<TakesScene>[] = [
    {
      box: () => ({ left: 0, top: RULER, right: layout.width, bottom: rowsBottom(layout) }),
      paint: paintRows,
      paintAbove: paintTakesAbove,
      cursor: (x, y) => (seamUnder(x, y) >= 0 ? 'pointer' : 'cell'),
      hover(x, y) {
        if (!content || content.takes.length === 0) return;
        const cell = { row: rowAt(y, window, layout), bar: barAtX(x, window, content.lines) };
        if (hovered?.row === cell.row && hovered.bar === cell.bar) return;
        hovered = cell;
        surface.invalidateAbove();
      },
      leave() {
        hovered = null;
        surface.invalidateAbove();
      },
      begin: beginInRows,
    },
    {
      box: () => ({ left: 0, top: rowsBottom(layout), right: layout.width, bottom: layout.height }),
      paint: paintAssembled,
      cursor: () => 'pointer',
      begin(x) {
        events.onLocate(Math.max(0, tickOfX(x, window)));
        return null;
      },
    },
    {
      box: () => ({ left: 0, top: 0, right: layout.width, bottom: RULER }),
      paint: paintBarsRuler,
      begin: (x) => beginBarsRuler(rulerTarget, x),
    },
  ];

  const surface = createSurface<TakesScene>({
    canvas,
    overlay,
    regions,
    scene,
    onSize(width, height) {
      layout = { ...layout, width, height };
      layOut();
    },
    navigation: {
      pan: (right, down) =>
        moveTo({ ...window, tick: window.tick + right * window.ticksPerPixel, top: window.top + down }),
      zoomTime: (x, factor) => moveTo(zoomedAt(window, x, factor)),
      zoomRows: () => undefined,
    },
    onPainted: placePlayLine,
  });
  const stopColours = watchColours((next) => {
    colours = next;
    surface.invalidate();
  });
  const onFocusChange = () => {
    isFocused = document.activeElement === canvas;
    surface.invalidateAbove();
  };
  canvas.addEventListener('focus', onFocusChange);
  canvas.addEventListener('blur', onFocusChange);

  return {
    setContent(next: TakesContent) {
      const others = next.takes !== content?.takes;
      content = next;
      if (others) {
        pitches = pitchesOf(next);
        layOut();
      }
      surface.invalidate();
    },
    /** Another part: its first look is a new one. */
    begin: () => void (isFresh = true),
    setPlayTick(tick: number) {
      playTick = tick;
      placePlayLine();
    },
    /** Brings a cell into sight. */
    reveal({ row, bar }: Cell) {
      if (!content) return;
      const [left, right] = [xOfTick(content.lines[bar], window), xOfTick(content.lines[bar + 1], window)];
      const top = topOfRow(row, window, layout);
      const height = heightOfCells(layout);
      moveTo({
        ...window,
        tick:
          left < 0
            ? content.lines[bar]
            : right > layout.width
              ? window.tick + (right - layout.width + 4) * window.ticksPerPixel
              : window.tick,
        top:
          top < RULER
            ? window.top - (RULER - top) - 6
            : top + height > rowsBottom(layout)
              ? window.top + top + height - rowsBottom(layout) + 6
              : window.top,
      });
    },
    fit: () => moveTo({ ...window, tick: 0, ticksPerPixel: Infinity }),
    zoom: (factor: number) => moveTo(zoomedAt(window, layout.width / 2, factor)),
    scrollRows: (down: number) => moveTo({ ...window, top: window.top + down }),
    focus: () => canvas.focus({ preventScroll: true }),
    paintTimes: surface.paintTimes,
    /** The middle of a cell, and a seam's ring, on the canvas. */
    placeOfCell: ({ row, bar }: Cell) => ({
      x: (xOfTick(content?.lines[bar] ?? 0, window) + xOfTick(content?.lines[bar + 1] ?? 0, window)) / 2,
      y: topOfRow(row, window, layout) + heightOfCells(layout) / 2,
    }),
    placeOfSeam: (index: number) => content && placeOfSeam({ window, layout }, content.seams[index]),
    destroy() {
      surface.destroy();
      stopColours();
      canvas.removeEventListener('focus', onFocusChange);
      canvas.removeEventListener('blur', onFocusChange);
    },
  };
}

export type TakesEditor = ReturnType<typeof createTakesEditor>;

function pitchesOf({ takes, assembled }: TakesContent): [number, number] {
  let [low, high] = [127, 0];
  for (const { pitch } of [...takes.map(({ notes }) => notes), assembled])
    for (const own of pitch) {
      if (own < low) low = own;
      if (own > high) high = own;
    }
  return low > high ? [48, 72] : [low - 1, high + 1];
}
