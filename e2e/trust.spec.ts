import { expect, separate, test, type Page } from './support/test';
import { unzipSync } from 'fflate';
import { bringIn, madeFile, openDemo, openDemoFile, peerNotes, saved, settled, stops } from './support/app';
import { readFileSync } from 'node:fs';

const sessions = (page: Page) => page.getByRole('list', { name: 'Sessions' }).getByRole('listitem');

/** Lets every write to the database fail as on a full disk, until `ordleDiskFull` is taken back. */
async function fillDisk(page: Page) {
  await page.evaluate(() => {
    const put = IDBObjectStore.prototype.put;
    Object.assign(window, { ordleDiskFull: true });
    IDBObjectStore.prototype.put = function (...args: Parameters<typeof put>) {
      if ((window as unknown as { ordleDiskFull: boolean }).ordleDiskFull)
        throw new DOMException('no room', 'QuotaExceededError');
      return put.apply(this, args);
    };
  });
}
const emptyDisk = (page: Page) => page.evaluate(() => Object.assign(window, { ordleDiskFull: false }));

type Change = 'loses its takes' | 'is cut short' | 'is old';

/** Changes every record of a store as no part of the app would. */
async function changeStored(page: Page, store: string, change: Change) {
  await page.evaluate(
    ([name, what]) =>
      new Promise<void>((resolve, reject) => {
        const asked = indexedDB.open('ordle');
        asked.onerror = () => reject(asked.error);
        asked.onsuccess = () => {
          const transaction = asked.result.transaction(name, 'readwrite');
          const all = transaction.objectStore(name).openCursor();
          all.onsuccess = () => {
            const cursor = all.result;
            if (!cursor) return;
            const record = cursor.value;
            if (what === 'loses its takes' && record.document.name === 'Tide table')
              record.document.takes = null;
            if (what === 'is cut short' && record.take.events.length > 10) record.take.events.length = 4;
            if (what === 'is old') record.storedAt = 1;
            cursor.update(record);
            cursor.continue();
          };
          transaction.oncomplete = () => {
            asked.result.close();
            resolve();
          };
        };
      }),
    [store, change] as const,
  );
}

separate(
  'on a full disk: leaving asks, what is unsaved stays in reach, and it is saved once there is room',
  async ({ page }) => {
    await openDemo(page);
    await saved(page);
    await fillDisk(page);
    await page.getByRole('button', { name: 'Add quantize' }).click();
    await expect(page.getByRole('alert')).toContainText('Not saved. The disk is full');
    await page.getByRole('link', { name: 'Shelf', exact: true }).click();
    const dialog = page.getByRole('dialog', { name: 'This session is not saved' });
    await dialog.getByRole('button', { name: 'Stay' }).click();
    await expect(stops(page)).toHaveCount(3);
    await page.getByRole('link', { name: 'Shelf', exact: true }).click();
    await dialog.getByRole('button', { name: 'Leave' }).click();
    const row = sessions(page).filter({ hasText: 'Ferry crossing' });
    await expect(row).toContainText('not saved yet');
    await row.getByRole('link').click();
    await settled(page);
    await expect(stops(page)).toHaveCount(3);
    // Closing or reloading the tab asks too.
    const asked: string[] = [];
    page.on('dialog', (box) => {
      asked.push(box.type());
      void box.dismiss();
    });
    await page.close({ runBeforeUnload: true });
    await expect.poll(() => asked).toEqual(['beforeunload']);
    await emptyDisk(page);
    await page.getByRole('button', { name: /^Save now/ }).click();
    await saved(page);
    page.removeAllListeners('dialog');
    await page.reload();
    await settled(page);
    await expect(stops(page)).toHaveCount(3);
  },
);

test('one broken session leaves the others on the shelf, and its takes can be saved as files', async ({
  page,
}) => {
  await openDemo(page);
  await saved(page);
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await expect(sessions(page)).toHaveCount(2);
  await changeStored(page, 'sessions', 'loses its takes');
  await page.reload();
  await expect(sessions(page)).toHaveCount(2);
  const broken = sessions(page).filter({ hasText: 'Tide table' });
  // The shelf shows what it was; opening it tells, and from then on the shelf does too.
  await broken.getByRole('link').click();
  await expect(page.getByText(/cannot be read at takes/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save its takes as files' })).toBeVisible();
  await page.goto('/');
  await expect(broken).toContainText('damaged');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    broken.getByRole('button', { name: 'Save its takes as files' }).click(),
  ]);
  const files = unzipSync(new Uint8Array(readFileSync(await download.path())));
  expect(Object.keys(files).length).toBeGreaterThan(2);
  expect(Object.values(files).reduce((sum, bytes) => sum + peerNotes(bytes).length, 0)).toBeGreaterThan(200);
  await page.getByRole('link', { name: 'Ferry crossing' }).click();
  await settled(page);
});

test('a stored take that was cut short is told, not shown as no notes', async ({ page }) => {
  await openDemoFile(page, 'tide-hands.mid');
  await saved(page);
  await changeStored(page, 'takes', 'is cut short');
  await page.reload();
  await expect(page.getByText('was damaged in this browser')).toBeVisible();
});

test('a session deleted by mistake comes back whole, though its takes are old; also from the list of deleted ones', async ({
  page,
}) => {
  await openDemoFile(page, 'tide-hands.mid');
  await saved(page);
  await changeStored(page, 'takes', 'is old');
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await page.getByRole('button', { name: 'More for tide-hands' }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(sessions(page)).toHaveCount(0);
  await page.reload();
  await page.getByText('Deleted, kept for a week').click();
  await page.getByRole('button', { name: 'Bring back' }).click();
  await page.getByRole('link', { name: 'tide-hands' }).click();
  await settled(page);
  await expect(page.getByTestId('roll')).toHaveAttribute('aria-label', /104 notes|5\d notes/);
});

separate(
  'a session open in one tab is not renamed or deleted under it by another',
  async ({ page, context }) => {
    await openDemo(page);
    await saved(page);
    const shelf = await context.newPage();
    await shelf.goto('/');
    await shelf.getByRole('button', { name: 'More for Ferry crossing' }).click();
    await shelf.getByRole('menuitem', { name: 'Delete' }).click();
    await expect(shelf.getByText('open in another tab')).toBeVisible();
    await expect(sessions(shelf)).toHaveCount(2);
    await page.close();
    await shelf.getByRole('button', { name: 'More for Ferry crossing' }).click();
    await shelf.getByRole('menuitem', { name: 'Delete' }).click();
    await expect(sessions(shelf)).toHaveCount(1);
  },
);

separate('without sound, Play says so within two seconds and the play line moves', async ({ page }) => {
  await page.addInitScript(() => {
    AudioContext.prototype.resume = () => new Promise<void>(() => undefined);
    Object.defineProperty(AudioContext.prototype, 'currentTime', { get: () => 0 });
    Object.defineProperty(BaseAudioContext.prototype, 'currentTime', { get: () => 0 });
  });
  await openDemo(page);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('status').filter({ hasText: 'no sound' })).toBeVisible();
  const before = await page.getByTestId('position').textContent();
  await expect(page.getByTestId('position')).not.toHaveText(before ?? '');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
});

separate(
  'a place that was never visited says plainly that the server is gone, and leads back',
  async ({ page }) => {
    await openDemo(page);
    await saved(page);
    await page.context().setOffline(true);
    await page.getByRole('link', { name: 'Export' }).click();
    await expect(page.getByRole('alert')).toContainText('the server that Ordle came from does not answer');
    await page.getByRole('button', { name: 'Try again' }).click();
    await expect(page.getByRole('alert')).toContainText('still');
    await page.getByRole('button', { name: 'Back to where you were' }).click();
    await settled(page);
  },
);

separate('the page asks for nothing its security policy forbids', async ({ page }) => {
  const violations: string[] = [];
  page.on('console', (message) => {
    if (/Content Security Policy|VIOLATION/.test(message.text())) violations.push(message.text());
  });
  await page.addInitScript(() =>
    document.addEventListener('securitypolicyviolation', (event) =>
      console.log(`VIOLATION ${event.violatedDirective}`),
    ),
  );
  await openDemo(page);
  await saved(page);
  expect(violations).toEqual([]);
  const licences = await page.request.get('/licences.txt');
  expect(await licences.text()).toMatch(/react-is [\s\S]*MIT/);
});

separate('an engine that cannot be loaded is told, and is started anew once it can', async ({ page }) => {
  await page.goto('/');
  let fails = true;
  await page.route('**/engine.worker*', (route) => (fails ? route.abort() : route.continue()));
  await bringIn(page, [madeFile('four-notes.mid')]);
  await expect(page.getByRole('dialog')).toContainText('broke off or could not be loaded');
  await page.getByRole('button', { name: 'Close' }).click();
  fails = false;
  await bringIn(page, [madeFile('four-notes.mid')]);
  await settled(page);
  await expect(page.getByTestId('roll')).toHaveAttribute('aria-label', /4 notes/);
});

test('a history of 10,000 actions is shown at once, and any point of it is a click away', async ({
  page,
}) => {
  await page.goto('/');
  await bringIn(page, [madeFile('four-notes.mid')]);
  await settled(page);
  await saved(page);
  await page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const asked = indexedDB.open('ordle');
        asked.onsuccess = () => {
          const transaction = asked.result.transaction(['sessions', 'entries'], 'readwrite');
          const [sessions, entries] = ['sessions', 'entries'].map((name) => transaction.objectStore(name));
          const all = sessions.getAll();
          all.onsuccess = () => {
            const [record] = all.result;
            const path = ['parts', 'byId', record.document.parts.order[0], 'ink'];
            const of = (value: number) => [{ op: 'replace', path, value: value % 8 }];
            for (let at = 0; at < 10_000; at++) {
              const entry = {
                label: `Colour ${at + 1}`,
                at,
                gesture: null,
                forward: of(at + 1),
                backward: of(at),
              };
              entries.put({ session: record.id, at, entry });
            }
            sessions.put({ ...record, done: 10_000 });
          };
          transaction.oncomplete = () => {
            asked.result.close();
            resolve();
          };
        };
      }),
  );
  await page.reload();
  await settled(page);
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByRole('button', { name: 'Colour 10000' })).toBeVisible();
  const list = page.getByRole('list', { name: 'Actions, newest first' });
  // Only what is seen is in the page: with every row there it is not shown at once.
  expect(await list.getByRole('listitem').count()).toBeLessThan(200);
  await list.evaluate((element) => element.parentElement?.scrollTo(0, 1e9));
  await page.getByRole('button', { name: 'When first opened' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: /^Redo/ })).toContainText('Colour 1');
});
