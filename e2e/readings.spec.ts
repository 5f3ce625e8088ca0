import { expect, test, type Page } from '@playwright/test';
import { parseMidi } from 'midi-file';
import { bringIn, exportFile, saved, settled } from './support/app';
import { undo } from './support/parts';
import { note, smallFile } from './support/smallFiles';

/** Eighths at 120 bpm, each 20 ms late (10 ticks), of which one is struck again 10 ms later, more softly, and one hangs for 24 s. */
const BEAT = 480;
const faulty = () =>
  smallFile('quay.mid', {
    keys: Array.from({ length: 64 }, (_, at) => {
      const start = at * (BEAT / 2) + 10;
      const pitch = 60 + [0, 2, 4, 5, 7, 5, 4, 2][at % 8];
      return note(start, at === 20 ? start + 48 * BEAT : start + 180, at === 20 ? 84 : pitch, 80);
    })
      .concat([note(12 * (BEAT / 2) + 20, 12 * (BEAT / 2) + 120, 60 + 7, 30)])
      .flat(),
  });

async function toReadings(page: Page) {
  await page.getByRole('link', { name: 'Readings', exact: true }).click();
  await expect(page.getByTestId('readings')).toHaveAttribute('data-read', 'true');
}

const rows = (page: Page) =>
  page.getByRole('list', { name: 'Findings in order of time' }).getByRole('listitem');

test('what is wrong is listed with its place, shown, mended and dismissed; the export is without it', async ({
  page,
}) => {
  await page.goto('/');
  await bringIn(page, [faulty()]);
  await settled(page);
  await toReadings(page);
  await expect(rows(page)).toHaveCount(2);
  await expect(rows(page).nth(0)).toContainText('double strike');
  await expect(rows(page).nth(1)).toContainText('stuck note');
  await expect(rows(page).nth(1)).toContainText('3.3.010');
  // 64 notes are 10 ticks late, one 20: 10.58 ms on the average.
  const cells = page.getByTestId('readings-table').getByRole('row').nth(1);
  await expect(cells).toContainText('late 11 ms');
  // One is let be, and listed again.
  await rows(page).nth(0).getByRole('button', { name: 'Dismiss' }).click();
  await expect(rows(page)).toHaveCount(1);
  await expect(undo(page)).toContainText('Dismiss a finding');
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('readings')).toHaveAttribute('data-read', 'true');
  await expect(rows(page)).toHaveCount(1);
  await page.getByRole('button', { name: 'List the dismissed again' }).click();
  await expect(rows(page)).toHaveCount(2);
  // One is mended, taken back, and both are.
  await rows(page).nth(0).getByRole('button', { name: 'Remove' }).click();
  await expect(rows(page)).toHaveCount(1);
  await page.keyboard.press('Control+z');
  await expect(rows(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Mend these 2' }).click();
  await expect(page.getByTestId('findings')).toContainText('Nothing was found');
  await expect(undo(page)).toContainText('Mend 2 findings');
  // The grid that explains the playing is chosen; the notes come to lie on it.
  await page.getByRole('button', { name: 'Quantize to 1/8', exact: true }).click();
  await expect(cells).toContainText('on the line');
  await expect(cells).toContainText('was late');
  await page.getByRole('link', { name: 'Export', exact: true }).click();
  const starts: number[] = [];
  let longest = 0;
  for (const track of parseMidi(await exportFile(page)).tracks) {
    let at = 0;
    const open = new Map<number, number>();
    for (const event of track) {
      at += event.deltaTime;
      if (event.type === 'noteOn' && event.velocity > 0) {
        starts.push(at);
        open.set(event.noteNumber, at);
      } else if (event.type === 'noteOff' || event.type === 'noteOn')
        longest = Math.max(longest, at - (open.get(event.noteNumber) ?? at));
    }
  }
  expect(starts).toHaveLength(64);
  expect(longest).toBeLessThan(BEAT);
  expect(starts.map((start) => start % (BEAT / 2)).every((rest) => rest === 0)).toBe(true);
});

test('a finding is gone to on the Bench with its notes selected', async ({ page }) => {
  await page.goto('/');
  await bringIn(page, [faulty()]);
  await settled(page);
  await toReadings(page);
  await rows(page).nth(1).getByRole('button', { name: 'Show' }).click();
  await settled(page);
  await expect(page.getByTestId('selected')).toContainText('1 note');
});
