import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parse, validate } from 'musicxml-io';
import type { Page } from '@playwright/test';
import { expect, test } from './support/test';
import { bringIn, exportFile, openDemoFile, peerNotes, settled } from './support/app';
import { undo } from './support/parts';

const ORGAN = 'ferry-reed-organ.mid';

/** Goes to Score and waits until all of it is engraved. */
async function openScore(page: Page) {
  await page.getByRole('link', { name: 'Score' }).click();
  await drawn(page);
}

async function drawn(page: Page) {
  await expect(page.getByTestId('score')).toHaveAttribute('data-busy', 'false');
  const strips = page.locator('.score section');
  await expect(strips.first()).toHaveAttribute('data-drawn', 'true');
  for (let index = 0; index < (await strips.count()); index++) {
    await strips.nth(index).scrollIntoViewIfNeeded();
    await expect(strips.nth(index)).toHaveAttribute('data-drawn', 'true');
  }
  await strips.first().scrollIntoViewIfNeeded();
}

/** Clicks the head of a written note. */
async function clickNote(page: Page, index: number) {
  const head = await page.locator('g.note').nth(index).locator('g.notehead').boundingBox();
  if (!head) throw new Error('no head');
  await page.mouse.click(head.x + head.width / 2, head.y + head.height / 2);
}

test('every note of a part is on the page; one is chosen there and on the Bench alike', async ({ page }) => {
  await openDemoFile(page, ORGAN);
  await page.getByRole('link', { name: 'Export' }).click();
  const notes = peerNotes(await exportFile(page));
  await openScore(page);
  // Every note once; what is tied on is a written value more.
  const written = await page.locator('g.note[id^=p1n]').count();
  expect(written).toBe(notes.length);
  expect(await page.getByText('Engraving bars').count()).toBe(0);
  await expect(page).toHaveTitle(/^Score · /);
  // A reader who does not see it has the bars in words.
  await expect(page.locator('.score li').first()).toContainText('bar 1');
  await clickNote(page, 4);
  await expect(page.locator('g.note.chosen')).toHaveCount(1);
  const id = await page.locator('g.note.chosen').getAttribute('id');
  await page.getByRole('link', { name: 'Bench' }).click();
  await settled(page);
  await expect(page.getByTestId('selected')).toContainText('1 note');
  // Another one selected there is the one chosen here.
  await page.getByTestId('roll').focus();
  await page.keyboard.press('.');
  await openScore(page);
  await expect(page.locator('g.note.chosen')).toHaveCount(1);
  expect(await page.locator('g.note.chosen').getAttribute('id')).not.toBe(id);
});

test('how a part is written is changed, undone and kept over a reload; the music stays as it is', async ({
  page,
}) => {
  await openDemoFile(page, ORGAN);
  await page.getByRole('link', { name: 'Export' }).click();
  const before = await exportFile(page);
  await openScore(page);
  const staves = page.locator('.score section').first().locator('g.measure').first().locator('g.staff');
  await expect(staves).toHaveCount(1);
  await page.getByRole('radio', { name: 'two' }).click();
  await expect(undo(page)).toContainText('Staves');
  await expect(staves).toHaveCount(2);
  await page.getByLabel('Semitones from what is written to what sounds').fill('-2');
  await page.keyboard.press('Enter');
  await expect(undo(page)).toContainText('Transposing instrument');
  await expect(page.getByText('saved')).toBeVisible();
  await page.reload();
  await drawn(page);
  await expect(staves).toHaveCount(2);
  await expect(page.getByLabel('Semitones from what is written to what sounds')).toHaveValue('-2');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(staves).toHaveCount(1);
  await page.getByRole('link', { name: 'Export' }).click();
  expect([...(await exportFile(page))]).toEqual([...before]);
});

test('what is saved is what the command line writes, and an independent reader finds it right', async ({
  page,
}, testInfo) => {
  await openDemoFile(page, ORGAN);
  await openScore(page);
  const saved = async (name: RegExp) => {
    await page.getByRole('button', { name: 'Save MusicXML' }).click();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('menuitem', { name }).click(),
    ]);
    return readFileSync((await download.path()) ?? '');
  };
  const input = testInfo.outputPath(ORGAN);
  writeFileSync(input, readFileSync(path.resolve('app/public/demo', ORGAN)));
  for (const [to, name] of [
    ['musicxml', /Plain/],
    ['mxl', /Compressed/],
  ] as const) {
    // prettier-ignore
    const bytes = await saved(name);
    const out = testInfo.outputPath(`out.${to}`);
    execFileSync(process.execPath, ['cli/bin/ordle.mjs', 'export', input, '--to', to, '--out', out]);
    expect(bytes.equals(readFileSync(out))).toBe(true);
    if (to === 'musicxml') expect(validate(parse(bytes.toString('utf8'))).errors).toEqual([]);
  }
  // A written score comes in like any other file.
  await page.goto('/');
  await bringIn(page, [{ name: 'pier.mxl', bytes: readFileSync(testInfo.outputPath('out.mxl')) }]);
  // What notation says and is not read is told.
  await expect(page.getByRole('dialog')).toContainText('Of this written score is not read: pedal');
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('clean-up')).toContainText('It is tight already');
  await page.getByRole('link', { name: 'Not now' }).click();
  await settled(page);
  await expect(page.getByTestId('roll')).toHaveAttribute('aria-label', /: 120 notes/);
  await expect(page).toHaveTitle('Bench · pier · Ordle');
});

test('all parts in pages, and some bars of them, are written in one key and meter', async ({ page }) => {
  await openDemoFile(page, ORGAN);
  await openScore(page);
  const bars = await page.locator('g.measure').count();
  expect(bars).toBe(24);
  await page.getByRole('radio', { name: 'pages' }).click();
  await drawn(page);
  // One document now, broken into pages.
  await expect(page.locator('.score section')).toHaveCount(1);
  expect(await page.locator('.score .page').count()).toBeGreaterThanOrEqual(1);
  await expect(page.locator('g.measure')).toHaveCount(bars);
  await page.getByText('Some bars').click();
  await page.getByLabel('First bar').fill('3');
  await page.keyboard.press('Enter');
  await page.getByLabel('Last bar').fill('6');
  await page.keyboard.press('Enter');
  await expect(page.locator('g.measure')).toHaveCount(4);
  await page.getByText('Names of chords').click();
  await expect(page.locator('g.harm').first()).toBeVisible();
  await expect(undo(page)).toContainText('Chord names');
});

test('the page follows what is heard, in any parts, and is reached by its key', async ({ page }) => {
  await openDemoFile(page, ORGAN);
  await page.keyboard.press('Control+Alt+9');
  await drawn(page);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^Score: /);
  await expect(page.locator('g.measure.now')).toHaveCount(1);
  await page.keyboard.press('Space');
  const barHeard = () =>
    page.evaluate(() => {
      const all = [...document.querySelectorAll('g.measure')];
      return all.findIndex((each) => each.classList.contains('now'));
    });
  await expect.poll(barHeard).toBeGreaterThan(0);
  await page.keyboard.press('Space');
  // The bar is the one the position tells.
  const bar = Number((await page.getByTestId('position').textContent())?.split('.')[0]);
  expect(await barHeard()).toBe(bar - 1);
});
