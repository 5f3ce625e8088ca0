import { attachPointers } from './pointers';
import { regionAt, type Gesture, type Region } from './region';

/** A pointer, wheel or key event as a browser would send it, in plain Node. */
const event = (type: string, more: object = {}) => {
  const made = Object.assign(new Event(type, { cancelable: true }), {
    button: 0,
    pointerId: 1,
    pointerType: 'mouse',
    clientX: 0,
    clientY: 0,
    ...more,
  });
  return made;
};

/** Stands for the window, which Node's global object is not. */
const keys = new EventTarget();
beforeAll(() => {
  globalThis.addEventListener = keys.addEventListener.bind(keys);
  globalThis.removeEventListener = keys.removeEventListener.bind(keys);
});

/**
 * Two regions, the second over the right half of the first, on a canvas that stands at 100, 50; all that happens is
 * written down.
 */
function surface() {
  const log: string[] = [];
  const canvas = Object.assign(new EventTarget(), {
    style: { cursor: '' },
    getBoundingClientRect: () => ({ left: 100, top: 50 }),
    setPointerCapture: (id: number) => log.push(`capture ${id}`),
  });
  const gesture = (name: string): Gesture => ({
    move: (x, y) => log.push(`${name} to ${x} ${y}`),
    end: () => log.push(`${name} ends`),
    abandon: () => log.push(`${name} abandoned`),
  });
  const region = (name: string, left: number, right: number): Region<null> => ({
    box: () => ({ left, top: 0, right, bottom: 40 }),
    cursor: () => name,
    hover: (x) => log.push(`hover ${name} ${x}`),
    leave: () => log.push(`leave ${name}`),
    begin: (x, y, _, isSecond) => {
      log.push(`begin ${name} ${x} ${y}${isSecond ? ' again' : ''}`);
      return gesture(name);
    },
    doubleClick: (x) => log.push(`double ${name} ${x}`),
  });
  const regions = [region('wide', 0, 80), region('over', 40, 80)];
  const pointers = attachPointers({
    canvas: canvas as unknown as HTMLCanvasElement,
    regions,
    navigation: {
      pan: (right, down) => log.push(`pan ${right} ${down}`),
      zoomTime: (x, factor) => log.push(`time ${x} ${factor.toFixed(3)}`),
      zoomRows: (y, factor) => log.push(`rows ${y} ${factor.toFixed(3)}`),
    },
    leavesWheel: ({ deltaY }) => deltaY === 999,
    onGesture: (isUnderWay) => log.push(isUnderWay ? 'busy' : 'idle'),
  });
  return {
    log,
    canvas,
    pointers,
    regions,
    send(type: string, x: number, y: number, more: object = {}) {
      const sent = event(type, { clientX: 100 + x, clientY: 50 + y, ...more });
      canvas.dispatchEvent(sent);
      return sent;
    },
    take: () => log.splice(0),
  };
}

describe('the regions of a surface', () => {
  it('have the places of their boxes, the one painted last before the others, none what is outside', () => {
    const { regions } = surface();
    expect(regionAt(regions, 10, 10)).toBe(regions[0]);
    expect(regionAt(regions, 40, 39)).toBe(regions[1]);
    expect(regionAt(regions, 80, 10)).toBeNull();
    expect(regionAt([{ box: () => null }], 0, 0)).toBeNull();
  });
});

describe('pointers on a surface', () => {
  it('a press begins the gesture of its region, which has the pointer until it is let go', () => {
    const { send, take, canvas, pointers } = surface();
    send('pointermove', 10, 5);
    expect(canvas.style.cursor).toBe('wide');
    send('pointerdown', 10, 5);
    expect(pointers.isUnderWay()).toBe(true);
    send('pointermove', 70, 6);
    send('pointerup', 70, 6);
    expect(take()).toEqual([
      'hover wide 10',
      'capture 1',
      'leave wide',
      'begin wide 10 5',
      'busy',
      'wide to 70 6',
      'wide ends',
      'idle',
    ]);
    send('pointermove', 70, 6);
    send('pointermove', 200, 6);
    expect(take()).toEqual(['hover over 70', 'leave over']);
    expect(canvas.style.cursor).toBe('');
  });

  it('Escape abandons a gesture and goes no further; without one others have it', () => {
    const { send, take } = surface();
    const press = () => keys.dispatchEvent(Object.assign(event('keydown'), { key: 'Escape' }));
    send('pointerdown', 10, 5);
    take();
    expect(press()).toBe(false);
    expect(take()).toEqual(['wide abandoned', 'idle']);
    send('pointermove', 12, 5);
    send('pointerup', 12, 5);
    expect(take()).toEqual(['hover wide 12']);
    expect(press()).toBe(true);
  });

  it('a lost or cancelled pointer abandons what was under way', () => {
    const { send, take } = surface();
    for (const type of ['pointercancel', 'lostpointercapture']) {
      send('pointerdown', 10, 5);
      take();
      send(type, 10, 5);
      expect(take()).toEqual(['wide abandoned', 'idle']);
    }
  });

  it('a second finger abandons the gesture of the first; both together pan and zoom', () => {
    const { send, take } = surface();
    const touch = (id: number) => ({ pointerType: 'touch', pointerId: id });
    send('pointerdown', 10, 5, touch(1));
    send('pointerdown', 60, 5, touch(2));
    // The first has neither moved nor rested yet: it began nothing.
    expect(take()).toEqual(['capture 1', 'capture 2']);
    send('pointermove', 110, 9, touch(2));
    expect(take()).toEqual(['pan -25 -2', 'time 60 0.500']);
    send('pointerup', 110, 9, touch(2));
    send('pointerup', 10, 5, touch(1));
    expect(take()).toEqual([]);
  });

  it('a finger that swipes pans and chooses nothing, one that taps presses, one that rests takes hold', () => {
    jest.useFakeTimers();
    const { send, take } = surface();
    const touch = { pointerType: 'touch', pointerId: 1 };
    send('pointerdown', 10, 5, touch);
    send('pointermove', 13, 5, touch);
    send('pointermove', 30, 5, touch);
    send('pointermove', 40, 5, touch);
    send('pointerup', 40, 5, touch);
    expect(take()).toEqual(['capture 1', 'busy', 'pan -20 0', 'pan -10 0', 'idle']);
    send('pointerdown', 10, 5, touch);
    send('pointerup', 10, 5, touch);
    expect(take()).toEqual(['capture 1', 'begin wide 10 5', 'busy', 'wide ends', 'idle']);
    send('pointerdown', 25, 5, touch);
    jest.advanceTimersByTime(400);
    send('pointermove', 60, 5, touch);
    send('pointerup', 60, 5, touch);
    expect(take()).toEqual(['capture 1', 'begin wide 25 5', 'busy', 'wide to 60 5', 'wide ends', 'idle']);
    jest.useRealTimers();
  });

  it('the middle button pans, other buttons do nothing', () => {
    const { send, take, canvas } = surface();
    send('pointerdown', 10, 5, { button: 1 });
    expect(canvas.style.cursor).toBe('grabbing');
    send('pointermove', 7, 9);
    send('pointermove', 7, 10);
    send('pointerup', 7, 10);
    send('pointerdown', 10, 5, { button: 2 });
    expect(take()).toEqual(['capture 1', 'busy', 'pan 3 -4', 'pan 0 -1', 'idle']);
  });

  it('a wheel pans, across with Shift, and zooms with Ctrl and Alt; lines and pages count as pixels', () => {
    const { send, take } = surface();
    const wheel = (more: object) =>
      send('wheel', 20, 8, { deltaX: 0, deltaY: 0, deltaMode: 0, ...more }).defaultPrevented;
    expect(wheel({ deltaX: 3, deltaY: 4 })).toBe(true);
    wheel({ deltaY: 4, shiftKey: true });
    wheel({ deltaY: 2, deltaMode: 1 });
    wheel({ deltaY: 1, deltaMode: 2 });
    wheel({ deltaY: 100, ctrlKey: true });
    wheel({ deltaY: 100, altKey: true });
    expect(take()).toEqual(['pan 3 4', 'pan 4 0', 'pan 0 32', 'pan 0 400', 'time 20 1.284', 'rows 8 0.779']);
    expect(wheel({ deltaY: 999 })).toBe(false);
    expect(take()).toEqual([]);
  });

  it('a press soon after another and close by is a second one, a third one the first again', () => {
    const { send, take, canvas } = surface();
    const press = (x: number, time: number) => {
      const sent = event('pointerdown', { clientX: 100 + x, clientY: 55 });
      canvas.dispatchEvent(Object.defineProperty(sent, 'timeStamp', { value: time }));
      send('pointerup', x, 5);
      return take().find((line) => line.startsWith('begin'));
    };
    expect([press(10, 0), press(12, 300), press(12, 500), press(30, 600), press(30, 1200)]).toEqual([
      'begin wide 10 5',
      'begin wide 12 5 again',
      'begin wide 12 5',
      'begin wide 30 5',
      'begin wide 30 5',
    ]);
  });

  it('a double click goes to its region', () => {
    const { send, take } = surface();
    send('dblclick', 50, 5);
    expect(take()).toEqual(['double over 50']);
  });
});
