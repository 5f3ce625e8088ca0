import type { Page } from '@playwright/test';
import { parseMidi } from 'midi-file';
import { boxOf, exportedBytes, settled } from './app';
import { canvasLayout } from './canvas';

export async function addLane(page: Page, name: string) {
  await page.keyboard.press('Shift+V');
  await page.getByPlaceholder('Number or name').fill(name);
  await page.keyboard.press('Enter');
  await settled(page);
}

/** Drags over a lane: ticks, and heights as shares of the lane from its top. */
export async function strokeIn(
  page: Page,
  lane: string,
  places: [tick: number, share: number][],
  keys: string[] = [],
) {
  const points = await Promise.all(places.map(([tick, share]) => placeInLane(page, lane, tick, share)));
  for (const key of keys) await page.keyboard.down(key);
  await page.mouse.move(points[0].x, points[0].y);
  await page.mouse.down();
  for (const point of points.slice(1)) await page.mouse.move(point.x, point.y, { steps: 6 });
  await page.mouse.up();
  for (const key of keys) await page.keyboard.up(key);
  await settled(page);
}

/** Values of a controller in the export, read by midi-file. */
export async function exportedController(
  page: Page,
  number: number,
): Promise<[tick: number, value: number][]> {
  const { tracks } = parseMidi(await exportedBytes(page));
  return tracks.flatMap((events) => {
    let tick = 0;
    return events.flatMap((event): [number, number][] => {
      tick += event.deltaTime;
      return event.type === 'controller' && event.controllerType === number ? [[tick, event.value]] : [];
    });
  });
}

/** Where a place of a lane is on the page: a tick, and a height as a share of the lane from its top. */
export async function placeInLane(page: Page, lane: string, tick: number, share: number) {
  const layout = await canvasLayout(page);
  const box = await boxOf(page.getByTestId(`lane-${lane}`));
  if (!box) throw new Error(`no lane ${lane}`);
  return {
    x: layout.left + layout.gutter + (tick - layout.tick) / layout.ticksPerPixel,
    y: box.y + 8 + share * (box.height - 16),
  };
}

/** Puts the play line at a tick, by a click on the ruler. */
export async function playLineTo(page: Page, tick: number) {
  const layout = await canvasLayout(page);
  await page.mouse.click(
    layout.left + layout.gutter + (tick - layout.tick) / layout.ticksPerPixel,
    layout.top + layout.overview + layout.ruler / 2,
  );
}
