import { reachOf, type Gesture, type Region } from '@/surface';
import { createBarsEditor, type BarsElements, type BarsEvents } from '../bars/barsEditor';
import { paintAssembled } from './paintAssembled';
import { paintRows, paintTakesAbove, placeOfSeam } from './paintTakes';
import {
  ROWS_TOP,
  RULER,
  TAKES_SHAPE,
  barAtX,
  hasRings,
  heightOfCells,
  rowAt,
  tickOfX,
  topOfRow,
  xOfTick,
} from './takesGeometry';
import type { Cell, TakesContent, TakesScene } from './takesScene';

/** What a person does on the canvas. Bars count from 0. */
export interface TakesEvents extends BarsEvents {
  /** Chooses a take for some bars; `layers` adds it to what sounds there, or takes it away. */
  onChoose(row: number, from: number, to: number, layers: boolean): void;
  onFocus(cell: Cell): void;
  onSeam(index: number): void;
}

/** Pixels before a press counts as a drag, and around a ring that take hold of it. */
const DRAG = 4;
const REACH = 9;
/** Bars in sight at the first look. */
const FIRST_BARS = 8;
/** From this width on more bars are shown, as wide as in it, in pixels. */
const WIDE = 1000;

/** The takes of a part on a surface: rows are takes, columns bars. */
const NO_LINES = new Float64Array(0);

export function createTakesEditor(elements: BarsElements, events: TakesEvents) {
  const { canvas } = elements;
  let dragged: TakesScene['dragged'] = null;
  let hovered: Cell | null = null;
  let pitches: [number, number] = [48, 72];

  function seamUnder(x: number, y: number): number {
    const place = { window: bars.window(), layout: bars.layout() };
    // Where there is no room for rings none is there to be hit.
    if (!hasRings(bars.content()?.lines ?? NO_LINES, place.window)) return -1;
    let [found, least] = [-1, reachOf(REACH)];
    (bars.content()?.seams ?? []).forEach((seam, at) => {
      const ring = placeOfSeam(place, seam);
      const away = Math.hypot(x - ring.x, y - ring.y);
      if (away <= least) [found, least] = [at, away];
    });
    return found;
  }

  function beginInRows(x: number, y: number, event: PointerEvent): Gesture | null {
    const content = bars.content();
    if (!content || content.takes.length === 0) return null;
    canvas.focus({ preventScroll: true });
    const seam = seamUnder(x, y);
    if (seam >= 0) {
      events.onSeam(seam);
      return null;
    }
    const { lines } = content;
    const row = rowAt(y, bars.window(), bars.layout());
    const first = barAtX(x, bars.window(), lines);
    const layers = event.altKey || event.ctrlKey || event.metaKey;
    dragged = { row, from: first, to: first };
    bars.invalidateAbove();
    return {
      scrolls: true,
      move(toX) {
        if (!dragged || (Math.abs(toX - x) < DRAG && dragged.from === dragged.to)) return;
        const bar = barAtX(toX, bars.window(), lines);
        dragged = { row, from: Math.min(first, bar), to: Math.max(first, bar) };
        bars.invalidateAbove();
      },
      end() {
        const made = dragged;
        dragged = null;
        bars.invalidateAbove();
        if (!made) return;
        events.onFocus({ row, bar: made.from });
        events.onChoose(row, made.from, made.to, layers);
      },
      abandon() {
        dragged = null;
        bars.invalidateAbove();
      },
    };
  }

  const regions: Region<TakesScene>[] = [
    {
      box: () => ({ left: 0, top: ROWS_TOP, right: bars.layout().width, bottom: bars.layout().height }),
      paint: paintRows,
      paintAbove: paintTakesAbove,
      cursor: (x, y) => (seamUnder(x, y) >= 0 ? 'pointer' : 'cell'),
      hover(x, y) {
        const content = bars.content();
        if (!content || content.takes.length === 0) return;
        const cell = {
          row: rowAt(y, bars.window(), bars.layout()),
          bar: barAtX(x, bars.window(), content.lines),
        };
        if (hovered?.row === cell.row && hovered.bar === cell.bar) return;
        hovered = cell;
        bars.invalidateAbove();
      },
      leave() {
        hovered = null;
        bars.invalidateAbove();
      },
      begin: beginInRows,
    },
    {
      box: () => ({ left: 0, top: RULER, right: bars.layout().width, bottom: ROWS_TOP }),
      paint: paintAssembled,
      cursor: () => 'pointer',
      begin(x) {
        events.onLocate(Math.max(0, tickOfX(x, bars.window())));
        return null;
      },
    },
  ];

  const bars = createBarsEditor<TakesContent, TakesScene>(elements, events, {
    shape: TAKES_SHAPE,
    rowsOf: ({ takes }) => ({ rows: takes.length, headings: [] }),
    firstLook: ({ takes, lines }) =>
      takes.length > 0
        ? lines[Math.min(Math.round(FIRST_BARS * Math.max(1, canvas.clientWidth / WIDE)), lines.length - 1)]
        : 0,
    sceneOf: (content, look) => ({ ...content, ...look, dragged, hovered, pitches }),
    regions,
  });

  return {
    ...bars.face,
    setContent(next: TakesContent) {
      const isOther = next.takes !== bars.content()?.takes;
      if (isOther) pitches = pitchesOf(next);
      bars.setContent(next, isOther);
    },
    /** Brings a cell into sight. */
    reveal({ row, bar }: Cell) {
      const content = bars.content();
      if (!content) return;
      const [window, layout] = [bars.window(), bars.layout()];
      const [left, right] = [xOfTick(content.lines[bar], window), xOfTick(content.lines[bar + 1], window)];
      const top = topOfRow(row, window, layout);
      const height = heightOfCells(layout);
      bars.moveTo({
        ...window,
        tick:
          left < 0
            ? content.lines[bar]
            : right > layout.width
              ? window.tick + (right - layout.width + 4) * window.ticksPerPixel
              : window.tick,
        top:
          top < ROWS_TOP
            ? window.top - (ROWS_TOP - top) - 6
            : top + height > layout.height
              ? window.top + top + height - layout.height + 6
              : window.top,
      });
    },
    /** The cell at a place of the canvas; null where there is none. */
    cellAt(x: number, y: number): Cell | null {
      const content = bars.content();
      if (!content || content.takes.length === 0 || y < ROWS_TOP || y >= bars.layout().height) return null;
      return { row: rowAt(y, bars.window(), bars.layout()), bar: barAtX(x, bars.window(), content.lines) };
    },
    /** The middle of a cell, and a seam's ring, on the canvas. */
    placeOfCell({ row, bar }: Cell) {
      const lines = bars.content()?.lines;
      const x = (at: number) => xOfTick(lines?.[at] ?? 0, bars.window());
      const top = topOfRow(row, bars.window(), bars.layout());
      return { x: (x(bar) + x(bar + 1)) / 2, y: top + heightOfCells(bars.layout()) / 2 };
    },
    placeOfSeam(index: number) {
      const content = bars.content();
      return content && placeOfSeam({ window: bars.window(), layout: bars.layout() }, content.seams[index]);
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
