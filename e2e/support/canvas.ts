import type { Page } from '@playwright/test';
import { boxOf, settled } from './app';

/** Where things stand on the canvas, in CSS pixels from its corner; read from the editor itself. */
export interface CanvasLayout {
  gutter: number;
  overview: number;
  ruler: number;
  spans: number;
  harmony: number;
  velocities: number;
  height: number;
  tick: number;
  ticksPerPixel: number;
  topPitch: number;
  rowHeight: number;
  /** The canvas's corner on the page. */
  left: number;
  top: number;
}

export async function canvasLayout(page: Page): Promise<CanvasLayout> {
  const roll = page.getByTestId('roll');
  const box = await boxOf(roll);
  const inside = await roll.evaluate((canvas) => {
    const { ordleEditor } = canvas as unknown as { ordleEditor: { layout(): object; window(): object } };
    return { ...ordleEditor.layout(), ...ordleEditor.window() };
  });
  return { ...(inside as Omit<CanvasLayout, 'left' | 'top'>), left: box.x, top: box.y };
}

export type Place = (layout: CanvasLayout) => { x: number; y: number };

const across = (layout: CanvasLayout, tick: number) =>
  layout.left + layout.gutter + (tick - layout.tick) / layout.ticksPerPixel;

/** The middle of a pitch's row at a tick. */
export const onRoll =
  (tick: number, pitch: number): Place =>
  (layout) => ({
    x: across(layout, tick),
    y:
      layout.top +
      layout.overview +
      layout.ruler +
      layout.spans +
      (layout.topPitch - pitch + 0.5) * layout.rowHeight,
  });

/** A tick on the ruler. */
export const onRuler =
  (tick: number): Place =>
  (layout) => ({ x: across(layout, tick), y: layout.top + layout.overview + layout.ruler / 2 });

/** A tick on the strip of spans, in the row of a span; rows are counted from the top. */
export const onStrip =
  (tick: number, row = 0): Place =>
  (layout) => ({ x: across(layout, tick), y: layout.top + layout.overview + layout.ruler + 3 + row * 7 + 3 });

/** A place beside the keys. */
export const besideKeys =
  (pitch: number): Place =>
  (layout) => ({ x: layout.left + layout.gutter - 4, y: onRoll(0, pitch)(layout).y });

/** A tick on the lane of bars, some pixels above its middle. */
export const onBars =
  (tick: number, above = 0): Place =>
  (layout) => ({
    x: across(layout, tick),
    y: layout.top + layout.height - layout.velocities - layout.harmony / 2 - above,
  });

/** Presses at one place, goes over others and lets go at the last, as a hand would. */
export async function dragOver(page: Page, places: Place[], keys: string[] = [], letGo = true) {
  const layout = await canvasLayout(page);
  const points = places.map((place) => place(layout));
  for (const key of keys) await page.keyboard.down(key);
  await page.mouse.move(points[0].x, points[0].y);
  await page.mouse.down();
  for (const [index, point] of points.slice(1).entries()) {
    const before = points[index];
    await page.mouse.move((before.x + point.x) / 2, (before.y + point.y) / 2, { steps: 4 });
    await page.mouse.move(point.x, point.y, { steps: 4 });
  }
  if (letGo) await page.mouse.up();
  for (const key of keys) await page.keyboard.up(key);
  await settled(page);
}

/** Clicks where a tick and a pitch are on the roll. */
export async function clickOnRoll(page: Page, tick: number, pitch: number) {
  const { x, y } = onRoll(tick, pitch)(await canvasLayout(page));
  await page.mouse.click(x, y);
}
