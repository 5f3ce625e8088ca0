import type { Locator } from '@playwright/test';
import { expect, test, type Page } from './support/test';
import { addStep, boxOf, openDemo, settled, stops } from './support/app';
import { undo } from './support/parts';

const item = (page: Page, name: string) => page.getByRole('menuitem', { name });

/** Asks for the menu at a place, sees that something can be done there, and leaves it again. */
async function menuHas(page: Page, at: Locator, item: string, place?: { x: number; y: number }) {
  await at.click({ button: 'right', position: place });
  await expect(page.getByRole('menuitem', { name: item }).first()).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('menu')).toHaveCount(0);
}

test('what is pointed at has a menu of what can be done with it, by the right button and by key', async ({
  page,
}) => {
  await openDemo(page);
  const session = page.url();
  const roll = page.getByTestId('roll');
  const box = await boxOf(roll);
  const firstNote = await roll.evaluate((canvas) =>
    (
      canvas as unknown as { ordleEditor: { placeOfRow(row: number): { x: number; y: number } } }
    ).ordleEditor.placeOfRow(3),
  );
  // A note is selected by asking about it; what is done is done to it, and the menu names the keys.
  await page.mouse.click(box.x + firstNote.x + 2, box.y + firstNote.y + 2, { button: 'right' });
  await expect(item(page, 'Louder by 5')).toContainText('Ctrl+↑');
  await item(page, 'Louder by 5').click();
  await expect(undo(page)).toContainText('Louder');
  // By key, of what is selected.
  await roll.focus();
  await page.keyboard.press('ContextMenu');
  await expect(item(page, 'Softer by 5')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await addStep(page, 'Quantize');
  await menuHas(page, stops(page).nth(1), 'Delete step');
  await menuHas(page, page.getByRole('button', { name: 'Brush kit' }).first(), 'Delete part');
  // The others, each in its place.
  await page.goto(`${session}/readings`);
  await menuHas(
    page,
    page.getByRole('list', { name: 'Findings in order of time' }).locator('li').first(),
    'Dismiss',
  );
  await page.goto(`${session}/takes`);
  await expect(page.getByTestId('takes-summary')).toContainText('seam');
  await menuHas(page, page.getByTestId('takes'), 'Suggest a take for each bar', { x: 200, y: 200 });
  await page.goto(`${session}/tempo`);
  await expect(page.getByTestId('bpm')).toBeVisible();
  await menuHas(page, page.getByTestId('tempo'), 'Fix the beats shown', { x: 300, y: 200 });
  await page.goto('/');
  await menuHas(
    page,
    page
      .getByRole('listitem')
      .filter({ has: page.getByRole('checkbox') })
      .first(),
    'Suggested clean-up',
  );
  await page.goto(session);
  await settled(page);
});
