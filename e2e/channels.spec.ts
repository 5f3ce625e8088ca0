import { expect, test } from './support/test';
import { bringIn, exportFile, peerNotes, settled } from './support/app';
import { addLane } from './support/lanes';
import { controller, note, smallFile } from './support/smallFiles';

const TWO_HANDS = {
  right: [...note(0, 400, 72), ...note(480, 900, 74), ...note(960, 1400, 72)],
  left: [...note(0, 1800, 48), ...note(960, 1900, 72), controller(60, 64, 127), controller(1850, 64, 0)],
  'stage notes': [{ tick: 10, meta: true, type: 'text', text: 'made up' }],
};

test('a part shows what others send on its channel, and what is no part to play says so', async ({
  page,
}) => {
  await page.goto('/');
  await bringIn(page, [smallFile('two-hands.mid', TWO_HANDS)]);
  await settled(page);
  const parts = page.getByRole('complementary', { name: 'Parts' });
  await expect(parts).toContainText('text only');
  const settings = page.getByRole('complementary', { name: 'Settings' });
  await expect(settings.getByRole('region', { name: 'On the same channel' })).toContainText(
    '1 note sounds while the other holds the same pitch.',
  );
  await addLane(page, 'sustain');
  const pane = page.getByRole('region', { name: /^Lane sustain/ });
  await expect(pane).toContainText('0 presses');
  await pane.getByRole('button', { name: '1 press from left' }).click();
  await settled(page);
  await expect(pane).toContainText('1 press');
  await expect(page.getByTestId('roll')).toHaveAttribute('aria-label', /^left: 2 notes/);
});

test('the check before export shows what it found and puts it right', async ({ page }) => {
  await page.goto('/');
  await bringIn(page, [
    smallFile('overlap.mid', {
      bell: [...note(0, 700, 60), ...note(480, 900, 60), ...note(960, 961, 64)],
      quiet: note(0, 100, 50, 80, 1),
    }),
  ]);
  await settled(page);
  await page.getByRole('listitem').filter({ hasText: 'quiet' }).first().hover();
  await page.getByRole('button', { name: 'Mute quiet' }).click();
  await page.getByRole('link', { name: 'Export' }).click();
  const check = page.getByRole('region', { name: 'Check before export' });
  await expect(check.getByRole('listitem')).toHaveCount(3);
  const written = page.getByRole('region', { name: 'What will be written' });
  await expect(written).toContainText('Notes are as they were played.');
  await expect(written).toContainText('Nothing is added.');

  const overlap = check.getByRole('listitem').filter({ hasText: 'before one of the same pitch has ended' });
  await overlap.getByRole('button', { name: 'Show' }).click();
  await settled(page);
  await expect(page.getByTestId('selected')).toContainText('2 notes');
  await page.getByRole('link', { name: 'Export' }).click();
  // Selected notes are selected still after the visit.
  await overlap.getByRole('button', { name: 'End the earlier note' }).click();
  await expect(overlap).toHaveCount(0);
  await check.getByRole('button', { name: 'Lengthen to a 64th' }).click();
  await check.getByRole('button', { name: 'Leave out' }).click();
  await expect(check).toContainText('No problems found');
  await expect(written).toContainText('Notes are as the steps made them.');
  const bytes = await exportFile(page);
  expect(peerNotes(bytes).map(({ start, pitch }) => [start, pitch])).toEqual([
    [0, 60],
    [480, 60],
    [960, 64],
  ]);
  await page.getByRole('link', { name: 'Bench' }).click();
  await settled(page);
  await expect(page.getByTestId('selected')).toContainText('2 notes');
});
