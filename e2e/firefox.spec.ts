import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import puppeteer, { type Browser, type Page } from 'puppeteer-core';
import { peerNotes } from './support/app';
import { ownServer } from './support/ownServer';
import { note, smallFile } from './support/smallFiles';

/** Debian's. Playwright drives a Firefox of its own only, so this one is driven by WebDriver BiDi. */
const FIREFOX = process.env.FIREFOX ?? '/usr/bin/firefox-esr';

/** Eighths at 120 bpm, late by some ticks and uneven by a made-up rule. */
const recorded = smallFile('quay.mid', {
  Keys: Array.from({ length: 64 }, (_, at) => {
    const start = 960 + at * 240 + 22 + ((at * 7919) % 17);
    return note(start, start + 170, 60 + (at % 7));
  }).flat(),
});
/** A note on each beat at 90 bpm, in a file that says 120. */
const free = smallFile('fog.mid', {
  keys: Array.from({ length: 48 }, (_, beat) => {
    const start = Math.round((0.9 + (beat * 60) / 90) * 960);
    return note(start, start + 400, beat % 4 === 0 ? 48 : 60 + (beat % 5), beat % 4 === 0 ? 100 : 70);
  }).flat(),
});

const named = (role: string, name: string) => `::-p-aria([name="${name}"][role="${role}"])`;
const click = async (page: Page, role: string, name: string) => {
  const found = await page.waitForSelector(named(role, name), { visible: true });
  await found?.click();
};
const textOf = (page: Page) => page.evaluate(() => document.body.innerText);
/** What would be undone, by its name. */
const undoName = (page: Page) =>
  page.evaluate(
    () =>
      [...document.querySelectorAll<HTMLElement>('[role=toolbar][aria-label=Session] button')]
        .map(({ title }) => title)
        .find((title) => /^(Undo|Nothing to undo)/.test(title)) ?? '',
  );
const settled = (page: Page) =>
  page.waitForFunction(
    () => document.querySelector('[data-testid=roll]')?.getAttribute('data-busy') === 'false',
  );
const saved = (page: Page) => page.waitForSelector('[data-testid=saving][data-state=saved]');
const bpm = (page: Page) =>
  page.evaluate(() => Number(document.querySelector('[data-testid=bpm]')?.textContent ?? '0'));

test('in another browser engine: import, clean-up, an edit by hand, a take, beats, export, and all of it without a server', async () => {
  test.setTimeout(240000);
  expect(existsSync(FIREFOX), `${FIREFOX} is not there`).toBe(true);
  const folder = mkdtempSync(path.join(tmpdir(), 'ordle-firefox-'));
  const downloads = path.join(folder, 'downloads');
  const server = await ownServer();
  let browser: Browser | null = null;
  try {
    browser = await puppeteer.launch({
      browser: 'firefox',
      executablePath: FIREFOX,
      headless: true,
      extraPrefsFirefox: {
        'browser.download.folderList': 2,
        'browser.download.dir': downloads,
        'browser.download.useDownloadDir': true,
        'browser.helperApps.neverAsk.saveToDisk': 'audio/midi,application/octet-stream',
      },
    });
    const page = await browser.newPage();
    page.setDefaultTimeout(60000);
    await page.setViewport({ width: 1280, height: 800 });
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push((error as Error).message));
    const bringIn = async ({ name, bytes }: { name: string; bytes: Uint8Array }) => {
      const file = path.join(folder, name);
      writeFileSync(file, bytes);
      const input = await page.waitForSelector('input[type=file]');
      await (
        input as NonNullable<typeof input> as never as { uploadFile(name: string): Promise<void> }
      ).uploadFile(file);
      await page.waitForSelector('[data-testid=clean-up]');
    };

    await page.goto(`${server.url}/`);
    await bringIn(recorded);
    await click(page, 'button', 'Clean all of it');
    await expect.poll(() => undoName(page)).toContain('Clean up 1 part');

    // One edit by hand, by key, and back.
    await click(page, 'link', 'Bench');
    await settled(page);
    await page.focus('[data-testid=roll]');
    await page.keyboard.press('.');
    await page.keyboard.press('ArrowUp');
    await expect.poll(() => undoName(page)).toContain('Up: 1 note');
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    await expect.poll(() => undoName(page)).toContain('Clean up 1 part');

    await click(page, 'link', 'Export');
    await click(page, 'button', 'Export');
    const file = path.join(downloads, 'quay.mid');
    await expect.poll(() => existsSync(file) && readdirSync(downloads).length).toBe(1);
    const notes = peerNotes(new Uint8Array(readFileSync(file)));
    expect(notes).toHaveLength(64);
    const before = peerNotes(recorded.bytes);
    const off = (list: typeof notes) =>
      list.reduce((sum, { start }) => sum + Math.min(start % 240, 240 - (start % 240)), 0);
    expect(off(notes)).toBeLessThan(off(before) / 3);

    // A take of the demo, chosen for a bar by key.
    await click(page, 'link', 'Shelf');
    await click(page, 'button', 'Open the demo');
    await click(page, 'button', 'Leave the tour');
    await settled(page);
    await click(page, 'link', 'Takes');
    await page.waitForSelector('[data-testid=takes-summary]');
    await page.focus('main [role=application]');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await expect.poll(() => undoName(page)).toContain('Choose Take 2 for bar 1');

    // The beats of a free performance.
    await click(page, 'link', 'Shelf');
    await page.waitForSelector(named('button', 'Import files'));
    await bringIn(free);
    await click(page, 'link', 'Tempo');
    await expect.poll(async () => Math.round(await bpm(page)), { timeout: 60000 }).toBe(90);
    await saved(page);
    await page.reload();
    await expect.poll(async () => Math.round(await bpm(page)), { timeout: 60000 }).toBe(90);

    // And without a server.
    await page.evaluate(async () => void (await navigator.serviceWorker.ready));
    await server.stop();
    await page.reload();
    await expect.poll(async () => Math.round(await bpm(page)), { timeout: 60000 }).toBe(90);
    expect(await page.evaluate(() => crossOriginIsolated)).toBe(true);
    for (const place of ['Readings', 'Parts', 'Bench']) {
      await click(page, 'link', place);
      await expect.poll(() => textOf(page)).toContain(`${place}: fog`);
    }
    await settled(page);
    expect(errors).toEqual([]);
  } finally {
    await browser?.close();
    await server.remove();
    rmSync(folder, { recursive: true, force: true });
  }
});
