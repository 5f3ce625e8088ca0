/** Keys held while a pointer moves. */
export type HeldKeys = Pick<MouseEvent, 'altKey' | 'shiftKey'>;

/** What a press began and a release ends. Places are CSS pixels from the surface's top left corner. */
export interface Gesture {
  /** The cursor while it is under way. */
  cursor?: string;
  /**
   * Whether what is in sight moves on while the pointer is held at the edge of the region or beyond. Its places are
   * then to be read anew at each move.
   */
  scrolls?: boolean;
  move(x: number, y: number, keys: HeldKeys): void;
  /** The pointer was let go: what was shown is to be done. */
  end(): void;
  /** Escape, a second finger or a lost pointer: takes back what was shown or done while it was under way. */
  abandon?(): void;
}

export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/**
 * A piece of a surface that paints itself, tells what it offers and begins gestures. Places are those of the surface.
 */
export interface Region<Scene> {
  /** Where it lies now; null while it is hidden. What it paints may lie outside. */
  box(): Box | null;
  paint?(context: CanvasRenderingContext2D, scene: Scene): void;
  /** What changes while only the pointer or a gesture moves, on a canvas of its own over everything. */
  paintAbove?(context: CanvasRenderingContext2D, scene: Scene): void;
  /** The cursor that tells what a press here would do. */
  cursor?(x: number, y: number): string;
  /** The pointer rests here, with no button pressed. */
  hover?(x: number, y: number): void;
  /** The pointer went elsewhere, or a button was pressed. */
  leave?(): void;
  /**
   * A press with the main button, `isSecond` when it follows another soon and close by; null where it begins nothing
   * that goes on.
   */
  begin?(x: number, y: number, event: PointerEvent, isSecond: boolean): Gesture | null;
  doubleClick?(x: number, y: number): void;
  /**
   * Whether a finger takes hold at once here, as of a handle or with a tool that draws. Elsewhere a swipe moves what is
   * in sight, a tap is a press, and a finger that rests first begins the gesture.
   */
  grabs?(x: number, y: number): boolean;
}

/** How a surface shows another stretch of what it shows: by wheel, middle button and two fingers. */
export interface Navigation {
  /** Moves what is in sight by pixels: positive ones show what lies to the right and below. */
  pan(right: number, down: number): void;
  /** Shows `factor` times as much time; what lies at x stays there. */
  zoomTime(x: number, factor: number): void;
  /** Makes rows `factor` times as high; what lies at y stays there. */
  zoomRows(y: number, factor: number): void;
}

const holds = ({ left, top, right, bottom }: Box, x: number, y: number): boolean =>
  x >= left && x < right && y >= top && y < bottom;

/** The region a place belongs to: of several the one painted last, which lies over the others. */
export function regionAt<Scene>(
  regions: readonly Region<Scene>[],
  x: number,
  y: number,
): Region<Scene> | null {
  return (
    regions.findLast((region) => {
      const box = region.box();
      return box !== null && holds(box, x, y);
    }) ?? null
  );
}
