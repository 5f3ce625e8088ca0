import { expect, test, type Page } from '@playwright/test';
import { bringIn, openDemo, settled } from './support/app';
import { canvasLayout } from './support/canvas';
import { note, smallFile } from './support/smallFiles';

/** The share of the window that shows notes, and how high they stand in pixels. */
async function roomForNotes(page: Page) {
  const layout = await canvasLayout(page);
  const box = await page.getByTestId('roll').boundingBox();
  const { width, height } = page.viewportSize() ?? { width: 1, height: 1 };
  const high =
    layout.height - layout.overview - layout.ruler - layout.spans - layout.harmony - layout.velocities;
  return { share: (((box?.width ?? 0) - layout.gutter) * high) / (width * height), high };
}

test('the music has a third of the window, and more where the panels are folded away', async ({ page }) => {
  await openDemo(page);
  const open = await roomForNotes(page);
  expect(open.share).toBeGreaterThan(0.33);
  await page.keyboard.press('Alt+1');
  await page.keyboard.press('Alt+2');
  await expect.poll(async () => (await roomForNotes(page)).share).toBeGreaterThan(0.45);
  // What is looked at is stored a moment after it changes.
  await page.waitForTimeout(1500);
  await page.reload();
  await settled(page);
  await expect.poll(async () => (await roomForNotes(page)).share).toBeGreaterThan(0.45);
  await page.getByRole('button', { name: 'Parts' }).click();
  await page.getByRole('button', { name: 'Settings' }).click();
  await expect.poll(async () => (await roomForNotes(page)).share).toBeCloseTo(open.share, 2);

  // A panel is as wide as its edge is dragged, by hand or by key.
  const edge = page.getByRole('separator', { name: 'Width of parts' });
  await edge.focus();
  await page.keyboard.press('ArrowRight');
  await expect(edge).toHaveAttribute('aria-valuenow', '188');
});

test('nothing is cut off in a small window', async ({ page }) => {
  await page.setViewportSize({ width: 1024, height: 700 });
  await openDemo(page);
  await page.keyboard.press('.');
  const list = await page.getByRole('button', { name: 'list', exact: true }).boundingBox();
  const settings = await page.getByRole('complementary', { name: 'Settings' }).boundingBox();
  expect((list?.x ?? Infinity) + (list?.width ?? 0)).toBeLessThanOrEqual((settings?.x ?? 0) + 1);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(1024);
  expect((await roomForNotes(page)).high).toBeGreaterThanOrEqual(240);
});

test('the Bench opens on the first part with notes, at its first note', async ({ page }) => {
  await page.goto('/');
  await bringIn(page, [
    smallFile('late.mid', {
      words: [{ tick: 0, meta: true, type: 'text', text: 'made up' }],
      // From bar 6 on, 12 ticks ahead of it.
      bell: [...note(5 * 1920 - 12, 5 * 1920 + 300, 64), ...note(6 * 1920, 6 * 1920 + 300, 67)],
    }),
  ]);
  await settled(page);
  await expect(page.getByTestId('roll')).toHaveAttribute('aria-label', /^bell: 2 notes/);
  const { tick, ticksPerPixel } = await canvasLayout(page);
  expect(tick).toBeGreaterThan(4.8 * 1920);
  expect(tick + 30 * ticksPerPixel).toBeGreaterThan(5 * 1920 - 12);
});
