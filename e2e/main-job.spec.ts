import { expect, test } from './support/test';
import {
  boxOf,
  dragThumb,
  exportFile,
  openDemo,
  peerNotes,
  peerTrackNames,
  saved,
  settled,
  stops,
  strength,
} from './support/app';

test('opens the demo, quantizes, drags strength, compares, exports, and an independent reader finds the notes on the grid', async ({
  page,
}) => {
  await openDemo(page);
  await expect(page.getByLabel('Name of the session')).toHaveValue('Ferry crossing');
  await expect(stops(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Add a step' }).click();
  await page.getByRole('menuitem', { name: /Quantize/ }).click();
  await settled(page);
  await expect(stops(page)).toHaveCount(3);
  const before = await page.getByTestId('off-the-grid').textContent();

  // While the slider moves, the reading moves with it.
  const seen: (string | null)[] = [];
  await dragThumb(page, 'Strength', -120, async () => {
    await settled(page);
    seen.push(await page.getByTestId('off-the-grid').textContent());
  });
  expect(seen[0]).not.toBe(before);
  await dragThumb(page, 'Strength', 400);
  await expect(strength(page)).toHaveAttribute('aria-valuenow', '100');
  await settled(page);
  await expect(page.getByTestId('notes-moved')).toHaveText(/\d+ of 325/);

  // Hear it as played while B is held.
  await page.getByTestId('roll').focus();
  await page.keyboard.down('b');
  await expect(page.getByRole('button', { name: 'hold B' })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.up('b');
  await expect(page.getByRole('button', { name: 'hold B' })).toHaveAttribute('aria-pressed', 'false');

  // Chords note by note: then every note must be on a sixteenth.
  await page.getByRole('radio', { name: 'note by note' }).click();
  await page.getByRole('checkbox', { name: 'keep grace notes' }).click();
  await settled(page);
  await page.getByRole('link', { name: 'Export' }).click();
  const cleaned = await exportFile(page);
  expect(peerTrackNames(cleaned)).toEqual([
    '',
    'Marimba',
    'Upright bass',
    'Brush kit',
    'Reed organ',
    'Tin whistle',
    'Fog signal',
  ]);
  const marimba = peerNotes(cleaned).filter(({ track }) => track === 1);
  expect(marimba).toHaveLength(325);
  expect(marimba.filter(({ start }) => start % 120 !== 0)).toEqual([]);
  // The other parts have no step: as played and cleaned are the same there.
  await page.getByRole('radio', { name: 'as played' }).click();
  const played = await exportFile(page);
  expect(peerNotes(played).filter(({ track }) => track > 1)).toEqual(
    peerNotes(cleaned).filter(({ track }) => track > 1),
  );
  expect(
    peerNotes(played).filter(({ track, start }) => track === 1 && start % 120 !== 0).length,
  ).toBeGreaterThan(200);
});

test('walks, switches, reorders and removes steps on the line, by keyboard and by drag, all undoable by name', async ({
  page,
}) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Add quantize' }).click();
  await page.getByRole('radio', { name: 'bars' }).click();
  await page.getByLabel('First bar').fill('3');
  await page.keyboard.press('Enter');
  await page.getByLabel('Last bar').fill('6');
  await page.keyboard.press('Enter');
  await expect(stops(page).nth(1)).toContainText('bars 3 to 6');
  await page.getByRole('button', { name: 'Add a step' }).click();
  await page.getByRole('menuitem', { name: /Quantize/ }).click();
  await page.getByRole('radio', { name: '1/8', exact: true }).click();
  await expect(stops(page)).toHaveCount(4);
  await expect(stops(page).nth(2)).toContainText('1/8');

  await stops(page).nth(2).focus();
  await page.keyboard.press('Alt+ArrowLeft');
  await expect(stops(page).nth(1)).toContainText('1/8');
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('Move quantize earlier');
  const from = await boxOf(stops(page).nth(1));
  const to = await boxOf(stops(page).nth(2));
  await page.mouse.move(from.x + from.width / 2, from.y + 60);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2 + 20, to.y + 60, { steps: 12 });
  await page.mouse.up();
  await expect(stops(page).nth(2)).toContainText('1/8,');

  await stops(page).nth(2).click();
  await page.keyboard.press('o');
  await expect(stops(page).nth(2)).toContainText('off');
  await page.keyboard.press('ArrowLeft');
  await expect(stops(page).nth(1)).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Delete');
  await expect(stops(page)).toHaveCount(3);
  await page.keyboard.press('Control+z');
  await expect(stops(page)).toHaveCount(4);
  await page.keyboard.press('Control+z');
  await expect(stops(page).nth(2)).not.toContainText('off');
  await page.keyboard.press('Control+Shift+z');
  await expect(stops(page).nth(2)).toContainText('off');
});

test('a drag given up leaves no trace; all is kept over a reload: steps, history, view; and undo still works', async ({
  page,
}) => {
  await openDemo(page);
  await page
    .getByRole('button', { name: /Upright bass/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Add quantize' }).click();
  await dragThumb(page, 'Strength', -100, async () => {
    await expect(strength(page)).not.toHaveAttribute('aria-valuenow', '80');
    await page.keyboard.press('Escape');
  });
  await expect(strength(page)).toHaveAttribute('aria-valuenow', '80');
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('Add quantize');
  await expect(page.getByRole('button', { name: /^Redo/ })).toBeDisabled();
  await page.getByLabel('Strength, typed').fill('42');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.reload();
  await settled(page);
  await expect(stops(page).nth(1)).toContainText('42 %');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(stops(page).nth(1)).toContainText('80 %');
  await page.getByRole('button', { name: /^Redo/ }).click();
  await expect(stops(page).nth(1)).toContainText('42 %');
});
