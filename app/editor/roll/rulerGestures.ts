import { barAt, type MeterMap } from '@ordle/core';
import type { EditorWindow } from '@/state/viewSlice';
import type { Gesture } from '@/surface';
import { pitchAt, rollWidth, tickAt, type Layout } from './geometry';

/** What gestures around the roll need and may do: on the overview, the ruler and the keys. */
export interface RulerGestureTarget {
  layout(): Layout;
  window(): EditorWindow;
  meter(): MeterMap | null;
  endTick(): number;
  moveTo(window: EditorWindow): void;
  locate(tick: number): void;
  /** Plays a little before and after a tick. */
  playAround(tick: number): void;
  loop(from: number, to: number): void;
  /** A key of the gutter was pressed; `selects` takes all notes of its pitch, `adds` beside those selected. */
  key(pitch: number, selects: boolean, adds: boolean): void;
}

/** Pixels the pointer must travel before a press counts as a drag. */
const DRAG = 4;
/** Loops snap to beats that are wider than this, else to bars. */
const WIDE_BEAT = 24;

/** Brings the place of the whole part under the pointer into the middle of the window; a click plays around it. */
export function beginStripGesture(target: RulerGestureTarget, pressed: number): Gesture {
  const tickOf = (x: number) =>
    ((x - target.layout().gutter) / rollWidth(target.layout())) * target.endTick();
  const centreOn = (x: number) => {
    const [layout, window] = [target.layout(), target.window()];
    target.moveTo({ ...window, tick: tickOf(x) - (rollWidth(layout) * window.ticksPerPixel) / 2 });
  };
  let isDragged = false;
  centreOn(pressed);
  return {
    move(x) {
      isDragged ||= Math.abs(x - pressed) > DRAG;
      centreOn(x);
    },
    end() {
      if (!isDragged && pressed >= target.layout().gutter) target.playAround(Math.max(0, tickOf(pressed)));
    },
  };
}

/** Loops snap to bar lines where bars are narrow, and to beats where they are wide. */
function loopBetween(target: RulerGestureTarget, one: number, other: number) {
  const meter = target.meter();
  if (!meter) return;
  const line = (tick: number, later: boolean) => {
    const bar = barAt(meter, Math.max(0, tick));
    const beat = meter.beatTicks[bar.row];
    const unit = beat / target.window().ticksPerPixel > WIDE_BEAT ? beat : bar.end - bar.start;
    const units = (Math.max(0, tick) - bar.start) / unit;
    return bar.start + (later ? Math.ceil(units) : Math.floor(units)) * unit;
  };
  const [from, to] = [line(Math.min(one, other), false), line(Math.max(one, other), true)];
  if (to > from) target.loop(from, to);
}

/** A click puts the play line there, a drag loops what it passes over. */
export function beginRulerGesture(target: RulerGestureTarget, pressed: number): Gesture {
  const tick = (x: number) => tickAt(x, target.window(), target.layout());
  const from = tick(pressed);
  let isDragged = false;
  return {
    move(x) {
      isDragged ||= Math.abs(x - pressed) > DRAG;
      if (isDragged) loopBetween(target, from, tick(x));
    },
    end() {
      if (!isDragged) target.locate(from);
    },
  };
}

/** Sounds the keys the pointer passes over. */
export function beginKeysGesture(
  target: RulerGestureTarget,
  y: number,
  { selects, adds }: { selects: boolean; adds: boolean },
): Gesture {
  const pitch = (at: number) => pitchAt(at, target.window(), target.layout());
  let sounding = pitch(y);
  target.key(sounding, selects, adds);
  return {
    move(_, to) {
      const next = pitch(to);
      if (next === sounding || next < 0 || next > 127) return;
      sounding = next;
      target.key(next, false, false);
    },
    end: () => undefined,
  };
}
