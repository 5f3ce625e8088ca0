import { expect, type Page } from '@playwright/test';
import { addStep, bringIn, bytesOf, saved, settled } from './support/app';
import { note, smallFile } from './support/smallFiles';
import { test } from './support/test';

const toShelf = (page: Page) => page.getByRole('link', { name: 'Shelf', exact: true }).click();

/** Sessions and actions as they lie in the browser, without when they were stored. */
const stored = (page: Page) =>
  page.evaluate(async () => {
    const database = await new Promise<IDBDatabase>((resolve, reject) => {
      const opening = indexedDB.open('ordle');
      opening.onsuccess = () => resolve(opening.result);
      opening.onerror = () => reject(new Error('The database cannot be opened.'));
    });
    const all = (name: string) =>
      new Promise<Record<string, unknown>[]>((resolve) => {
        const asking = database.transaction(name).objectStore(name).getAll();
        asking.onsuccess = () => resolve(asking.result as Record<string, unknown>[]);
      });
    const sessions = (await all('sessions')).map((each): Record<string, unknown> => ({
      ...each,
      changedAt: 0,
    }));
    return { sessions, entries: await all('entries'), takes: (await all('takes')).map(({ key }) => key) };
  });

async function fill(page: Page, name: string, start: number) {
  await page.goto('/');
  await bringIn(page, [smallFile(`${name}.mid`, { bell: note(start, start + 300, 60) })]);
  await settled(page);
}
async function choose(page: Page, name: string, bytes: Uint8Array) {
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Restore a back-up' }).click(),
  ]);
  await chooser.setFiles({ name, mimeType: 'application/json', buffer: Buffer.from(bytes) });
}
async function restore(page: Page, bytes: Uint8Array, how: string) {
  await choose(page, 'Ordle back-up.ordle-backup', bytes);
  await page.getByRole('button', { name: how }).click();
}

test('everything goes into one file, and comes back beside what is there or in its place, the same', async ({
  page,
  browser,
}) => {
  await fill(page, 'quay', 20);
  await addStep(page, 'Quantize');
  await settled(page);
  // What the page is left with before it is stored is not in the browser.
  await saved(page);
  await fill(page, 'pier', 30);
  await toShelf(page);
  await expect(page.getByRole('link', { name: 'quay', exact: true })).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Back up everything' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('Ordle back-up.ordle-backup');
  const bytes = await bytesOf(download);
  const before = await stored(page);
  expect(before.sessions).toHaveLength(2);

  const context = await browser.newContext();
  try {
    const other = await context.newPage();
    await fill(other, 'harbour', 40);
    await toShelf(other);
    await restore(other, bytes, 'Beside what is here');
    await expect(other.getByText('2 sessions were restored.')).toBeVisible();
    for (const name of ['harbour', 'quay', 'pier'])
      await expect(other.getByRole('link', { name, exact: true })).toHaveCount(1);
    const ids = before.sessions.map(({ id }) => id);
    const beside = await stored(other);
    expect(beside.sessions.filter(({ id }) => ids.includes(id))).toEqual(before.sessions);
    expect(beside.entries.filter(({ session }) => ids.includes(session))).toEqual(before.entries);
    // What was done is undone there, as where it was done.
    await other.getByRole('link', { name: 'quay', exact: true }).click();
    await settled(other);
    await expect(other.getByRole('button', { name: /^Undo/ })).toContainText('quantize');
    await toShelf(other);
    // Once more it comes as copies.
    await restore(other, bytes, 'Beside what is here');
    await expect(other.getByRole('link', { name: 'quay', exact: true })).toHaveCount(2);
    await restore(other, bytes, 'In place of what is here');
    await expect(other.getByRole('link', { name: 'harbour', exact: true })).toHaveCount(0);
    await expect(other.getByRole('link', { name: 'quay', exact: true })).toHaveCount(1);
    expect((await stored(other)).sessions).toEqual(before.sessions);
    // What was there is brought back beside it, not over it.
    await other.locator('summary').click();
    const gone = other.getByRole('list', { name: 'Deleted sessions' }).getByRole('listitem');
    await gone.filter({ hasText: 'quay' }).first().getByRole('button', { name: 'Bring back' }).click();
    await expect(other.getByRole('link', { name: 'quay', exact: true })).toHaveCount(2);
    expect((await stored(other)).sessions).toEqual(expect.arrayContaining(before.sessions));
    // Cut short it gives what is whole, and says what is not.
    await choose(other, 'half.ordle-backup', bytes.slice(0, bytes.length - 200));
    const dialog = other.getByRole('dialog', { name: 'Restore a back-up' });
    await expect(dialog).toContainText('half.ordle-backup holds 1 session.');
    await expect(dialog.getByRole('alert')).toContainText('is damaged, or it was cut short');
    await dialog.getByRole('button', { name: 'Cancel' }).click();
    await bringIn(other, [{ name: 'whole.mid', bytes }]);
    await expect(other.getByText('This is a back-up of a whole shelf.')).toBeVisible();
  } finally {
    await context.close();
  }
});
