import { unzipSync } from 'fflate';
import { expect, type Page } from '@playwright/test';
import { bringIn, bytesOf, peerNotes, peerTrackNames, settled } from './support/app';
import { note, smallFile } from './support/smallFiles';
import { test } from './support/test';

/** Three sessions on the shelf: eighths that are late by so many ticks. */
async function shelfOfThree(page: Page) {
  await page.goto('/');
  const late = { quay: 25, pier: 30, buoy: 35 };
  await bringIn(
    page,
    Object.entries(late).map(([name, ticks]) =>
      smallFile(`${name}.mid`, {
        [name]: Array.from({ length: 24 }, (_, at) =>
          note(at * 240 + ticks + (at % 3), at * 240 + ticks + 150, 60 + (at % 5)),
        ).flat(),
      }),
    ),
  );
  await page.getByRole('button', { name: 'Open each as a session of its own' }).click();
  await expect(page.getByRole('list', { name: 'Sessions' }).getByRole('listitem')).toHaveCount(3);
  await page.getByRole('button', { name: 'Select all' }).click();
  await expect(page.getByText('3 selected')).toBeVisible();
}

async function withSelected(page: Page, item: RegExp) {
  await page.getByRole('button', { name: /^With 3 sessions/ }).click();
  await page.getByRole('menuitem', { name: item }).click();
}

async function exported(page: Page): Promise<Record<string, Uint8Array>> {
  await withSelected(page, /^Export/);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('dialog').getByRole('button', { name: 'Export', exact: true }).click(),
  ]);
  return unzipSync(await bytesOf(download));
}

test('all sessions are cleaned up as one action each, taken back together, and exported as one zip', async ({
  page,
}) => {
  await shelfOfThree(page);
  const before = await exported(page);
  expect(Object.keys(before).sort()).toEqual(['buoy.mid', 'pier.mid', 'quay.mid']);
  expect(peerNotes(before['quay.mid']).filter(({ start }) => start % 240 === 0)).toHaveLength(0);

  await withSelected(page, /^Clean up/);
  await page.getByRole('dialog').getByRole('button', { name: 'Clean up', exact: true }).click();
  await expect(page.getByText('3 sessions were cleaned up, each as one action.')).toBeVisible();
  const after = await exported(page);
  for (const name of Object.keys(before))
    expect(Buffer.from(after[name]).equals(Buffer.from(before[name]))).toBe(false);
  const off = (bytes: Uint8Array) =>
    peerNotes(bytes).reduce((sum, { start }) => sum + Math.min(start % 240, 240 - (start % 240)), 0);
  expect(off(after['quay.mid'])).toBeLessThan(off(before['quay.mid']) / 3);

  // A recipe on top; that is what the message takes back.
  await expect(page.getByText('3 sessions were cleaned up, each as one action.')).toHaveCount(0);
  await withSelected(page, /^Clean up/);
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('radio', { name: 'a recipe' }).click();
  await expect(dialog.getByText(/^On every part:/)).toBeVisible();
  await dialog.getByRole('button', { name: 'Clean up', exact: true }).click();
  await expect(page.getByText('3 sessions were cleaned up, each as one action.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(async () => {
    const back = await exported(page);
    for (const name of Object.keys(after))
      expect(Buffer.from(back[name]).equals(Buffer.from(after[name]))).toBe(true);
  }).toPass();
  await page.getByRole('link', { name: 'quay', exact: true }).click();
  await settled(page);
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('Clean up 1 part');
});

test('selected sessions are merged as parts or as takes of a new one, and stay themselves', async ({
  page,
}) => {
  await shelfOfThree(page);
  await withSelected(page, /^Merge as parts/);
  await expect(page.getByRole('heading', { level: 1, name: /^Parts: / })).toBeAttached();
  await page.getByRole('link', { name: 'Export', exact: true }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export', exact: true }).click(),
  ]);
  const bytes = await bytesOf(download);
  expect(peerTrackNames(bytes).filter(Boolean).sort()).toEqual(['buoy', 'pier', 'quay']);
  expect(peerNotes(bytes)).toHaveLength(72);
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  const rows = page.getByRole('list', { name: 'Sessions' }).getByRole('listitem');
  await expect(rows).toHaveCount(4);
  for (const name of ['quay', 'pier', 'buoy'])
    await page.getByLabel(`Select ${name}`, { exact: true }).check();
  await withSelected(page, /^Merge as takes/);
  await expect(page.getByRole('heading', { level: 1, name: /^Takes: / })).toBeAttached();
  await expect(
    page.getByRole('list', { name: 'Takes' }).getByRole('button', { name: /^Take \d|^quay|^pier|^buoy/ }),
  ).toHaveCount(3);
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await expect(rows).toHaveCount(5);
});
