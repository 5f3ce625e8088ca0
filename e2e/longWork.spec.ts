import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect } from '@playwright/test';
import { bringIn, settled } from './support/app';
import { note, smallFile } from './support/smallFiles';
import { test } from './support/test';

/** A performance that is long enough for many of them to take a while; each its own ticks late. */
const take = (number: number, notes: number) =>
  smallFile(`take ${number}.mid`, {
    bell: Array.from({ length: notes }, (_, at) =>
      note(20 + number + at * 240, 20 + number + at * 240 + 150, 60 + (at % 12)),
    ).flat(),
  });

test('takes of many files are told while they are read, can be stopped, and are one action', async ({
  page,
}) => {
  await page.goto('/');
  await bringIn(page, [take(0, 4000)]);
  await settled(page);
  await page.getByRole('link', { name: 'Takes', exact: true }).click();
  await expect(page.getByTestId('takes-summary')).toHaveText(/^1 take, /);
  const folder = mkdtempSync(path.join(tmpdir(), 'ordle-takes-'));
  // The same few performances under many names: to write others would take longer than to read them.
  const played = [1, 2, 3].map((number) => take(number, 4000).bytes);
  const many = Array.from({ length: 98 }, (_, at) => {
    const file = path.join(folder, `take ${at + 1}.mid`);
    writeFileSync(file, played[at % played.length]);
    return file;
  });
  const picker = page.getByLabel('Files with takes');
  await picker.setInputFiles(many);
  await expect(page.getByRole('progressbar', { name: 'Files read' })).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Nothing was added.')).toBeVisible();
  await expect(page.getByTestId('takes-summary')).toHaveText(/^1 take, /);
  await picker.setInputFiles(many);
  await expect(page.getByTestId('takes-summary')).toHaveText(/^99 takes, /, { timeout: 60000 });
  await page.getByRole('main').focus();
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('takes-summary')).toHaveText(/^1 take, /);
});

test('many files that become sessions can be stopped half-way; those that came stay', async ({ page }) => {
  await page.goto('/');
  const played = take(0, 3000);
  await bringIn(
    page,
    Array.from({ length: 60 }, (_, at) => ({ ...played, name: `take ${at}.mid` })),
  );
  await page.getByRole('button', { name: 'Open each as a session of its own' }).click();
  await expect(page.getByText(/\(([3-9]|\d\d) of 60\)/)).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  const rows = page.getByRole('list', { name: 'Sessions' }).getByRole('listitem');
  await expect(rows.nth(1)).toBeVisible();
  expect(await rows.count()).toBeLessThan(60);
});
