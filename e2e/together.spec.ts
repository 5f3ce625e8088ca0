import { expect, test, type Page } from './support/test';
import {
  boxOf,
  addStep,
  dragThumb,
  openDemo,
  openDemoFile,
  saved,
  settled,
  stops,
  strength,
  typeValue,
} from './support/app';

const undo = (page: Page) => page.getByRole('button', { name: /^Undo/ });
const part = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^${name}`) }).first();

test('several parts are set together: each starts from its own grid, mixed settings say so, one change writes all', async ({
  page,
}) => {
  await openDemo(page);
  await part(page, 'Upright bass').click({ modifiers: ['Control'] });
  await part(page, 'Reed organ').click({ modifiers: ['Shift'] });
  await expect(page.getByText('3 parts together')).toBeVisible();
  await addStep(page, 'Quantize');
  await expect(undo(page)).toContainText('Add quantize to 3 parts');
  // The marimba plays sixteenths, the bass eighths: what differs says so, what is common shows.
  await expect(page.getByLabel('Grid, all values')).toHaveValue('');
  await expect(page.getByLabel('Grid, all values')).toContainText('mixed');
  await expect(page.getByLabel('Strength, typed')).toHaveValue('80');
  await dragThumb(page, 'Strength', -40);
  await expect(undo(page)).toContainText(/Strength \d+ %, 3 parts/);
  await part(page, 'Upright bass').click();
  await settled(page);
  await expect(page.getByText('Parts, 6')).toBeVisible();
  await expect(stops(page).nth(1)).toContainText('1/8');
  const alone = await page.getByLabel('Strength, typed').inputValue();
  expect(Number(alone)).toBeLessThan(75);
  await typeValue(page, 'Strength, typed', '33');
  await part(page, 'Marimba').click();
  await page.locator('[data-stop]').nth(1).click();
  await page.keyboard.press('Shift+P');
  await settled(page);
  // Three of the six parts have such a step; the others are left as they are.
  await expect(page.getByText('3 of 6 parts together')).toBeVisible();
  await expect(strength(page)).toHaveAttribute('aria-valuetext', 'mixed');
  await typeValue(page, 'Strength, typed', '50');
  await page.getByLabel('Grid, all values').selectOption('1/16');
  await expect(page.getByLabel('Grid, all values')).toHaveValue('1/16');
  await page.getByRole('checkbox', { name: 'on', exact: true }).click();
  await expect(undo(page)).toContainText('Switch quantize off, 3 parts');
  await page.keyboard.press('Control+z');
  await page.getByRole('button', { name: 'Delete step' }).click();
  await expect(undo(page)).toContainText('Remove quantize from 3 parts');
  await page.keyboard.press('Control+z');
  await part(page, 'Upright bass').click();
  await settled(page);
  await expect(stops(page).nth(1)).toContainText('1/16, 50 %');
});

test('some of the list is saved as a recipe, gets a key, and the key applies it', async ({ page }) => {
  await openDemo(page);
  await addStep(page, 'Quantize');
  await addStep(page, 'Humanize');
  await page.keyboard.press('r');
  const dialog = page.getByRole('dialog', { name: 'Recipes' });
  await dialog.getByRole('checkbox', { name: /^Humanize/ }).click();
  await dialog.getByLabel('Name of the recipe').fill('harbour grid');
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  // A key that is taken is told, and can be left.
  await dialog.getByRole('button', { name: 'Shortcut for Apply harbour grid' }).click();
  await page.keyboard.press('q');
  await expect(dialog.getByRole('alert')).toContainText('Q already does “Add quantize”');
  await dialog.getByRole('button', { name: 'Leave it' }).click();
  await dialog.getByRole('button', { name: 'Shortcut for Apply harbour grid' }).click();
  await page.keyboard.press('Alt+7');
  await expect(dialog.getByRole('button', { name: 'Shortcut for Apply harbour grid' })).toHaveText('Alt+7');
  await page.keyboard.press('Escape');
  await part(page, 'Tin whistle').click();
  await part(page, 'Reed organ').click({ modifiers: ['Control'] });
  await settled(page);
  await page.keyboard.press('Alt+7');
  await expect(undo(page)).toContainText('Apply harbour grid to 2 parts');
  await expect(stops(page)).toHaveCount(3);
  await expect(stops(page).nth(1)).toContainText('Quantize');
  // It is found by name, and stays over a reload.
  await saved(page);
  await page.reload();
  await settled(page);
  // What was looked at is stored a moment after what was done, and may not have been yet.
  await part(page, 'Tin whistle').click();
  await settled(page);
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('Find an action').last().fill('harbour');
  await page.getByRole('option', { name: /Apply harbour grid/ }).click();
  await expect(stops(page)).toHaveCount(4);
});

test('points of a groove are dragged and walked by key, a second groove warns, and taken points that are weak are marked', async ({
  page,
}) => {
  await openDemo(page);
  await addStep(page, 'Groove');
  await page.getByRole('radio', { name: 'sixteenth swing', exact: true }).click();
  const point = page.getByRole('slider', { name: 'beat 1.25', exact: true });
  await expect(point).toHaveAttribute('aria-valuetext', 'shifted +16 % of a step, accent 55 %');
  const box = await boxOf(point.locator('circle'));
  await page.mouse.move(box.x + 3, box.y + 3);
  await page.mouse.down();
  await page.mouse.move(box.x + 3, box.y - 12, { steps: 4 });
  await page.mouse.up();
  await expect(point).not.toHaveAttribute('aria-valuetext', /accent 55 %/);
  await expect(page.getByLabel('Name of the groove')).toHaveValue('sixteenth swing, edited');
  const shift = Number(await point.getAttribute('aria-valuenow'));
  await point.focus();
  await page.keyboard.press('ArrowRight');
  // A hundredth of a quarter is 4 % of a sixteenth.
  await expect(point).toHaveAttribute('aria-valuenow', String(shift + 4));
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(stops(page).nth(1)).toContainText('sixteenth swing, 100 %');

  await addStep(page, 'Groove');
  await page.getByRole('radio', { name: 'sixteenth swing', exact: true }).click();
  await page.getByRole('slider', { name: 'Straighten first' }).focus();
  await page.keyboard.press('Home');
  await expect(page.getByRole('status').filter({ hasText: 'was applied before' })).toContainText(
    '32 % of a grid unit',
  );
  await page.getByRole('button', { name: 'Straighten first' }).click();
  await expect(page.getByLabel('Straighten first, typed')).toHaveValue('100');
  await expect(page.getByText('was applied before')).toHaveCount(0);

  await page.getByLabel('Grid of the groove').selectOption('1/32');
  await page.getByRole('button', { name: 'Take', exact: true }).click();
  await expect(page.getByText(/Dashed points rest on fewer than two strokes/)).toBeVisible();
  await expect(page.getByRole('slider', { name: /unreliable/ }).first()).toBeVisible();
});

test('velocities and lengths show their spread before and after, live while a slider is dragged', async ({
  page,
}) => {
  await openDemoFile(page, 'ferry-upright-bass.mid');
  await addStep(page, 'Velocity');
  await expect(page.getByRole('img', { name: /^Velocities before and after/ })).toBeVisible();
  await page.getByRole('checkbox', { name: 'add' }).click();
  const typical = page.getByTestId('typical-value');
  const was = await typical.textContent();
  await dragThumb(page, 'add', 60, async () => {
    await expect.poll(() => typical.textContent()).not.toBe(was);
  });
  await expect(page.getByTestId('notes-changed')).toContainText('96 of 96');
  await addStep(page, 'Length');
  await page.getByRole('checkbox', { name: 'scale' }).click();
  await typeValue(page, 'scale, typed', '50');
  await expect(page.getByRole('img', { name: /^Lengths before and after/ })).toBeVisible();
  await expect(page.getByTestId('notes-changed')).toContainText('96 of 96');
});
