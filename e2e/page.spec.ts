import { expect, test, type Page } from './support/test';
import { boxOf, bringIn, openDemo, settled, stops } from './support/app';
import { addLane } from './support/lanes';
import { canvasLayout } from './support/canvas';
import { note, smallFile } from './support/smallFiles';

/** The share of the window that shows notes, and how high they stand in pixels. */
async function roomForNotes(page: Page) {
  const layout = await canvasLayout(page);
  const box = await boxOf(page.getByTestId('roll'));
  const { width, height } = page.viewportSize() ?? { width: 1, height: 1 };
  const high =
    layout.height - layout.overview - layout.ruler - layout.spans - layout.harmony - layout.velocities;
  return { share: (((box?.width ?? 0) - layout.gutter) * high) / (width * height), high };
}

test('the music has a third of the window, and more where the panels are folded away', async ({ page }) => {
  await openDemo(page);
  const open = await roomForNotes(page);
  expect(open.share).toBeGreaterThanOrEqual(0.34);
  await page.keyboard.press('Alt+1');
  await page.keyboard.press('Alt+2');
  await expect.poll(async () => (await roomForNotes(page)).share).toBeGreaterThan(0.45);
  // What is looked at is stored when a session is left, before it can be opened again.
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await page.getByRole('link', { name: 'Ferry crossing' }).click();
  await settled(page);
  await expect.poll(async () => (await roomForNotes(page)).share).toBeGreaterThan(0.45);
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
  await page.getByTestId('roll').focus();
  await page.keyboard.press('Control+a');
  await expect(page.getByTestId('selected')).toContainText('notes');
  // Every control of the bar is whole, or in its menu.
  const bar = page.getByRole('group', { name: 'Editor tools' });
  for (const width of [1024, 1280]) {
    await page.setViewportSize({ width, height: 700 });
    await expect.poll(() => bar.evaluate((element) => element.scrollWidth - element.clientWidth)).toBe(0);
  }
  await page.setViewportSize({ width: 1024, height: 700 });
  await bar.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Note list' }).click();
  await expect(page.getByRole('region', { name: 'Note list' })).toBeVisible();
  await page.keyboard.press('k');
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

test('lanes scroll beneath the notes, which keep their room however many there are', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: /^Reed organ/ }).click();
  await settled(page);
  for (const lane of ['expression', 'sustain', 'bend', 'modulation']) await addLane(page, lane);
  await expect.poll(async () => (await roomForNotes(page)).high).toBeGreaterThanOrEqual(240);
  // The way to add one more, and the first lane's title, are in reach.
  await expect(page.getByRole('button', { name: /add a lane/ })).toBeInViewport();
  await page.getByText('expression (11)').scrollIntoViewIfNeeded();
  await expect(page.getByText('expression (11)')).toBeInViewport();
});

test('a loose place is found by key, and a click on the strip plays around it', async ({ page }) => {
  await openDemo(page);
  const position = page.getByTestId('position');
  await page.getByTestId('roll').focus();
  await page.keyboard.press('u');
  await expect(page.getByTestId('selected')).toBeVisible();
  await expect(position).not.toHaveText('1.1.000');
  const first = await position.textContent();
  await page.keyboard.press('u');
  await expect(position).not.toHaveText(first ?? '');
  await page.keyboard.press('Shift+U');
  await expect(position).toHaveText(first ?? '');
  await expect(page.getByTestId('troubles')).toContainText(/\d+ places?/);
  await page.keyboard.press('Escape');
  const { left, top } = await canvasLayout(page);
  await page.mouse.click(left + 600, top + 20);
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible({ timeout: 20_000 });
  await expect(position).not.toHaveText(first ?? '');
});

test('one figure falls, and what is held to be heard as played is seen as played', async ({ page }) => {
  await openDemo(page);
  const figure = page.getByTestId('off-the-grid');
  const played = Number(await figure.textContent());
  await page.getByRole('button', { name: 'Add quantize' }).click();
  await settled(page);
  await expect.poll(async () => Number(await figure.textContent())).toBeLessThan(played / 2);
  await expect(stops(page).nth(1)).toContainText(`${played} →`);
  const firstStart = () =>
    page
      .getByTestId('roll')
      .evaluate(
        (canvas) =>
          (
            canvas as unknown as { ordleEditor: { placeOfRow(row: number): { x: number } } }
          ).ordleEditor.placeOfRow(12).x,
      );
  const cleaned = await firstStart();
  await page.getByTestId('roll').focus();
  await page.keyboard.down('b');
  await expect(figure).toHaveText(String(played));
  await expect.poll(firstStart).not.toBe(cleaned);
  await page.keyboard.up('b');
  await expect.poll(firstStart).toBe(cleaned);
  await expect.poll(async () => Number(await figure.textContent())).toBeLessThan(played / 2);
});

test('parts without notes are one line, and each part says how far it is off the grid', async ({ page }) => {
  await page.goto('/');
  const text = (words: string) => [{ tick: 0, meta: true, type: 'text', text: words }];
  await bringIn(page, [
    smallFile('few.mid', {
      one: text('a'),
      two: text('b'),
      bell: [...note(10, 200, 64), ...note(490, 700, 67)],
    }),
  ]);
  await settled(page);
  const parts = page.getByRole('complementary', { name: 'Parts' });
  await expect(parts.getByRole('listitem')).toHaveCount(1);
  // 10 ticks of 480 at 120 quarters a minute are 10.4 ms.
  await expect(parts.getByRole('listitem')).toContainText('10');
  await parts.getByRole('button', { name: '2 without notes' }).click();
  await expect(parts.getByRole('listitem')).toHaveCount(3);
  await page.getByRole('link', { name: 'Readings', exact: true }).click();
  const table = page.getByTestId('readings-table');
  await expect(table.getByText('2 parts without notes')).toBeVisible();
  await expect(table.getByRole('rowheader')).toHaveCount(1);
});
