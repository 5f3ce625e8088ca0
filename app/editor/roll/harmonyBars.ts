import { barAt, semitonesAt, type MeterMap, type Section } from '@ordle/core';
import type { EditorWindow } from '@/state/viewSlice';
import { harmonyTop, rollWidth, tickAt, xOf, type Layout } from './geometry';
import type { Gesture } from '@/surface';
import { forEachBar } from './paintGrid';
import type { Scene } from './scene';

export const HARMONY_HEIGHT = 46;
/** Pixels of a drag for a semitone. */
const PIXELS_A_SEMITONE = 5;
/** Amounts beyond an octave are drawn as high as one. */
const FULL = 12;

/** The strip of bars with the semitones each is moved by, while a transpose step is the current one. */
export function paintHarmony(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, colours, sections } = scene;
  if (!sections || layout.harmony === 0) return;
  const top = harmonyTop(layout);
  const middle = Math.round(top + layout.harmony / 2);
  const half = layout.harmony / 2 - 4;
  context.fillStyle = colours.sheet;
  context.fillRect(0, top, layout.width, layout.harmony);
  context.fillStyle = colours.ruleStrong;
  context.fillRect(0, top, layout.width, 1);
  context.textBaseline = 'middle';
  context.font = colours.letters;
  context.fillStyle = colours.ink2;
  context.fillText('moved', 6, middle, layout.gutter - 8);
  context.save();
  context.beginPath();
  context.rect(layout.gutter, top, rollWidth(layout), layout.harmony);
  context.clip();
  context.fillStyle = colours.rule;
  context.fillRect(layout.gutter, middle, rollWidth(layout), 1);
  const from = tickAt(layout.gutter, window, layout);
  forEachBar(scene, from, tickAt(layout.width, window, layout), (start, number, _, end) => {
    const [left, right] = [xOf(start, window, layout), xOf(end, window, layout)];
    const amount = semitonesAt(sections, number);
    context.fillStyle = colours.rule;
    context.fillRect(Math.round(left), top + 1, 1, layout.harmony);
    const height = (Math.min(FULL, Math.abs(amount)) / FULL) * half;
    context.fillStyle = scene.colours.parts[scene.ink];
    context.globalAlpha = 0.3;
    if (amount > 0) context.fillRect(left + 1, middle - height, right - left - 1, height);
    else if (amount < 0) context.fillRect(left + 1, middle + 1, right - left - 1, height);
    context.globalAlpha = 1;
    if (right - left < 20) return;
    context.fillStyle = amount === 0 ? colours.ink3 : colours.ink;
    const words = amount > 0 ? `+${amount}` : amount < 0 ? `−${-amount}` : '0';
    context.textAlign = 'center';
    context.fillText(words, (Math.max(left, layout.gutter) + Math.min(right, layout.width)) / 2, middle);
    context.textAlign = 'left';
  });
  context.restore();
}

/** What gestures on the strip of bars need and may do. */
export interface HarmonyGestureTarget {
  layout(): Layout;
  window(): EditorWindow;
  meter(): MeterMap | null;
  sections(): readonly Section[] | null;
  /** Gives some bars one amount; the changes of one `gesture` are one action. */
  section(bars: [number, number], semitones: number, gesture: string): void;
  abandonWhere(gesture: string): void;
}

let gestures = 0;

/**
 * Up and down changes the amount of the bar pressed, sideways spreads it over more bars. A double click takes it
 * away.
 */
export function beginHarmonyGesture(
  target: HarmonyGestureTarget,
  pressedX: number,
  pressedY: number,
  isSecond: boolean,
): Gesture | null {
  const [sections, meter] = [target.sections(), target.meter()];
  if (!sections || !meter) return null;
  const name = `harmony-${Date.now()}-${gestures++}`;
  const barOf = (x: number) => barAt(meter, Math.max(0, tickAt(x, target.window(), target.layout()))).number;
  const home = barOf(pressedX);
  const amount = semitonesAt(sections, home);
  if (isSecond) {
    target.section([home, home + 1], 0, name);
    return null;
  }
  let last = `${amount}`;
  return {
    move(x, y) {
      const here = barOf(x);
      const bars: [number, number] = [Math.min(home, here), Math.max(home, here) + 1];
      const by = Math.round((pressedY - y) / PIXELS_A_SEMITONE);
      const next = Math.max(-127, Math.min(127, amount + by));
      const key = bars[1] - bars[0] === 1 ? `${next}` : `${next} ${bars.join()}`;
      if (key !== last) target.section(bars, next, name);
      last = key;
    },
    end: () => undefined,
    abandon: () => target.abandonWhere(name),
  };
}
