import { expect, type BrowserContext, type Page } from '@playwright/test';
import { addStep, exportFile, peerNotes, saved, settled } from './support/app';
import { ownServer, type OwnServer } from './support/ownServer';
import { separate } from './support/test';

const test = separate.extend<{ server: OwnServer }>({
  // eslint-disable-next-line no-empty-pattern
  server: async ({}, use) => {
    const server = await ownServer();
    await use(server);
    await server.remove();
  },
  serviceWorkers: 'allow',
});

/** Waits until everything is kept in this browser. */
const kept = (page: Page) =>
  page.evaluate(async () => {
    const { serviceWorker } = navigator;
    await serviceWorker.ready;
    if (!serviceWorker.controller)
      await new Promise((resolve) => serviceWorker.addEventListener('controllerchange', resolve));
  });

/** Plays the music where a place is shown, and ends it. */
async function plays(page: Page, place: string) {
  const play = page.getByRole('button', { name: place === 'Export' ? 'Hear it' : 'Play', exact: true });
  const stop = page.getByRole('button', { name: 'Stop', exact: true });
  // Readings measures; there is nothing to be played on it.
  if (place === 'Readings') return;
  await play.click();
  await stop.click();
  await expect(play).toBeVisible();
}

async function demo(page: Page, server: OwnServer) {
  await page.goto(`${server.url}/`);
  await page.getByRole('button', { name: 'Open the demo' }).click();
  await page.getByRole('button', { name: 'Leave the tour' }).click();
  await settled(page);
}

test('after the first visit everything works without a server: the main job, sound, and every place', async ({
  page,
  server,
}) => {
  await demo(page, server);
  await kept(page);
  await saved(page);
  await server.stop();
  await page.reload();
  await settled(page);
  expect(await page.evaluate(() => crossOriginIsolated)).toBe(true);
  await addStep(page, 'Quantize');
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  for (const place of ['Record', 'Takes', 'Tempo', 'Bench', 'Parts', 'Readings', 'Export']) {
    await page.getByRole('link', { name: place, exact: true }).click();
    await expect(page.getByRole('heading', { level: 1, name: `${place}: Ferry crossing` })).toBeAttached();
    await expect(page.getByText('could not be fetched')).toHaveCount(0);
    await plays(page, place);
  }
  await page.getByRole('link', { name: 'Score', exact: true }).click();
  await expect(page.locator('main svg.definition-scale, main svg g.system').first()).toBeAttached({
    timeout: 60000,
  });
  await plays(page, 'Score');
  expect(errors).toEqual([]);
  await page.getByRole('link', { name: 'Export', exact: true }).click();
  expect(peerNotes(await exportFile(page)).length).toBeGreaterThan(325);
  // A visit of another address, and the demo anew.
  await page.goto(`${server.url}/guide`);
  await expect(page.getByRole('heading', { name: 'Guide' }).first()).toBeVisible();
  await page.goto(`${server.url}/`);
  await page.getByRole('button', { name: 'Open the demo' }).click();
  await settled(page);
});

test('a newer version is offered in every tab; only the one that accepts is loaded anew, and the other goes on', async ({
  context,
  page,
  server,
}) => {
  const { mine, others } = await withNewer(context, page, server);
  const offer = 'Reload with the newer version';
  for (const each of [mine, others]) await expect(each.getByRole('button', { name: offer })).toBeVisible();
  await others.evaluate(() => void ((window as { stays?: boolean }).stays = true));
  await mine.getByRole('button', { name: offer }).click();
  await expect(mine.locator('meta[name=newer]')).toHaveCount(1);
  await settled(mine);
  await expect(others.getByText('is in use in another tab')).toBeVisible();
  // A place the other tab never showed is no longer at the server; it is still had.
  await others.getByRole('link', { name: 'Guide' }).click();
  await expect(others.getByRole('heading', { name: 'Guide' }).first()).toBeVisible();
  expect(await others.evaluate(() => (window as { stays?: boolean }).stays)).toBe(true);
  await others.getByRole('button', { name: offer }).click();
  await expect(others.locator('meta[name=newer]')).toHaveCount(1);
});

test('the newer version waits while something plays', async ({ context, page, server }) => {
  const { mine } = await withNewer(context, page, server);
  await mine.getByRole('button', { name: /^Play/ }).first().click();
  await expect(mine.getByRole('button', { name: /^Stop|^Pause/ }).first()).toBeVisible();
  await mine.getByRole('button', { name: 'Reload with the newer version' }).click();
  await expect(mine.getByText('The newer version comes when the playing has ended.')).toBeVisible();
  await expect(mine.locator('meta[name=newer]')).toHaveCount(0);
  await mine.getByTestId('roll').focus();
  await mine.keyboard.press('Space');
  await expect(mine.locator('meta[name=newer]')).toHaveCount(1);
});

/** The demo in one tab and the shelf in another, both of the version before the one that was just found. */
async function withNewer(context: BrowserContext, mine: Page, server: OwnServer) {
  await demo(mine, server);
  await kept(mine);
  const others = await context.newPage();
  await others.goto(`${server.url}/`);
  await expect(others.getByRole('heading', { name: 'Shelf' })).toBeVisible();
  server.renew();
  await mine.evaluate(async () => (await navigator.serviceWorker.getRegistration())?.update());
  return { mine, others };
}

test('a tab that meets what a newer version stored saves what it has, says so and changes nothing more', async ({
  context,
  page,
  server,
}) => {
  await demo(page, server);
  await addStep(page, 'Quantize');
  const newer = await context.newPage();
  await newer.goto(`${server.url}/health`);
  await newer.evaluate(
    () =>
      new Promise<void>((resolve, reject) => {
        const opening = indexedDB.open('ordle', 99);
        opening.onsuccess = () => resolve();
        opening.onerror = () => reject(new Error('It could not be opened.'));
      }),
  );
  await expect(page.getByRole('alert').filter({ hasText: 'written by a newer Ordle' })).toBeVisible();
  await expect(page.getByText('read only')).toBeVisible();
  const steps = await newer.evaluate(
    () =>
      new Promise<number>((resolve) => {
        const opening = indexedDB.open('ordle', 99);
        opening.onsuccess = () => {
          const asking = opening.result.transaction('sessions').objectStore('sessions').getAll();
          asking.onsuccess = () =>
            resolve(JSON.stringify(asking.result).split('"kind":"quantize"').length - 1);
        };
      }),
  );
  expect(steps).toBeGreaterThan(0);
});

test('a file that the installed app is opened with is brought in', async ({ page, server }) => {
  // What the system hands over comes through this queue; a test cannot install an app everywhere.
  await page.addInitScript(() => {
    const given = async () =>
      new File([await (await fetch('/demo/tide-cello.mid')).arrayBuffer()], 'tide-cello.mid');
    const setConsumer = (take: (launch: object) => void) => take({ files: [{ getFile: given }] });
    Object.defineProperty(window, 'launchQueue', { value: { setConsumer } });
  });
  await page.goto(`${server.url}/`);
  await expect(page.getByRole('heading', { name: 'Suggested clean-up' })).toBeVisible();
  const manifest = (await (await page.request.get(`${server.url}/manifest.webmanifest`)).json()) as {
    file_handlers: { accept: Record<string, string[]> }[];
    icons: { src: string }[];
  };
  const endings = Object.values(manifest.file_handlers[0].accept).flat();
  expect(endings).toEqual(expect.arrayContaining(['.mid', '.ordle', '.musicxml']));
  for (const { src } of manifest.icons)
    expect((await page.request.get(`${server.url}${src}`)).status()).toBe(200);
});
