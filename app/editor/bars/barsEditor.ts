import { createSurface, type Region } from '@/surface';
import { readColours, type Colours } from '../colours';
import { watchColours } from '../watchColours';
import {
  RULER,
  heldBarsWindow,
  isSameBarsWindow,
  rowHeight,
  xOfTick,
  zoomedAt,
  type BarsLayout,
  type BarsWindow,
  type RowsShape,
} from './barsGeometry';
import { beginBarsRuler, doubleClickBarsRuler, type BarsRulerEvents } from './barsRuler';
import type { BarsContent, BarsLook } from './barsScene';
import { paintBarsRuler } from './paintBarsRuler';

export interface BarsElements {
  canvas: HTMLCanvasElement;
  overlay: HTMLCanvasElement;
  playLine: HTMLElement;
}

export interface BarsEvents extends BarsRulerEvents {
  /** The rows were scrolled, or have another height. */
  onRows(window: { top: number; height: number }): void;
  /** What is in sight is another stretch now. */
  onWindow(window: BarsWindow): void;
}

interface BarsOptions<Content, Scene> {
  shape: RowsShape;
  rowsOf(content: Content): Pick<BarsLayout, 'rows' | 'headings'>;
  /** Ticks in sight at the first look; 0 while there is nothing to look at. */
  firstLook(content: Content): number;
  /** Everything that is painted, of what is shown and how. */
  sceneOf(content: Content, look: BarsLook): Scene;
  /** What lies under the ruler. */
  regions: readonly Region<Scene>[];
  /** How the ruler is painted, where it is not one of bars. */
  paintRuler?(context: CanvasRenderingContext2D, scene: Scene): void;
}

/**
 * Rows along the bars on a surface: the ruler with its loop and markers, the play line, scrolling and zoom. What the
 * rows are and what is done to them comes with the options.
 */
export function createBarsEditor<Content extends BarsContent, Scene extends BarsContent & BarsLook>(
  { canvas, overlay, playLine }: BarsElements,
  events: BarsEvents,
  options: BarsOptions<Content, Scene>,
) {
  const { shape } = options;
  let content: Content | null = null;
  let layout: BarsLayout = { width: 1, height: 1, rows: 0, headings: [] };
  let window: BarsWindow = { tick: 0, ticksPerPixel: 20, top: 0 };
  let isFresh = true;
  let colours: Colours = readColours();
  let isFocused = document.activeElement === canvas;
  let playTick = 0;
  let draggedMarker: { id: string; tick: number } | null = null;

  const end = () => content?.lines.at(-1) ?? 1;
  /** Not before there are rows and room for them: what stands beside them would jump. */
  const tellRows = () => {
    if (content !== null && layout.height > 1)
      events.onRows({ top: window.top, height: rowHeight(layout, shape) });
  };

  function markers() {
    const all = content?.markers ?? [];
    const moved = draggedMarker;
    return moved ? all.map((each) => (each.id === moved.id ? { ...each, tick: moved.tick } : each)) : all;
  }

  function scene(): Scene | null {
    if (!content) return null;
    const pixelRatio = globalThis.devicePixelRatio || 1;
    const shown = draggedMarker ? { ...content, markers: markers() } : content;
    return options.sceneOf(shown, { layout, window, colours, pixelRatio, isFocused });
  }

  function placePlayLine() {
    const x = xOfTick(playTick, window);
    playLine.style.visibility = x < 0 || x > layout.width ? 'hidden' : 'visible';
    playLine.style.transform = `translateX(${x}px)`;
  }

  function moveTo(next: BarsWindow) {
    const held = heldBarsWindow(next, layout, end(), shape);
    if (isSameBarsWindow(held, window)) return;
    window = held;
    surface.invalidate();
    tellRows();
    events.onWindow(window);
  }

  function layOut() {
    if (content) layout = { ...layout, ...options.rowsOf(content) };
    const first = content && layout.width > 1 ? options.firstLook(content) : 0;
    if (first > 0 && isFresh) {
      window = { tick: 0, ticksPerPixel: first / layout.width, top: 0 };
      isFresh = false;
    }
    // What was in sight before stays so until there is something to hold it to.
    if (first > 0 || isFresh) window = heldBarsWindow(window, layout, end(), shape);
    tellRows();
  }

  const rulerTarget = {
    ...events,
    window: () => window,
    lines: () => content?.lines ?? Float64Array.of(0, 1),
    markers,
    showMarker(dragged: typeof draggedMarker) {
      draggedMarker = dragged;
      surface.invalidate();
    },
  };
  const ruler: Region<Scene> = {
    box: () => ({ left: 0, top: 0, right: layout.width, bottom: RULER }),
    paint: options.paintRuler ?? paintBarsRuler,
    begin: (x, _, event) => beginBarsRuler(rulerTarget, x, event),
    doubleClick: (x) => doubleClickBarsRuler(rulerTarget, x),
  };

  const surface = createSurface<Scene>({
    canvas,
    overlay,
    regions: [...options.regions, ruler],
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
    content: () => content,
    layout: () => layout,
    window: () => window,
    moveTo,
    invalidate: surface.invalidate,
    invalidateAbove: surface.invalidateAbove,
    /** Shows something else; `isOther` where rows or bars are others, not only what is said of them. */
    setContent(next: Content, isOther: boolean) {
      content = next;
      if (isOther) layOut();
      surface.invalidate();
    },
    /** What every editor of rows along the bars offers. */
    face: {
      /** Begins with what was in sight before, instead of a first look. */
      restore(before: BarsWindow) {
        window = before;
        isFresh = false;
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
      /** Where a tick stands on the ruler. */
      placeOnRuler: (tick: number) => ({ x: xOfTick(tick, window), y: RULER / 2 }),
      destroy() {
        surface.destroy();
        stopColours();
        canvas.removeEventListener('focus', onFocusChange);
        canvas.removeEventListener('blur', onFocusChange);
      },
    },
  };
}

export type BarsFace = ReturnType<typeof createBarsEditor>['face'];
