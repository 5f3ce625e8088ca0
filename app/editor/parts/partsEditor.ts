import type { Gesture, Region } from '@/surface';
import { createBarsEditor, type BarsElements, type BarsEvents } from '../bars/barsEditor';
import { xOfTick } from '../bars/barsGeometry';
import { paintPartRows, paintPartsAbove } from './paintParts';
import { PARTS_SHAPE, RULER, blockAt, heightOfRows, partAt, topOfPart } from './partsGeometry';
import {
  keyOfBlock,
  type BlockPlace,
  type BlocksDrag,
  type PartsContent,
  type PartsScene,
} from './partsScene';

export interface PartsEvents extends BarsEvents {
  /** Blocks are selected, by key; `adds` keeps those that were. */
  onSelect(keys: readonly string[], adds: boolean): void;
  /** A drag of the selected blocks has ended; ticks. */
  onDrag(drag: BlocksDrag): void;
  onActive(part: string): void;
  onOpen(part: string): void;
}

/** Pixels before a press counts as a drag. */
const DRAG = 4;

/** Parts along the bars on a surface: rows are parts, blocks lie where their layout has them. */
export function createPartsEditor(elements: BarsElements, events: PartsEvents) {
  const { canvas } = elements;
  let drag: BlocksDrag | null = null;
  let marquee: PartsScene['marquee'] = null;

  /** The row at a height, where it is that of a part. */
  function rowAt(y: number) {
    const row = bars.content()?.parts[partAt(y, bars.window(), bars.layout())];
    return row?.isGroup ? undefined : row;
  }

  /** A distance held to whole steps, so that what is on a line stays on one. */
  function snapped(ticks: number, free: boolean): number {
    const snap = free ? 0 : (bars.content()?.snap ?? 0);
    return snap === 0 ? Math.round(ticks) : Math.round(ticks / snap) * snap;
  }

  function beginDrag(place: BlockPlace, kind: BlocksDrag['kind'], x: number): Gesture {
    let isDrag = false;
    return {
      scrolls: true,
      cursor: kind === 'move' ? 'grabbing' : 'ew-resize',
      move(toX, _, { shiftKey }) {
        isDrag ||= Math.abs(toX - x) > DRAG;
        if (!isDrag) return;
        drag = { kind, place, by: snapped((toX - x) * bars.window().ticksPerPixel, shiftKey) };
        bars.invalidateAbove();
      },
      end() {
        const made = drag;
        drag = null;
        bars.invalidateAbove();
        if (made && made.by !== 0) events.onDrag(made);
      },
      abandon() {
        drag = null;
        bars.invalidateAbove();
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
        bars.invalidateAbove();
      },
      end() {
        const box = marquee;
        marquee = null;
        bars.invalidateAbove();
        const content = bars.content();
        if (!box || !content) {
          if (!adds) events.onSelect([], false);
          return;
        }
        const [window, layout] = [bars.window(), bars.layout()];
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
        bars.invalidateAbove();
      },
    };
  }

  const rows: Region<PartsScene> = {
    box: () => ({ left: 0, top: RULER, right: bars.layout().width, bottom: bars.layout().height }),
    paint: paintPartRows,
    paintAbove: paintPartsAbove,
    cursor(x, y) {
      const part = rowAt(y);
      const hit = part && blockAt(part, x, bars.window());
      return !hit ? '' : hit.edge ? 'ew-resize' : 'grab';
    },
    grabs(x, y) {
      const part = rowAt(y);
      const hit = part && blockAt(part, x, bars.window());
      return (
        hit !== undefined &&
        hit !== null &&
        part !== undefined &&
        part !== null &&
        (bars.content()?.selected.has(keyOfBlock({ part: part.id, block: hit.block.id })) ?? false)
      );
    },
    begin(x, y, event) {
      canvas.focus({ preventScroll: true });
      const adds = event.shiftKey || event.ctrlKey || event.metaKey;
      const part = rowAt(y);
      const hit = part && blockAt(part, x, bars.window());
      if (part) events.onActive(part.id);
      if (!part || !hit) return beginMarquee(x, y, adds);
      const place = { part: part.id, block: hit.block.id };
      const key = keyOfBlock(place);
      if (adds || !bars.content()?.selected.has(key)) events.onSelect([key], adds);
      const kind = hit.edge === 'end' && event.altKey ? 'stretch' : (hit.edge ?? 'move');
      return beginDrag(place, kind, x);
    },
    doubleClick(_, y) {
      const part = rowAt(y);
      if (part) events.onOpen(part.id);
    },
  };

  const bars = createBarsEditor<PartsContent, PartsScene>(elements, events, {
    shape: PARTS_SHAPE,
    rowsOf: ({ parts }) => ({
      rows: parts.length,
      headings: parts.flatMap(({ isGroup, isFolded }, row) => (isGroup && !isFolded ? [row] : [])),
    }),
    firstLook: ({ parts, lines }) =>
      parts.some(({ blocks }) => blocks.length > 0) ? (lines.at(-1) ?? 0) : 0,
    sceneOf: (content, look) => ({ ...content, ...look, drag, marquee }),
    regions: [rows],
  });

  return {
    ...bars.face,
    setContent: (next: PartsContent) => bars.setContent(next, true),
    /** Selects the block at a place of the canvas, and its part; a block that is selected stays so with others. */
    standAt(x: number, y: number) {
      const part = rowAt(y);
      const hit = part && blockAt(part, x, bars.window());
      if (part) events.onActive(part.id);
      if (!part || !hit) return;
      const key = keyOfBlock({ part: part.id, block: hit.block.id });
      if (!bars.content()?.selected.has(key)) events.onSelect([key], false);
    },
    /** A place on the canvas: a row, at a tick. */
    placeOf: (row: number, tick: number) => ({
      x: xOfTick(tick, bars.window()),
      y: topOfPart(row, bars.window(), bars.layout()) + heightOfRows(bars.layout()) / 2,
    }),
  };
}

export type PartsEditor = ReturnType<typeof createPartsEditor>;
