import type { Gesture, Region } from '@/surface';
import { VELOCITY_HEIGHT, harmonyTop, velocitiesTop, rollTop } from './geometry';
import { beginHarmonyGesture, paintHarmony, type HarmonyGestureTarget } from './harmonyBars';
import { beginVelocityGesture } from './velocityGestures';
import { beginNoteGesture, spotAt, type NoteGestureTarget } from './noteGestures';
import { paintGutter, paintRuler } from './paintFrame';
import { paintStrip } from './paintStrip';
import { paintDragged } from './paintDragged';
import { paintGrid } from './paintGrid';
import { paintVelocities } from './paintVelocities';
import { paintNotes, paintOverlay } from './paintNotes';
import { paintSoundingKeys } from './paintSounding';
import { KEY_STRIP, paintSpans } from './paintSpans';
import {
  beginKeysGesture,
  beginStripGesture,
  beginRulerGesture,
  type RulerGestureTarget,
} from './rulerGestures';
import { tabAt, type SeenMarker } from '../markers';
import { tabsOverRoll } from './markerTabs';
import type { Scene } from './scene';
import { beginStretchGesture, isOnGrip } from './stretchGesture';
import {
  beginPitchSpanGesture,
  beginSpanGesture,
  spanCursor,
  type WhereGestureTarget,
} from './whereGestures';
import { placeSpans, spanAt } from './whereSpans';

/** What the regions of the roll need to know and may do. */
export interface RollTarget
  extends NoteGestureTarget, WhereGestureTarget, HarmonyGestureTarget, RulerGestureTarget {
  velocitiesHeight(height: number): void;
  markers(): readonly SeenMarker[];
  /** The section that a marker begins is meant. */
  namedSection(marker: string): void;
  /** The pointer rests at a place of the roll; null when it rests elsewhere. */
  hover(place: { x: number; y: number } | null): void;
  hoverSpan(stepId: string | null, x: number): void;
}

/** Pixels around the upper edge of the velocities that take hold of it. */
const EDGE = 3;

/** The regions of the roll, in the order they are painted. */
export function rollRegions(target: RollTarget): Region<Scene>[] {
  /** A gesture that previews: abandoned, it leaves no preview. */
  const previewing = (gesture: Gesture | null): Gesture | null =>
    gesture && {
      ...gesture,
      abandon() {
        gesture.abandon?.();
        target.preview(null);
      },
    };

  const notes: Region<Scene> = {
    box() {
      const layout = target.layout();
      return { left: layout.gutter, top: rollTop(layout), right: layout.width, bottom: harmonyTop(layout) };
    },
    paint(context, scene) {
      paintGrid(context, scene);
      paintNotes(context, scene);
    },
    paintAbove: paintOverlay,
    cursor(x, y) {
      if (isOnGrip(target, x, y)) return 'ew-resize';
      if (target.tool() === 'draw') return 'crosshair';
      if (target.tool() === 'erase') return 'cell';
      const { rows, edge } = spotAt(target, x, y);
      return rows.length === 0 ? '' : edge ? 'ew-resize' : 'move';
    },
    hover: (x, y) => target.hover({ x, y }),
    leave: () => target.hover(null),
    grabs: (x, y) =>
      (target.mayEdit() && target.tool() !== 'select') ||
      isOnGrip(target, x, y) ||
      spotAt(target, x, y).rows.some((row) => target.isSelected(row)),
    begin: (x, y, event) =>
      previewing(
        isOnGrip(target, x, y) ? beginStretchGesture(target, x) : beginNoteGesture(target, x, y, event),
      ),
  };

  const velocities: Region<Scene> = {
    box() {
      const { gutter, width, height, velocities } = target.layout();
      return velocities > 0 ? { left: gutter, top: height - velocities, right: width, bottom: height } : null;
    },
    paint: paintVelocities,
    grabs: () => true,
    begin: (x, y, event) => previewing(beginVelocityGesture(target, x, y, event)),
  };

  const harmony: Region<Scene> = {
    box() {
      const layout = target.layout();
      if (layout.harmony === 0) return null;
      return {
        left: layout.gutter,
        top: harmonyTop(layout),
        right: layout.width,
        bottom: velocitiesTop(layout),
      };
    },
    paint: paintHarmony,
    cursor: () => 'ns-resize',
    grabs: () => true,
    begin: (x, y, _, isSecond) => beginHarmonyGesture(target, x, y, isSecond),
  };

  const ruler: Region<Scene> = {
    box() {
      const { width, overview, ruler: height } = target.layout();
      return { left: 0, top: overview, right: width, bottom: overview + height };
    },
    paint: paintRuler,
    paintAbove: paintDragged,
    begin: (x, y, event) => (event.altKey ? beginSpanGesture(target, x, y) : beginRulerGesture(target, x)),
    doubleClick(x) {
      const { markers, meter, window, layout } = target;
      const tab = tabAt(tabsOverRoll(markers(), window(), layout(), meter()), x);
      if (tab) target.namedSection(tab.marker.id);
    },
  };

  const spans: Region<Scene> = {
    box() {
      const layout = target.layout();
      const top = layout.overview + layout.ruler;
      return layout.spans > 0 ? { left: 0, top, right: layout.width, bottom: rollTop(layout) } : null;
    },
    paint: paintSpans,
    cursor: (x, y) => (x < target.layout().gutter ? '' : spanCursor(target, x, y)),
    hover(x, y) {
      const hit = spanAt(placeSpans(target.spans(), target.window(), target.layout()), x, y);
      target.hoverSpan(hit?.span.stepId ?? null, x);
    },
    leave: () => target.hoverSpan(null, 0),
    begin: (x, y) => beginSpanGesture(target, x, y),
  };

  const keys: Region<Scene> = {
    box() {
      const layout = target.layout();
      return { left: 0, top: rollTop(layout), right: layout.gutter, bottom: harmonyTop(layout) };
    },
    paint: paintGutter,
    paintAbove: paintSoundingKeys,
    cursor: (x) => (x >= target.layout().gutter - KEY_STRIP && target.mayWhere() ? 'ns-resize' : ''),
    begin(x, y, event, isSecond) {
      if (event.altKey || x >= target.layout().gutter - KEY_STRIP) return beginPitchSpanGesture(target, y);
      const selects = event.ctrlKey || event.metaKey || isSecond;
      return beginKeysGesture(target, y, { selects, adds: event.shiftKey });
    },
  };

  const overview: Region<Scene> = {
    box() {
      const layout = target.layout();
      return { left: 0, top: 0, right: layout.width, bottom: layout.overview };
    },
    paint: (context, scene) => paintStrip(context, scene, target.endTick()),
    cursor: () => 'pointer',
    grabs: () => true,
    begin: (x) => beginStripGesture(target, x),
  };

  /** The upper edge of the velocities, which is dragged to make it higher. */
  const velocityEdge: Region<Scene> = {
    box() {
      const layout = target.layout();
      const top = velocitiesTop(layout);
      return layout.velocities > 0
        ? { left: 0, top: top - EDGE, right: layout.width, bottom: top + EDGE }
        : null;
    },
    cursor: () => 'ns-resize',
    grabs: () => true,
    begin: () => ({
      move(_, y) {
        const height = Math.round(target.layout().height - y);
        target.velocitiesHeight(Math.min(VELOCITY_HEIGHT.most, Math.max(VELOCITY_HEIGHT.least, height)));
      },
      end: () => undefined,
    }),
  };

  return [notes, velocities, harmony, ruler, spans, keys, overview, velocityEdge];
}
