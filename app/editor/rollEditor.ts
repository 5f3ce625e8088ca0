import type { EditorWindow } from '@/state/viewSlice';
import type { PartView } from '@/engine/protocol';
import { readColours, type Colours } from './colours';
import type { EditorContent, EditorElements, EditorEvents } from './editorTypes';
import {
  DRUM_GUTTER,
  OVERVIEW_HEIGHT,
  PIANO_GUTTER,
  RULER_HEIGHT,
  clampWindow,
  fitWindow,
  pitchRange,
  rollWidth,
  xOf,
  yOf,
  zoomPitch,
  zoomTime,
  type Layout,
} from './geometry';
import { attachGestures, type GestureTarget } from './gestures';
import { HARMONY_HEIGHT } from './harmonyLane';
import { createMarks } from './marks';
import { paintAbove, paintBase } from './paintScene';
import { rowUnder, rowsAt } from './pitchIndex';
import { onlyAdds, type Preview } from './preview';
import type { Scene } from './scene';
import { watchColours } from './watchColours';
import { stripHeight } from './whereSpans';
import { firstLook, toFollow, toReveal } from './windowMoves';

/** How long the window must rest before it is remembered. */
const REST_MS = 300;

/** Owns a canvas: paints the part on it when something changes, and turns gestures into movements of the window. */
export function createRollEditor({ canvas, overlay, playLine }: EditorElements, events: EditorEvents) {
  const context = canvas.getContext('2d', { alpha: false });
  const above = overlay.getContext('2d');
  let content: EditorContent | null = null;
  let view: PartView | null = null;
  let window: EditorWindow = { tick: 0, ticksPerPixel: 4, topPitch: 84, rowHeight: 12 };
  let fresh = true;
  let colours: Colours = readColours();
  let hovered = -1;
  let preview: Preview | null = null;
  const marks = createMarks();
  let hoveredSpan: string | null = null;
  let frame = 0;
  let baseStale = true;
  let rest: ReturnType<typeof setTimeout> | undefined;
  let layout: Layout = {
    width: 1,
    height: 1,
    gutter: PIANO_GUTTER,
    overview: OVERVIEW_HEIGHT,
    ruler: RULER_HEIGHT,
    spans: 0,
    harmony: 0,
    lane: 0,
  };
  /** Milliseconds the last paintings took, for the benchmark. */
  const paintTimes: number[] = [];

  function endTick(): number {
    const bar = content ? content.timeline.meter.barTicks[0] : 1920;
    return Math.max(bar, view?.endTick ?? 0);
  }

  function scene(): Scene | null {
    if (!content) return null;
    return {
      ...content,
      ticksPerMs: 1 / (1000 * content.timeline.tempo.secondsPerTick[0]),
      layout,
      window,
      view,
      hovered,
      ...marks.now(),
      preview,
      colours,
      pixelRatio: globalThis.devicePixelRatio || 1,
    };
  }

  /**
   * Paints on two canvases that lie over each other: everything that depends on the part, the window and the choice below, and
   * above it what changes while only the pointer or a box moves.
   */
  function paint() {
    frame = 0;
    const now = scene();
    if (!context || !above || !now) return;
    const begun = performance.now();
    if (baseStale) paintBase(context, now, endTick());
    baseStale = false;
    paintAbove(above, now);
    paintTimes.push(performance.now() - begun);
    if (paintTimes.length > 2000) paintTimes.shift();
    canvas.dispatchEvent(new CustomEvent('painted'));
  }

  function invalidate() {
    baseStale = true;
    invalidateOverlay();
  }

  function invalidateOverlay() {
    frame ||= requestAnimationFrame(paint);
  }

  function resize() {
    const { clientWidth, clientHeight } = canvas;
    if (clientWidth === 0 || clientHeight === 0) return;
    const ratio = globalThis.devicePixelRatio || 1;
    layout = {
      ...layout,
      width: clientWidth,
      height: clientHeight,
      gutter: content?.drums ? DRUM_GUTTER : PIANO_GUTTER,
      spans: stripHeight(content?.spans ?? []),
      harmony: content?.sections ? HARMONY_HEIGHT : 0,
      lane: content?.lane ? Math.min(content.laneHeight, clientHeight / 2) : 0,
    };
    canvas.width = overlay.width = Math.round(clientWidth * ratio);
    canvas.height = overlay.height = Math.round(clientHeight * ratio);
    window = clampWindow(window, layout, endTick());
    invalidate();
  }

  function moveTo(next: EditorWindow) {
    window = clampWindow(next, layout, endTick());
    fresh = false;
    clearTimeout(rest);
    rest = setTimeout(() => events.onWindow(window), REST_MS);
    invalidate();
  }

  const target: GestureTarget = {
    spans: () => content?.spans ?? [],
    wherePitch: () => content?.wherePitch ?? null,
    mayWhere: () => content?.mayWhere ?? false,
    where: (change, gesture) => events.onWhere(change, gesture),
    sections: () => (content?.mayWhere ? content.sections : null),
    section: (bars, semitones, gesture) => events.onSection(bars, semitones, gesture),
    selectionSpan: () => marks.now().selectionSpan,
    abandonWhere: (gesture) => events.onAbandonWhere(gesture),
    whereRefused: () => events.onWhereRefused(),
    standAt: (stepId) => events.onStand(stepId),
    hoverSpan(stepId, x) {
      if (stepId === hoveredSpan) return;
      hoveredSpan = stepId;
      events.onHoverSpan(stepId, x);
    },
    notes: () => view?.notes ?? null,
    isSelected: (row) => marks.now().selected[row] === 1,
    grid: () => content?.grid ?? { values: ['1/16'], swing: 50 },
    snap: () => content?.snap ?? true,
    tool: () => content?.tool ?? 'select',
    mayEdit: () => (content?.mayEdit ?? false) && content?.show !== 'played',
    preview(next) {
      const stale = !onlyAdds(preview) || !onlyAdds(next);
      preview = next;
      if (stale) invalidate();
      else invalidateOverlay();
    },
    choose(rows, how) {
      const ids = rows.map((row) => view?.notes.id[row] ?? -1);
      events.onChoose(ids, how);
    },
    done: (gesture) => events.onGesture(gesture),
    sound: (pitch, velocity) => events.onSound(pitch, velocity),
    activateOther(tick, pitch) {
      const hit = content?.others.find(
        (other) => rowsAt(other.view.notes, tick, pitch, 2 * window.ticksPerPixel).length > 0,
      );
      if (hit) events.onActivate(hit.partId);
      return hit !== undefined;
    },
    key(pitch, choose, add) {
      if (pitch < 0 || pitch > 127) return;
      events.onSound(pitch, 96);
      if (!choose || !view) return;
      const { notes } = view;
      const ids = [...notes.id].filter((_, row) => notes.pitch[row] === pitch);
      events.onChoose(ids, add ? 'add' : 'replace');
    },
    canvas,
    layout: () => layout,
    window: () => window,
    endTick,
    moveTo,
    zoomTimeAt: (x, factor) => moveTo(zoomTime(window, layout, x, factor)),
    zoomPitchAt: (y, factor) => moveTo(zoomPitch(window, layout, y, factor)),
    laneHeight: (height) => events.onLaneHeight(height),
    locate: (tick) => events.onLocate(Math.max(0, tick)),
    loop: (from, to) => events.onLoop(from, to),
    meter: () => content?.timeline.meter ?? null,
    hover(x, y) {
      const row = view ? rowUnder(view.notes, x, y, window, layout) : -1;
      if (row !== hovered) {
        hovered = row;
        events.onHover(row, x, y);
        invalidateOverlay();
      }
    },
  };
  const detach = attachGestures(target);
  const observer = new ResizeObserver(resize);
  observer.observe(canvas);
  const stopColours = watchColours((next) => {
    colours = next;
    invalidate();
  });

  function fit() {
    if (view) moveTo(fitWindow(layout, 0, endTick(), pitchRange(view.notes.pitch)));
  }

  return {
    setContent(next: EditorContent) {
      const otherLayout =
        content?.drums !== next.drums ||
        content?.lane !== next.lane ||
        content.laneHeight !== next.laneHeight ||
        (content?.sections == null) !== (next.sections == null) ||
        stripHeight(next.spans) !== layout.spans;
      content = next;
      if (otherLayout) resize();
      invalidate();
    },
    /** Shows a part's stop; a part seen for the first time gets a first look unless a window is remembered. */
    setView(next: PartView | null, remembered: EditorWindow | null) {
      const otherPart = next?.partId !== view?.partId;
      view = next;
      if (otherPart) preview = null;
      marks.read(view?.notes ?? null);
      if (hovered >= (view?.notes.length ?? 0)) hovered = -1;
      if (otherPart && next) {
        fresh = remembered === null;
        if (remembered) window = clampWindow(remembered, layout, endTick());
      }
      if (fresh && view && content)
        window = clampWindow(firstLook(layout, content.timeline.meter, view, endTick()), layout, endTick());
      invalidate();
    },
    /** Puts the play line at a place, or hides it where it is out of sight. With `follow` the window turns like a page. */
    setPlayTick(tick: number, follow: boolean) {
      const followed = follow ? toFollow(window, layout, tick) : window;
      if (followed !== window) moveTo(followed);
      const seen = xOf(tick, window, layout);
      playLine.style.visibility = seen < layout.gutter || seen > layout.width ? 'hidden' : 'visible';
      playLine.style.transform = `translateX(${seen}px)`;
    },
    setSelection(ids: ReadonlySet<number>, standsOn: number | null) {
      marks.choose(ids, standsOn, view?.notes ?? null);
      invalidate();
    },
    /** Lights the notes a step touches, by id; null puts the light out. */
    setLit(stepId: string | null, ids: ReadonlySet<number>) {
      marks.light(stepId, ids, view?.notes ?? null);
      invalidate();
    },
    /** Puts the keyboard on the roll. */
    focus: () => canvas.focus({ preventScroll: true }),
    /** Brings a note into sight. */
    reveal(row: number) {
      if (!view || row < 0) return;
      const next = toReveal(window, layout, view.notes, row);
      if (next !== window) moveTo(next);
    },
    /** Shows a stretch of time and some pitches. */
    zoomTo(from: number, to: number, pitches: [number, number]) {
      moveTo(fitWindow(layout, from, to, pitches));
    },
    fit,
    zoom: (factor: number) => moveTo(zoomTime(window, layout, layout.gutter + rollWidth(layout) / 2, factor)),
    pan: (pixels: number, rows: number) =>
      moveTo({
        ...window,
        tick: window.tick + pixels * window.ticksPerPixel,
        topPitch: window.topPitch + rows,
      }),
    window: () => window,
    layout: () => layout,
    paintTimes: () => paintTimes,
    selectionSpan: () => marks.now().selectionSpan,
    /** The first note shown and, at an align step, the stroke it is pulled toward. */
    firstNote: () =>
      view && view.notes.length > 0
        ? {
            start: view.notes.start[0],
            pitch: view.notes.pitch[0],
            pulledTo: view.pulledTo?.[0] ?? NaN,
          }
        : null,
    /** By how many ticks the selected notes are being dragged; 0 while they are not. */
    carried: (): number => (preview?.kind === 'move' ? preview.ticks : 0),
    /** How many notes are lit; null while none are. */
    litRows: () => marks.now().lit?.reduce((sum, row) => sum + row, 0) ?? null,
    /** Where a note stands on the canvas. */
    placeOfRow: (row: number) => ({
      x: xOf(view?.notes.start[row] ?? 0, window, layout),
      y: yOf(view?.notes.pitch[row] ?? 60, window, layout),
    }),
    destroy() {
      cancelAnimationFrame(frame);
      clearTimeout(rest);
      detach();
      observer.disconnect();
      stopColours();
    },
  };
}

export type RollEditor = ReturnType<typeof createRollEditor>;
