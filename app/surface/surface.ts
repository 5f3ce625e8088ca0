import { cancelFrame, onNextFrame } from './frames';
import { attachPointers } from './pointers';
import type { Navigation, Region } from './region';

/** Paintings whose times are kept. */
const MOST_TIMES = 2000;

export interface SurfaceOptions<Scene> {
  canvas: HTMLCanvasElement;
  /** A canvas of the same size over the other, for regions that paint above. */
  overlay?: HTMLCanvasElement;
  /** In the order they are painted: what comes later lies over what comes before, for presses too. */
  regions: readonly Region<Scene>[];
  /** What is to be painted; null while there is nothing. */
  scene(): Scene | null;
  /** The surface has another size, in CSS pixels; it is painted afterwards. */
  onSize(width: number, height: number): void;
  navigation: Navigation;
  leavesWheel?(event: WheelEvent): boolean;
  /** A gesture began or was over. */
  onGesture?(isUnderWay: boolean): void;
  onPainted?(): void;
}

/**
 * One canvas on which regions lie: it keeps the canvas as large and as sharp as the screen shows it, paints the
 * regions once a frame when something changed, and hands presses, wheel and keys to them.
 */
export function createSurface<Scene>(options: SurfaceOptions<Scene>) {
  const { canvas, overlay, regions } = options;
  const base = canvas.getContext('2d', { alpha: false });
  const above = overlay?.getContext('2d') ?? null;
  let isBaseStale = true;
  /** In CSS pixels, kept so that painting never makes the browser lay the page out. */
  let [width, height] = [0, 0];
  /** Milliseconds the last paintings took, for the benchmark. */
  const paintTimes: number[] = [];

  const ratio = () => globalThis.devicePixelRatio || 1;

  function paint() {
    const scene = options.scene();
    if (!base || !scene) return;
    const begun = performance.now();
    if (isBaseStale) {
      base.setTransform(ratio(), 0, 0, ratio(), 0, 0);
      for (const region of regions) region.paint?.(base, scene);
    }
    isBaseStale = false;
    if (above) {
      above.setTransform(ratio(), 0, 0, ratio(), 0, 0);
      above.clearRect(0, 0, width, height);
      for (const region of regions) region.paintAbove?.(above, scene);
    }
    paintTimes.push(performance.now() - begun);
    if (paintTimes.length > MOST_TIMES) paintTimes.shift();
    options.onPainted?.();
  }

  /** Paints everything anew in the next frame. */
  function invalidate() {
    isBaseStale = true;
    onNextFrame(paint);
  }

  function resize() {
    const { clientWidth, clientHeight } = canvas;
    if (clientWidth === 0 || clientHeight === 0) return;
    for (const each of overlay ? [canvas, overlay] : [canvas]) {
      each.width = Math.round(clientWidth * ratio());
      each.height = Math.round(clientHeight * ratio());
    }
    [width, height] = [clientWidth, clientHeight];
    options.onSize(width, height);
    invalidate();
  }

  const pointers = attachPointers(options);
  const observer = new ResizeObserver(resize);
  observer.observe(canvas);

  return {
    invalidate,
    /** Paints only what lies above in the next frame. */
    invalidateAbove: () => onNextFrame(paint),
    isGestureUnderWay: pointers.isUnderWay,
    paintTimes: () => paintTimes,
    destroy() {
      cancelFrame(paint);
      pointers.destroy();
      observer.disconnect();
    },
  };
}

export type Surface = ReturnType<typeof createSurface>;
