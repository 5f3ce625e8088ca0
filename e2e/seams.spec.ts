import { expect, test } from './support/test';
import { bringIn, exportedNotes, settled } from './support/app';
import { undo } from './support/parts';
import { note, smallFile } from './support/smallFiles';
import { BAR, choose, heads, plain, toTakes } from './support/takes';

test('seams are looked at one by one, and can cut what others let ring', async ({ page }) => {
  await page.goto('/');
  const held = [...note(0, 200, 60, 50), ...note(1440, 2400, 62, 50), ...note(3840, 4000, 60, 50)];
  const other = [...note(0, 200, 70, 90), ...note(1900, 2100, 71, 90), ...note(3840, 4000, 72, 90)];
  await bringIn(page, [smallFile('quay.mid', { bell: held })]);
  await settled(page);
  await toTakes(page);
  const { name, bytes } = smallFile('other.mid', { bell: other });
  await page
    .getByLabel('Files with takes')
    .setInputFiles([{ name, mimeType: 'audio/midi', buffer: Buffer.from(bytes) }]);
  await expect(heads(page)).toHaveCount(2);
  await choose(page, 2, 2);
  await expect(page.getByTestId('takes-summary')).toContainText('2 seams');
  const seam = page.getByRole('region', { name: 'Seam', exact: true });
  await expect(seam).toContainText('2 seams');
  await page.keyboard.press('n');
  await expect(seam).toContainText('Seam before bar 2');
  await expect(seam).toContainText('1 note of bell sounds over it.');
  await expect(seam).toContainText('1 note ahead of bar 2 belongs to other.');
  await seam.getByRole('radio', { name: 'cut' }).click();
  await expect(seam).toContainText('1 note of bell ends early here.');
  await expect(page.getByTestId('assembled')).toContainText('1 cut');
  expect((await exportedNotes(page)).map(plain)).toEqual([
    [0, 60, 50],
    [1440, 62, 50],
    [1900, 71, 90],
    [3840, 60, 50],
  ]);
});

test('a take is split into passes that lie in the bars of the first; taken out, it leaves its bars to another', async ({
  page,
}) => {
  // Four passes of two bars, each a little louder.
  const passes = [0, 1, 2, 3].flatMap((pass) =>
    [0, 1].flatMap((bar) => note((2 * pass + bar) * BAR, (2 * pass + bar) * BAR + 400, 60 + bar, 50 + pass)),
  );
  await page.goto('/');
  await bringIn(page, [smallFile('loop.mid', { loop: passes })]);
  await settled(page);
  await toTakes(page);
  const menu = async (take: string, item: string) => {
    await page.getByRole('button', { name: `More for ${take}`, exact: true }).click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  await menu('loop', 'Split into passes');
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('the part is then one pass long');
  await dialog.getByRole('button', { name: 'Make 4 takes' }).click();
  await expect(page.getByTestId('takes-summary')).toHaveText('4 takes, 2 bars; 0 seams');
  expect((await exportedNotes(page)).map(plain)).toEqual([
    [0, 60, 50],
    [BAR, 61, 50],
  ]);
  await toTakes(page);
  await choose(page, 3, 2);
  await expect(undo(page)).toContainText('Choose loop, pass 3 for bar 2');
  // Heard alone it says so, and Space plays: the menu has let the keys go.
  await menu('loop, pass 2', 'Play this take');
  await expect(page.getByRole('status').filter({ hasText: 'Hearing loop, pass 2 only' })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await page.keyboard.press('Space');
  await menu('loop, pass 3', 'Take out of this part');
  await expect(dialog).toContainText('The part plays it in 1 bar.');
  const other = dialog.getByLabel('Play there instead');
  await other.selectOption(
    (await other.locator('option', { hasText: 'loop, pass 4' }).getAttribute('value')) ?? '',
  );
  await dialog.getByRole('button', { name: 'Take it out' }).click();
  await expect(undo(page)).toContainText('Take loop, pass 3 out, loop, pass 4 instead');
  expect((await exportedNotes(page)).map(plain)).toEqual([
    [0, 60, 50],
    [BAR, 61, 53],
  ]);
});
