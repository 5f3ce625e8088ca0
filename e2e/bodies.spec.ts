import { AxeBuilder } from '@axe-core/playwright';
import type { Browser, Page } from '@playwright/test';
import { expect, test } from './support/test';
import { bringIn, exportFile, openDemo, peerNotes, settled } from './support/app';
import { onRoll, canvasLayout } from './support/canvas';
import { undo } from './support/parts';
import { note, smallFile } from './support/smallFiles';

const tune = () =>
  smallFile('pier.mid', {
    bells: Array.from({ length: 32 }, (_, at) =>
      note(480 + at * 240 + ((at * 7) % 23), 480 + at * 240 + 200, 60 + (at % 5), 80),
    ).flat(),
  });

/** Goes on with Tab until the control of a name has the keys; what a person without a pointer does. */
async function tabTo(page: Page, name: RegExp, most = 60) {
  for (let presses = 0; presses < most; presses++) {
    const now = await page.evaluate(() => {
      const element = document.activeElement;
      return element?.getAttribute('aria-label') ?? element?.textContent ?? '';
    });
    if (name.test(now.trim())) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`Tab does not come to ${String(name)}`);
}

/** Finds something in the palette by a word. */
async function find(page: Page, word: string) {
  await page.keyboard.press('Control+k');
  await expect(page.getByPlaceholder('Find an action')).toBeFocused();
  await page.keyboard.type(word);
  await page.keyboard.press('Enter');
}

test('the main job goes by keyboard alone, from place to place', async ({ page }) => {
  await page.goto('/');
  await bringIn(page, [tune()]);
  const sheet = page.getByTestId('clean-up');
  await expect(sheet).toContainText('Quantize 1/8');
  await tabTo(page, /^Clean all of it$/);
  await page.keyboard.press('Enter');
  await expect(undo(page)).toContainText('Clean up');
  await page.keyboard.press('Control+Alt+5');
  await settled(page);
  // A setting is found by its word and typed; the field gives the keys back.
  await find(page, 'strength');
  await expect(page.getByLabel('Strength, typed')).toBeFocused();
  await page.keyboard.type('100');
  await page.keyboard.press('Enter');
  await expect(undo(page)).toContainText('Strength');
  // Notes are walked, and the menu of one opens by its key.
  await page.getByRole('link', { name: 'Skip to the music' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('roll')).toBeFocused();
  await page.keyboard.press('.');
  await expect(page.getByTestId('announced')).toContainText('C4');
  await page.keyboard.press('ContextMenu');
  await page.getByRole('menuitem', { name: /^Delete the selected notes/ }).waitFor();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Delete');
  await expect(page.getByRole('status', { name: 'Last action' })).toHaveText('Delete 1 note');
  // Each place is reached by its key, says where it is, and is worked by arrows.
  for (const [key, place] of [
    ['3', 'Takes'],
    ['4', 'Tempo'],
    ['6', 'Parts'],
    ['7', 'Readings'],
    ['2', 'Record'],
  ]) {
    // prettier-ignore
    await page.keyboard.press(`Control+Alt+${key}`);
    await expect(page).toHaveTitle(`${place} · pier · Ordle`);
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(`${place}: pier`);
  }
  await page.keyboard.press('Control+Alt+8');
  await tabTo(page, /^Export$/);
  const download = page.waitForEvent('download');
  await page.keyboard.press('Enter');
  await download;
  await page.keyboard.press('Control+Alt+5');
  await settled(page);
  const notes = peerNotes(
    await (async () => (await page.getByRole('link', { name: 'Export' }).click(), exportFile(page)))(),
  );
  expect(notes).toHaveLength(31);
  expect(notes.every(({ start }) => start % 240 === 0)).toBe(true);
});

/** A page of a device that has fingers and nothing else. */
async function touchPage(browser: Browser, url: string) {
  const context = await browser.newContext({
    hasTouch: true,
    isMobile: true,
    viewport: { width: 768, height: 1024 },
    acceptDownloads: true,
  });
  const page = await context.newPage();
  await page.goto(url);
  const session = await context.newCDPSession(page);
  const touch = (type: string, points: { x: number; y: number }[]) =>
    session.send('Input.dispatchTouchEvent', { type: type as 'touchStart', touchPoints: points });
  return { page, context, touch };
}

test('the main job goes by fingers alone: a tap selects, a swipe only scrolls, a long press asks', async ({
  page: shared,
  browser,
}) => {
  await shared.goto('/');
  const { page, context, touch } = await touchPage(browser, shared.url());
  try {
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'Import files' }).tap(),
    ]);
    const { name, bytes } = tune();
    await chooser.setFiles({ name, mimeType: 'audio/midi', buffer: Buffer.from(bytes) });
    await page.getByRole('button', { name: 'Clean all of it' }).tap();
    await page.getByRole('link', { name: 'See it on the Bench' }).tap();
    await settled(page);
    // Whatever can be pressed is as large as a finger.
    const small = await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('button:not([role=checkbox]):not([role=slider]), select')]
        .filter((each) => each.offsetParent !== null && !each.matches('[data-dense]'))
        .map((each) => ({ name: each.ariaLabel ?? each.textContent, box: each.getBoundingClientRect() }))
        .filter(({ box }) => box.width > 0 && (box.width < 43.5 || box.height < 43.5))
        .map(({ name: words, box }) => `${words} ${Math.round(box.width)}x${Math.round(box.height)}`),
    );
    expect(small).toEqual([]);
    const layout = await canvasLayout(page);
    const first = onRoll(480 + 100, 60)(layout);
    const window = () =>
      page.getByTestId('roll').evaluate((canvas) => {
        const { ordleEditor } = canvas as unknown as { ordleEditor: { window(): { tick: number } } };
        return ordleEditor.window().tick;
      });
    const before = await window();
    await touch('touchStart', [{ x: first.x + 200, y: first.y }]);
    for (const by of [20, 60, 120]) await touch('touchMove', [{ x: first.x + 200 - by, y: first.y }]);
    await touch('touchEnd', []);
    await expect.poll(window).toBeGreaterThan(before + 50);
    await expect(page.getByText('nothing selected')).toBeVisible();
    await touch('touchStart', [{ x: 200, y: first.y }]);
    for (const by of [20, 60, 200]) await touch('touchMove', [{ x: 200 + by, y: first.y }]);
    await touch('touchEnd', []);
    const now = onRoll(480 + 100, 60)(await canvasLayout(page));
    await page.touchscreen.tap(now.x, now.y);
    await expect(page.getByTestId('selected')).toContainText('1 note');
    await touch('touchStart', [now]);
    await page.getByRole('menuitem', { name: /^Delete the selected notes/ }).waitFor();
    await touch('touchEnd', []);
    await page.getByRole('menuitem', { name: /^Delete the selected notes/ }).tap();
    await page.getByRole('button', { name: 'Bench ▾' }).tap();
    await page.getByRole('menuitem', { name: 'Export' }).tap();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Export', exact: true }).tap(),
    ]);
    const { readFile } = await import('node:fs/promises');
    expect(peerNotes(new Uint8Array(await readFile((await download.path()) ?? '')))).toHaveLength(31);
  } finally {
    await context.close();
  }
});

test('every place fits from 320 pixels on, with no serious fault of accessibility, in forced colours too', async ({
  page,
}) => {
  await openDemo(page);
  const session = page.url();
  const size = page.viewportSize();
  try {
    for (const [width, height, forcedColors] of [
      [320, 640, 'none'],
      [640, 400, 'active'],
    ] as const) {
      // prettier-ignore
      await page.setViewportSize({ width, height });
      await page.emulateMedia({ forcedColors });
      for (const place of [
        '',
        '/record',
        '/takes',
        '/tempo',
        '/parts',
        '/readings',
        '/score',
        '/export',
        '/clean-up',
      ]) {
        await page.goto(`${session}${place}`);
        await page.locator('main').first().waitFor();
        if (place === '') {
          await settled(page);
          const share = (await page.getByTestId('roll').boundingBox())?.height ?? 0;
          expect(share).toBeGreaterThanOrEqual(height / 2);
        }
        const wide = await page.evaluate(() => document.documentElement.scrollWidth > window.innerWidth);
        expect({ place, wide }).toEqual({ place, wide: false });
        const { violations } = await new AxeBuilder({ page })
          .setLegacyMode(true)
          .options({ resultTypes: ['violations'] })
          // Of buttons in a colour of their own axe is told the letters they would have without forced colours.
          .exclude(forcedColors === 'active' ? ['.text-on-accent'] : [])
          .analyze();
        const serious = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
        expect({
          place,
          width,
          found: serious.map(({ id, nodes }) => `${id}: ${nodes[0].html.slice(0, 120)}`),
        }).toEqual({ place, width, found: [] });
      }
    }
  } finally {
    await page.emulateMedia({ forcedColors: 'none' });
    if (size) await page.setViewportSize(size);
  }
});
