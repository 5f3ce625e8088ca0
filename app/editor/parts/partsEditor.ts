import { createSurface, type Gesture, type Region } from '@/surface';
import { readColours, type Colours } from '../colours';
import { beginBarsRuler, zoomedAt } from '../takes/barsRuler';
import { paintBarsRuler } from '../takes/paintBarsRuler';
import { xOfTick } from '../takes/takesGeometry';
import { watchColours } from '../watchColours';
import { paintPartRows, paintPartsAbove } from './paintParts';
import { RULER, blockAt, heightOfRows, heldPartsWindow, partAt, topOfPart } from './partsGeometry';
import {
  keyOfBlock,
  type BlockPlace,
  type BlocksDrag,
  type PartsContent,
  type PartsLayout,
  type PartsScene,
  type PartsWindow,
} from './partsScene';

export interface PartsElements {
  canvas: HTMLCanvasElement;
  overlay: HTMLCanvasElement;
  playLine: HTMLElement;
}

export interface PartsEvents {
  /** Blocks are selected, by key; `adds` keeps those that were. */
  onSelect(keys: readonly string[], adds: boolean): void;
  /** A drag of the selected blocks has ended; ticks. */
  onDrag(drag: BlocksDrag): void;
  onActive(part: string): void;
  onOpen(part: string): void;
  onLocate(tick: number): void;
  onLoop(from: number, to: number): void;
  onRows(window: { top: number; height: number }): void;
}

/** Pixels before a press counts as a drag. */
const DRAG = 4;

/** Parts along the bars on a surface: rows are parts, blocks lie where their layout has them. */
export function createPartsEditor({ canvas, overlay, playLine }: PartsElements, events: PartsEvents) {
  let content: PartsContent | null = null;
  let layout: PartsLayout = { width: 1, height: 1, rows: 0 };
  let window: PartsWindow = { tick: 0, ticksPerPixel: 20, top: 0 };
  let isFresh = true;
  let colours: Colours = readColours();
  let drag: BlocksDrag | null = null;
  let marquee: PartsScene['marquee'] = null;
  let playTick = 0;

  const end = () => content?.lines.at(-1) ?? 1;

  function scene(): PartsScene | null {
    if (!content) return null;
    const isFocused = document.activeElement === canvas;
    const pixelRatio = globalThis.devicePixelRatio || 1;
    return { ...content, layout, window, colours, pixelRatio, drag, marquee, isFocused };
  }

  function placePlayLine() {
    const x = xOfTick(playTick, window);
    playLine.style.visibility = x < 0 || x > layout.width ? 'hidden' : 'visible';
    playLine.style.transform = `translateX(${x}px)`;
  }

  function tellRows() {
    events.onRows({ top: window.top, height: heightOfRows(layout) });
  }

  function moveTo(next: PartsWindow) {
    const held = heldPartsWindow(next, layout, end());
    if (held.tick === window.tick && held.ticksPerPixel === window.ticksPerPixel && held.top === window.top)
      return;
    window = held;
    surface.invalidate();
    tellRows();
  }

  function layOut() {
    layout = { ...layout, rows: content?.parts.length ?? 0 };
    if (isFresh && content && content.parts.some(({ blocks }) => blocks.length > 0) && layout.width > 1) {
      window = { tick: 0, ticksPerPixel: end() / layout.width, top: 0 };
      isFresh = false;
    }
    window = heldPartsWindow(window, layout, end());
    tellRows();
  }

  /** A distance held to whole steps, so that what is on a line stays on one. */
  const snapped = (ticks: number, free: boolean): number =>
    free || !content || content.snap === 0
      ? Math.round(ticks)
      : Math.round(ticks / content.snap) * content.snap;

  function beginDrag(place: BlockPlace, kind: BlocksDrag['kind'], x: number): Gesture {
    let isDrag = false;
    return {
      scrolls: true,
      cursor: kind === 'move' ? 'grabbing' : 'ew-resize',
      move(toX, _, { shiftKey }) {
        isDrag ||= Math.abs(toX - x) > DRAG;
        if (!isDrag) return;
        drag = { kind, place, by: snapped((toX - x) * window.ticksPerPixel, shiftKey) };
        surface.invalidateAbove();
      },
      end() {
        const made = drag;
        drag = null;
        surface.invalidateAbove();
        if (made && made.by !== 0) events.onDrag(made);
      },
      abandon() {
        drag = null;
        surface.invalidateAbove();
      },
    };
  }

  function beginMarquee(x: number, y: number, adds: boolean): Gesture {
    return {
      scrolls: true,
      move(toX, toY) {
        if (!marquee && Math.hypot(toX - x, toY - y) < DRAG) return;
        marquee = {
          left: Math.min(x, toX),
          right: Math.max(x, toX),
          top: Math.min(y, toY),
          bottom: Math.max(y, toY),
        };
        surface.invalidateAbove();
      },
      end() {
        const box = marquee;
        marquee = null;
        surface.invalidateAbove();
        if (!box || !content) {
          if (!adds) events.onSelect([], false);
          return;
        }
        const height = heightOfRows(layout);
        const keys = content.parts.flatMap((part, row) => {
          const top = topOfPart(row, window, layout);
          if (top > box.bottom || top + height < box.top) return [];
          return part.blocks
            .filter(
              ({ start, end: to }) => xOfTick(start, window) < box.right && xOfTick(to, window) > box.left,
            )
            .map(({ id }) => keyOfBlock({ part: part.id, block: id }));
        });
        events.onSelect(keys, adds);
      },
      abandon() {
        marquee = null;
        surface.invalidateAbove();
      },
    };
  }

  const rows: Region<PartsScene> = {
    box: () => ({ left: 0, top: RULER, right: layout.width, bottom: layout.height }),
    paint: paintPartRows,
    paintAbove: paintPartsAbove,
    cursor(x, y) {
      const part = content?.parts[partAt(y, window, layout)];
      const hit = part && blockAt(part, x, window);
      return !hit ? '' : hit.edge ? 'ew-resize' : 'grab';
    },
    begin(x, y, event) {
      canvas.focus({ preventScroll: true });
      const adds = event.shiftKey || event.ctrlKey || event.metaKey;
      const part = content?.parts[partAt(y, window, layout)];
      const hit = part && blockAt(part, x, window);
      if (part) events.onActive(part.id);
      if (!part || !hit || !content) return beginMarquee(x, y, adds);
      const place = { part: part.id, block: hit.block.id };
      const key = keyOfBlock(place);
      if (adds || !content.selected.has(key)) events.onSelect([key], adds);
      const kind = hit.edge === 'end' && event.altKey ? 'stretch' : (hit.edge ?? 'move');
      return beginDrag(place, kind, x);
    },
    doubleClick(_, y) {
      const part = content?.parts[partAt(y, window, layout)];
      if (part) events.onOpen(part.id);
    },
  };

  const rulerTarget = {
    window: () => window,
    lines: () => content?.lines ?? Float64Array.of(0, 1),
    onLocate: events.onLocate,
    onLoop: events.onLoop,
  };
  const ruler: Region<PartsScene> = {
    box: () => ({ left: 0, top: 0, right: layout.width, bottom: RULER }),
    paint: paintBarsRuler,
    begin: (x) => beginBarsRuler(rulerTarget, x),
  };

  const surface = createSurface<PartsScene>({
    canvas,
    overlay,
    regions: [rows, ruler],
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

  return {
    setContent(next: PartsContent) {
      content = next;
      layOut();
      surface.invalidate();
    },
    setPlayTick(tick: number) {
      playTick = tick;
      placePlayLine();
    },
    fit: () => moveTo({ ...window, tick: 0, ticksPerPixel: Infinity }),
    zoom: (factor: number) => moveTo(zoomedAt(window, layout.width / 2, factor)),
    scrollRows: (down: number) => moveTo({ ...window, top: window.top + down }),
    focus: () => canvas.focus({ preventScroll: true }),
    paintTimes: surface.paintTimes,
    /** A place on the canvas: a part's row, at a tick. */
    placeOf: (row: number, tick: number) => ({
      x: xOfTick(tick, window),
      y: topOfPart(row, window, layout) + heightOfRows(layout) / 2,
    }),
    destroy() {
      surface.destroy();
      stopColours();
    },
  };
}

export type PartsEditor = ReturnType<typeof createPartsEditor>;
