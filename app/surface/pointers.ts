import { cancelFrame, onNextFrame } from './frames';
import { EDGE, overshoot } from './overshoot';
import { pointedBy } from './reach';
import { regionAt, type Gesture, type HeldKeys, type Navigation, type Region } from './region';

/** A finger that rests so long takes hold, in ms; one that moves farther before it swipes, in pixels. */
const [REST_MS, SWIPE] = [220, 8];
/** Fingers nearer to each other than this do not zoom: their distance says too little. */
const LEAST_PINCH = 24;
/**
 * Two presses within these are a double click; pointers, other than the mouse, are not told of those when they press.
 */
const DOUBLE_MS = 500;
const DOUBLE_PIXELS = 6;
/** Pixels of a line and of a page, for wheels that count in those. */
const WHEEL_LINE = 16;
const WHEEL_PAGE = 400;

interface PointersOptions<Scene> {
  canvas: HTMLCanvasElement;
  regions: readonly Region<Scene>[];
  navigation: Navigation;
  /** A wheel that belongs to something else, such as a list the surface lies in. */
  leavesWheel?(event: WheelEvent): boolean;
  /** A gesture began or was over. */
  onGesture?(isUnderWay: boolean): void;
}

/**
 * Wheel, pointers and Escape on a surface. One gesture is under way at a time: it has the pointer until it is let go,
 * and Escape, a second finger or a lost pointer abandon it without a trace. Two fingers and the middle button move
 * what is in sight.
 */
export function attachPointers<Scene>(options: PointersOptions<Scene>) {
  const { canvas, regions, navigation } = options;
  let gesture: Gesture | null = null;
  let rested: Region<Scene> | null = null;
  let pressed = { x: NaN, y: NaN, at: -Infinity };
  /**
   * The region a gesture began in, where the pointer is now, and whether it was away from the edges since: a gesture
   * that begins at an edge is not to scroll at once.
   */
  let held: { region: Region<Scene>; x: number; y: number; keys: HeldKeys; wasWithin: boolean } | null = null;
  /** A finger that is down and has neither moved nor rested. */
  let undecided: { x: number; y: number; take(): void; timer: ReturnType<typeof setTimeout> } | null = null;
  const fingers = new Map<number, { x: number; y: number }>();
  const listening = new AbortController();
  const { signal } = listening;

  const placeOf = (event: MouseEvent) => {
    const box = canvas.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };

  function rest(region: Region<Scene> | null) {
    if (rested !== region) rested?.leave?.();
    rested = region;
  }

  function begin(next: Gesture | null) {
    gesture = next;
    if (!next) return;
    if (next.cursor) canvas.style.cursor = next.cursor;
    // Taken off when the gesture is over: with a signal each would leave something behind on it.
    globalThis.addEventListener('keydown', onEscape, true);
    options.onGesture?.(true);
  }

  /** Moves what is in sight on while a gesture is held at the edge of its region. */
  function scroll() {
    const box = gesture?.scrolls ? held?.region.box() : null;
    if (!box || !held) return;
    held.wasWithin ||= overshoot(box, held.x, held.y).every((by) => by === 0);
    const [right, down] = overshoot(box, held.x, held.y, held.wasWithin ? EDGE : 0);
    if (right === 0 && down === 0) return;
    navigation.pan(right, down);
    gesture?.move(held.x, held.y, held.keys);
    onNextFrame(scroll);
  }

  function over(): Gesture | null {
    const ended = gesture;
    gesture = null;
    held = null;
    cancelFrame(scroll);
    canvas.style.cursor = '';
    globalThis.removeEventListener('keydown', onEscape, true);
    return ended;
  }

  function abandon() {
    clearTimeout(undecided?.timer);
    undecided = null;
    const ended = over();
    ended?.abandon?.();
    if (ended) options.onGesture?.(false);
  }

  function onEscape(event: KeyboardEvent) {
    if (event.key !== 'Escape' || !gesture) return;
    abandon();
    event.stopPropagation();
    event.preventDefault();
  }

  function onWheel(event: WheelEvent) {
    if (options.leavesWheel?.(event)) return;
    event.preventDefault();
    const { x, y } = placeOf(event);
    const unit = event.deltaMode === 1 ? WHEEL_LINE : event.deltaMode === 2 ? WHEEL_PAGE : 1;
    const [right, down] = [event.deltaX * unit, event.deltaY * unit];
    // A pinch on a trackpad arrives as a wheel with Ctrl.
    if (event.ctrlKey || event.metaKey) navigation.zoomTime(x, Math.exp(down * 0.0025));
    else if (event.altKey) navigation.zoomRows(y, Math.exp(-down * 0.0025));
    else if (event.shiftKey && right === 0) navigation.pan(down, 0);
    else navigation.pan(right, down);
  }

  function panGesture(x: number, y: number): Gesture {
    let [lastX, lastY] = [x, y];
    return {
      cursor: 'grabbing',
      move(toX, toY) {
        navigation.pan(lastX - toX, lastY - toY);
        [lastX, lastY] = [toX, toY];
      },
      end: () => undefined,
    };
  }

  function onDown(event: PointerEvent) {
    pointedBy(event.pointerType);
    if (event.button !== 0 && event.button !== 1) return;
    const { x, y } = placeOf(event);
    canvas.setPointerCapture(event.pointerId);
    rest(null);
    if (event.pointerType === 'touch') fingers.set(event.pointerId, { x, y });
    if (gesture || fingers.size > 1) {
      abandon();
      return;
    }
    if (event.button === 1) {
      // The browser would scroll by itself.
      event.preventDefault();
      begin(panGesture(x, y));
      return;
    }
    const isSecond =
      event.timeStamp - pressed.at < DOUBLE_MS && Math.hypot(x - pressed.x, y - pressed.y) < DOUBLE_PIXELS;
    pressed = isSecond ? { x: NaN, y: NaN, at: -Infinity } : { x, y, at: event.timeStamp };
    const region = regionAt(regions, x, y);
    const take = () => {
      held = region && { region, x, y, keys: event, wasWithin: false };
      begin(region?.begin?.(x, y, event, isSecond) ?? null);
    };
    if (event.pointerType !== 'touch' || region?.grabs?.(x, y)) take();
    else undecided = { x, y, take, timer: setTimeout(() => decide(true), REST_MS) };
  }

  /** What a finger was up to is settled: it rested or tapped and so presses, or it swipes. */
  function decide(presses: boolean) {
    const was = undecided;
    undecided = null;
    clearTimeout(was?.timer);
    if (was && presses) was.take();
    else if (was) {
      // A swipe is no first press of two.
      pressed = { x: NaN, y: NaN, at: -Infinity };
      begin(panGesture(was.x, was.y));
    }
  }

  /** Two fingers: their middle pans, their distance zooms time. */
  function pinch(event: PointerEvent, x: number, y: number) {
    const other = [...fingers].find(([id]) => id !== event.pointerId)?.[1];
    const before = fingers.get(event.pointerId);
    fingers.set(event.pointerId, { x, y });
    if (!other || !before) return;
    navigation.pan((before.x - x) / 2, (before.y - y) / 2);
    const [was, is] = [Math.abs(before.x - other.x), Math.abs(x - other.x)];
    if (was > LEAST_PINCH && is > LEAST_PINCH) navigation.zoomTime((x + other.x) / 2, was / is);
  }

  function onMove(event: PointerEvent) {
    if (!gesture && !undecided) pointedBy(event.pointerType);
    const { x, y } = placeOf(event);
    if (undecided && Math.hypot(x - undecided.x, y - undecided.y) > SWIPE) decide(false);
    if (fingers.size > 1 && fingers.has(event.pointerId)) pinch(event, x, y);
    else if (undecided) return;
    else if (gesture) {
      if (held) held = { ...held, x, y, keys: { altKey: event.altKey, shiftKey: event.shiftKey } };
      gesture.move(x, y, event);
      if (gesture?.scrolls) onNextFrame(scroll);
    } else {
      const region = regionAt(regions, x, y);
      rest(region);
      canvas.style.cursor = region?.cursor?.(x, y) ?? '';
      region?.hover?.(x, y);
    }
  }

  function onUp(event: PointerEvent) {
    fingers.delete(event.pointerId);
    // A tap is a press and its end.
    if (undecided) decide(true);
    const ended = over();
    ended?.end();
    if (ended) options.onGesture?.(false);
  }

  function onLost(event: PointerEvent) {
    fingers.delete(event.pointerId);
    abandon();
  }

  function onDouble(event: MouseEvent) {
    const { x, y } = placeOf(event);
    regionAt(regions, x, y)?.doubleClick?.(x, y);
  }

  canvas.addEventListener('wheel', onWheel, { passive: false, signal });
  canvas.addEventListener('pointerdown', onDown, { signal });
  canvas.addEventListener('pointermove', onMove, { signal });
  canvas.addEventListener('pointerup', onUp, { signal });
  canvas.addEventListener('pointercancel', onLost, { signal });
  canvas.addEventListener('lostpointercapture', onLost, { signal });
  canvas.addEventListener('pointerleave', () => gesture ?? rest(null), { signal });
  canvas.addEventListener('dblclick', onDouble, { signal });
  // Where a middle click pastes, panning must not.
  for (const name of ['mouseup', 'auxclick'] as const)
    canvas.addEventListener(name, (event) => event.button === 1 && event.preventDefault(), { signal });

  return {
    isUnderWay: () => gesture !== null,
    destroy() {
      abandon();
      rest(null);
      listening.abort();
    },
  };
}
