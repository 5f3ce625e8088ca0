import { readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, separate, test, type Page } from './support/test';
import { bringIn, exportFile, openDemo, peerNotes, saved, settled, stops } from './support/app';

const DEMO = path.resolve(import.meta.dirname, '../app/public/demo');
const demoFile = (name: string) => ({ name, bytes: new Uint8Array(readFileSync(path.join(DEMO, name))) });
const sessions = (page: Page) => page.getByRole('list', { name: 'Sessions' }).getByRole('listitem');

test('an empty shelf says what to do; sessions can be renamed, duplicated, deleted and brought back', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page.getByText('Nothing here yet')).toBeVisible();
  await openDemo(page);
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await expect(sessions(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'More for Tide table' }).click();
  await page.getByRole('menuitem', { name: 'Rename' }).click();
  await page.getByLabel('New name').fill('Tide clock');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Tide clock' })).toBeVisible();
  await page.getByRole('button', { name: 'More for Tide clock' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  await expect(sessions(page)).toHaveCount(3);
  await page.getByRole('button', { name: 'More for Tide clock', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(sessions(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(sessions(page)).toHaveCount(3);
  await page.getByRole('link', { name: 'Tide clock', exact: true }).click();
  await settled(page);
});

test('sessions are found by their names, put in order, and several are deleted and brought back together', async ({
  page,
}) => {
  await openDemo(page);
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await page.getByRole('button', { name: 'More for Tide table' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  await expect(sessions(page)).toHaveCount(3);
  // Each row shows how late and early its session is.
  await expect(sessions(page).getByRole('img', { name: /^late up to [\d.]+ ms, early up to/ })).toHaveCount(
    3,
  );
  await page.getByLabel('Order').selectOption('by name');
  await expect(sessions(page).first()).toContainText('Ferry crossing');
  await page.getByLabel('Search the sessions').fill('tide');
  await expect(sessions(page)).toHaveCount(2);
  const ticks = page.getByRole('checkbox', { name: /^Select Tide/ });
  await ticks.first().click();
  await ticks.nth(1).click({ modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'Delete 2 sessions' }).click();
  await expect(page.getByText('No match among the sessions.')).toBeVisible();
  await page.getByLabel('Search the sessions').fill('');
  await expect(sessions(page)).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(sessions(page)).toHaveCount(3);
});

test('several files become sessions; in an open session the person chooses, and joining keeps its time', async ({
  page,
}) => {
  await page.goto('/');
  await bringIn(page, [demoFile('tide-cello.mid'), demoFile('tide-hands.mid')]);
  await page.getByRole('button', { name: 'Open each as a session of its own' }).click();
  await expect(sessions(page)).toHaveCount(2);
  await page.getByRole('link', { name: 'tide-cello' }).click();
  await settled(page);
  await bringIn(page, [demoFile('ferry-upright-bass.mid'), demoFile('ferry-reed-organ.mid')]);
  await page.getByRole('button', { name: 'Add as parts to the open session' }).click();
  // What is of another tempo is told; however many files, it was one action.
  const report = page.getByRole('dialog', { name: 'Import report' });
  await expect(report).toContainText(/another tempo, 104 bpm instead of .*laid by its beats/);
  await report.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('complementary', { name: 'Parts' }).getByRole('listitem')).toHaveCount(3);
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('Add 2 files');
  await page.getByRole('link', { name: 'Export' }).click();
  const bytes = await exportFile(page);
  expect(
    peerNotes(bytes)
      .filter(({ track }) => track === 2)
      .map(({ start }) => start),
  ).toEqual(peerNotes(demoFile('ferry-upright-bass.mid').bytes).map(({ start }) => start));
});

test('dropping files anywhere brings them in', async ({ page }) => {
  await page.goto('/');
  const data = await page.evaluateHandle(
    (bytes) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([Uint8Array.from(bytes)], 'dropped.mid', { type: 'audio/midi' }));
      return transfer;
    },
    [...demoFile('tide-hands.mid').bytes],
  );
  await page.dispatchEvent('body', 'dragenter', { dataTransfer: data });
  await expect(page.getByText('Drop Standard MIDI Files to import')).toBeVisible();
  await page.dispatchEvent('body', 'drop', { dataTransfer: data });
  await settled(page);
  await expect(page.getByLabel('Name of the session')).toHaveValue('dropped');
});

test('bad files are refused with a sentence, damaged ones opened with their repairs, and the shelf keeps its own', async ({
  page,
}) => {
  await page.goto('/');
  const sound = demoFile('tide-hands.mid').bytes;
  await bringIn(page, [
    { name: 'empty.mid', bytes: new Uint8Array(0) },
    { name: 'letter.mid', bytes: Buffer.from('Dear harbour museum,') },
    { name: 'cut.mid', bytes: sound.slice(0, sound.length - 40) },
  ]);
  const report = page.getByRole('dialog');
  await expect(report).toContainText('The file is empty (0 bytes).');
  await expect(report).toContainText('not a Standard MIDI File');
  await expect(report).toContainText(/cut\.mid.*Opened with \d+ repairs/s);
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(sessions(page)).toHaveCount(1);
});

separate('a second tab looks on and takes over when the first lets go', async ({ page, context }) => {
  await openDemo(page);
  await saved(page);
  const second = await context.newPage();
  await second.goto(page.url());
  await settled(second);
  await expect(second.getByText('open in another tab')).toBeVisible();
  await expect(second.getByRole('button', { name: 'Add quantize' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Add quantize' }).click();
  // Once the step is shown, so is that it waits to be saved: "saved" is said of the step and not of what was before.
  await expect(stops(page)).toHaveCount(3);
  await saved(page);
  await page.close();
  await expect(second.getByText('open in another tab')).toHaveCount(0);
  await expect(stops(second)).toHaveCount(3);
  await stops(second).nth(1).click();
  await second.getByRole('button', { name: 'Delete step' }).click();
  await expect(stops(second)).toHaveCount(2);
});

separate('where the browser refuses storage, one can work on and is told so', async ({ page }) => {
  await page.addInitScript(() => {
    IDBFactory.prototype.open = () => {
      throw new DOMException('refused', 'SecurityError');
    };
  });
  await page.goto('/');
  await expect(page.getByRole('alert')).toContainText('refuses storage');
  await bringIn(page, [demoFile('tide-hands.mid')]);
  await settled(page);
  await page.getByRole('button', { name: 'Add quantize' }).click();
  await expect(page.getByRole('alert')).toContainText('kept only until this tab is closed');
  await page.getByRole('link', { name: 'Export' }).click();
  expect(peerNotes(await exportFile(page))).toHaveLength(104);
});

test('an unknown session and an unknown place say so', async ({ page }) => {
  await page.goto('/s/nothing-here');
  await expect(page.getByRole('alert')).toContainText('no such session');
  await page.goto('/nowhere/at/all');
  await expect(page.getByRole('alert')).toContainText('Page not found');
});
