import { AxeBuilder } from '@axe-core/playwright';
import { expect, test, type Page } from './support/test';
import { boxOf, bringIn, madeFile, openDemo, settled } from './support/app';
import { addLane } from './support/lanes';

/** A colour at a place of the editor's canvas, CSS pixels from its corner. */
async function pixel(page: Page, x: number, y: number): Promise<number[]> {
  return page.getByTestId('roll').evaluate(
    (canvas, [px, py]) => {
      const ratio = window.devicePixelRatio;
      const context = (canvas as HTMLCanvasElement).getContext('2d');
      return Array.from(context?.getImageData(px * ratio, py * ratio, 1, 1).data ?? []);
    },
    [x, y],
  );
}

const position = (page: Page) => page.getByTestId('position');

test('plays: the position runs, the loop holds it, a change is heard while it plays, Space stops', async ({
  page,
}) => {
  await openDemo(page);
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible({ timeout: 20000 });
  await expect(position(page)).not.toHaveText('1.1.000');
  await page.getByRole('button', { name: 'Add quantize' }).click();
  const box = await boxOf(page.getByTestId('roll'));
  // A loop over the second bar, dragged on the ruler.
  const x = (bar: number) => box.x + 46 + 10 + ((bar - 1) * (box.width - 66)) / 4;
  await page.mouse.move(x(2) + 5, box.y + 56);
  await page.mouse.down();
  await page.mouse.move(x(3) - 10, box.y + 56, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByRole('checkbox', { name: 'Loop bar 2' })).toBeChecked();
  await page.mouse.click(x(2) + 20, box.y + 56);
  for (let check = 0; check < 6; check++) {
    await page.waitForTimeout(500);
    await expect(position(page)).toHaveText(/^2\./);
  }
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});

test('the canvas shows notes where they are, and zoom and fit move them', async ({ page }) => {
  await page.goto('/');
  await bringIn(page, [madeFile('two-notes.mid')]);
  await settled(page);
  const box = await boxOf(page.getByTestId('roll'));
  const column = (x: number) =>
    page.getByTestId('roll').evaluate((canvas, at) => {
      const ratio = window.devicePixelRatio;
      const { data } = (canvas as HTMLCanvasElement)
        .getContext('2d')
        ?.getImageData(at * ratio, 70, 1, canvas.clientHeight - 80) ?? { data: [] };
      let blue = 0;
      for (let index = 0; index < data.length; index += 4) if (data[index + 2] > data[index] + 40) blue++;
      return blue;
    }, x);
  await expect.poll(() => column(120)).toBeGreaterThan(4);
  await page.mouse.move(box.x + 56, box.y + 300);
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, 900);
  await page.keyboard.up('Control');
  await expect.poll(() => column(500)).toBe(0);
  await page.getByTestId('roll').focus();
  await page.keyboard.press('f');
  await expect.poll(() => column(120)).toBeGreaterThan(4);
  expect(await pixel(page, 2, 2)).toHaveLength(4);
});

test('opens 100,000 notes and a file without notes, and stays usable', async ({ page }) => {
  await page.goto('/');
  await bringIn(page, [madeFile('large.mid')]);
  await settled(page);
  await expect(page.getByTestId('roll')).toHaveAttribute('aria-label', /100000 notes/, { timeout: 30000 });
  await page.getByTestId('roll').focus();
  await page.keyboard.press('f');
  await page.getByRole('button', { name: 'Add quantize' }).click();
  await expect(page.getByTestId('notes-moved')).toHaveText(/of 100,000/, { timeout: 20000 });
  await bringIn(page, [madeFile('silent.mid')]);
  await page.getByRole('button', { name: 'Open as a session of its own' }).click();
  await expect(page.getByText('Nothing in here sounds')).toBeVisible();
  await page.getByRole('link', { name: 'Bench' }).click();
  await expect(page.getByText('This part has no notes.')).toBeVisible();
  await page.getByRole('button', { name: 'Add quantize' }).click();
  await expect(page.getByTestId('notes-moved')).toHaveText('0 of 0');
});

test('has no serious fault of accessibility on any place, light or dark', async ({ page }) => {
  const check = async (place: string, within = 'body', isAgain = false) => {
    // There are no frames in the page, and without looking for some it takes half the time.
    const axe = new AxeBuilder({ page })
      .setLegacyMode(true)
      .include(within)
      .options({
        resultTypes: ['violations'],
        // A place that was looked at in light has only its colours to be looked at again in the dark.
        ...(isAgain && { runOnly: ['color-contrast'] }),
      });
    const { violations } = await axe.analyze();
    const serious = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
    expect(
      serious.map(
        ({ id, nodes }) =>
          `${place}: ${id} at ${nodes
            .map(({ target }) => target.join(' '))
            .slice(0, 3)
            .join('; ')}`,
      ),
    ).toEqual([]);
  };
  test.slow();
  await page.goto('/');
  await expect(page.getByText('Nothing here yet')).toBeVisible();
  await check('empty shelf');
  await openDemo(page);
  await page.getByRole('button', { name: 'Add quantize' }).click();
  await settled(page);
  await check('bench');
  await page.getByRole('link', { name: 'Record', exact: true }).click();
  await expect(page.getByTestId('plan')).toBeVisible();
  await check('record');
  await page.getByRole('link', { name: 'Takes', exact: true }).click();
  await expect(page.getByTestId('takes-summary')).toContainText('seams');
  await page.getByRole('button', { name: 'Suggest takes' }).click();
  await check('takes');
  await page.getByRole('link', { name: 'Tempo', exact: true }).click();
  await expect(page.getByTestId('tempo')).toHaveAttribute('data-read', 'true');
  await check('tempo');
  await page.getByRole('link', { name: 'Readings', exact: true }).click();
  await expect(page.getByTestId('readings')).toHaveAttribute('data-read', 'true');
  await check('readings');
  await page.getByRole('link', { name: 'Parts', exact: true }).click();
  await expect(page.getByTestId('parts')).toHaveAttribute('data-read', 'true');
  await page.getByTestId('parts').focus();
  await page.keyboard.press('Control+a');
  await check('parts');
  await page.getByRole('button', { name: 'Separate' }).click();
  await check('separating', '[role=dialog]');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await settled(page);
  await page.keyboard.press('k');
  await page.getByTestId('roll').focus();
  await page.keyboard.press('.');
  await settled(page);
  await check('bench with note list');
  await page.keyboard.press('?');
  await check('shortcuts', '[role=dialog]');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+f');
  await check('question', '[role=dialog]');
  await page.keyboard.press('Escape');
  await page.keyboard.press('k');
  await page.getByRole('button', { name: 'Change to the dark theme' }).click();
  await addLane(page, 'expression');
  await check('dark bench with a lane', 'body', true);
  await page.getByRole('link', { name: 'Takes', exact: true }).click();
  await expect(page.getByTestId('takes-summary')).toContainText('seams');
  await check('dark takes', 'body', true);
  await page.getByRole('link', { name: 'Parts', exact: true }).click();
  await expect(page.getByTestId('parts')).toHaveAttribute('data-read', 'true');
  await check('dark parts', 'body', true);
  await page.getByRole('link', { name: 'Export' }).click();
  await expect(page.getByRole('heading', { name: 'Export', exact: true })).toBeVisible();
  await check('dark export');
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Tide table' })).toBeVisible();
  await check('dark shelf');
});
