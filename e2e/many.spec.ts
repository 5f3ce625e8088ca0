import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { parse } from 'csv-parse/sync';
import { unzipSync } from 'fflate';
import { bringIn, bytesOf, demoPath, ROOT, settled } from './support/app';
import { note, smallFile } from './support/smallFiles';
import { test } from './support/test';

/** Music that is late and uneven by a made-up rule, `notes` long. */
const lesson = (name: string, notes: number) =>
  smallFile(name, {
    bell: Array.from({ length: notes }, (_, at) => {
      const start = 20 + at * 240 + ((at * 7919 + notes) % 37);
      return note(start, start + 150, 50 + (at % 20), 60 + (at % 30));
    }).flat(),
  });

/** A folder with folders in it: two lessons, the demo's cello, what is damaged, and what is no music. */
function folderOfLessons(notes = 40): string {
  const folder = path.join(mkdtempSync(path.join(tmpdir(), 'ordle-many-')), 'lessons');
  for (const each of ['high', 'low']) mkdirSync(path.join(folder, each), { recursive: true });
  writeFileSync(path.join(folder, 'high/one.mid'), lesson('one.mid', notes).bytes);
  writeFileSync(path.join(folder, 'low/one.mid'), lesson('one.mid', notes + 5).bytes);
  writeFileSync(path.join(folder, 'low/cello.mid'), readFileSync(demoPath('tide-cello.mid')));
  writeFileSync(path.join(folder, 'low/letter.mid'), 'Dear museum');
  writeFileSync(path.join(folder, 'read me.txt'), 'no music');
  return folder;
}

async function addFolder(page: Page, folder: string) {
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Add a folder' }).click(),
  ]);
  await chooser.setFiles(folder);
}

async function downloaded(page: Page, button: string): Promise<Uint8Array> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: button }).click(),
  ]);
  return bytesOf(download);
}

/** What the command line makes of a file. */
function byCommandLine(file: string, ...how: string[]): Uint8Array {
  const out = mkdtempSync(path.join(tmpdir(), 'ordle-many-out-'));
  execFileSync(process.execPath, ['cli/bin/ordle.mjs', 'clean', file, ...how, '--out', out], {
    cwd: ROOT,
    stdio: 'pipe',
  });
  return new Uint8Array(readFileSync(path.join(out, path.basename(file))));
}

/** Puts away what an earlier test left: it lies apart from the sessions. */
async function openMany(page: Page) {
  await page.goto('/many');
  await expect(
    page.getByText('No files yet').or(page.getByRole('button', { name: 'Put all away' })),
  ).toBeVisible();
  const away = page.getByRole('button', { name: 'Put all away' });
  if (await away.isVisible()) await away.click();
  await expect(page.getByText('No files yet')).toBeVisible();
}

test('a folder is cleaned with what is suggested for each, and comes back as one zip with the bytes of the command line', async ({
  page,
}) => {
  const folder = folderOfLessons();
  await page.goto('/');
  await openMany(page);
  await addFolder(page, folder);
  await expect(page.getByText('1 file that is no music was left out.')).toBeVisible();
  await page.getByRole('button', { name: 'Clean 4 files' }).click();
  await expect(page.getByText('3 of 4 files cleaned, 1 failed')).toBeVisible();
  const rows = page.getByRole('table', { name: 'Files' }).getByRole('row');
  await expect(rows.filter({ hasText: 'letter.mid' })).toContainText(
    'Failed. This is not a Standard MIDI File',
  );
  await expect(rows.filter({ hasText: 'high/one.mid' }).getByRole('img')).toHaveCount(2);

  const zip = unzipSync(await downloaded(page, 'Save all as one zip'));
  expect(Object.keys(zip).sort()).toEqual(
    ['high/one.mid', 'low/cello.mid', 'low/one.mid'].map((name) => `lessons/${name}`),
  );
  for (const [name, bytes] of Object.entries(zip)) {
    const own = byCommandLine(path.join(path.dirname(folder), name), '--suggest');
    expect(Buffer.from(bytes).equals(Buffer.from(own))).toBe(true);
  }
  const csv = parse(Buffer.from(await downloaded(page, 'Save the list as CSV')), { columns: true }) as Record<
    string,
    string
  >[];
  expect(csv.map(({ file, state }) => [file, state]).sort()).toEqual([
    ['lessons/high/one.mid', 'done'],
    ['lessons/low/cello.mid', 'done'],
    ['lessons/low/letter.mid', 'failed'],
    ['lessons/low/one.mid', 'done'],
  ]);
  // In order of how much was done, the failed one first.
  await page.getByRole('button', { name: 'as it came, cleaned' }).click();
  await expect(rows.nth(1)).toContainText('letter.mid');
  for (const width of [1280, 640, 320]) {
    await page.setViewportSize({ width, height: 800 });
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect(violations.map(({ id, nodes }) => `${width} ${id}: ${nodes[0].html.slice(0, 100)}`)).toEqual([]);
  }
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole('searchbox', { name: 'Search the files' }).fill('cello');
  await expect(rows).toHaveCount(2);

  // Both versions are heard, and any becomes a session with what was done as steps.
  await page.getByRole('button', { name: 'Hear lessons/low/cello.mid as it came' }).click();
  await expect(page.getByRole('button', { name: 'Stop lessons/low/cello.mid as it came' })).toBeVisible();
  await page.getByRole('button', { name: 'Hear lessons/low/cello.mid as cleaned' }).click();
  await expect(page.getByRole('button', { name: 'Stop lessons/low/cello.mid as cleaned' })).toBeVisible();
  await page.getByRole('button', { name: 'More for lessons/low/cello.mid' }).click();
  await page.getByRole('menuitem', { name: 'Open as a session' }).click();
  await settled(page);
  await expect(page.getByLabel('Name of the session')).toHaveValue('cello');
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('Clean up 1 part');
});

test('a recipe, and a recipe after what is suggested, do what the command line does', async ({ page }) => {
  const folder = folderOfLessons(60);
  const recipe = path.join(folder, 'up.json');
  writeFileSync(
    recipe,
    JSON.stringify({
      ordle: 'recipe',
      version: 1,
      name: 'Up a third',
      steps: [{ kind: 'transpose', on: true, where: {}, semitones: 4 }],
    }),
  );
  await openMany(page);
  await addFolder(page, folder);
  for (const [how, flags] of [
    ['a recipe', ['--recipe', recipe]],
    ['both', ['--suggest', '--recipe', recipe]],
  ] as const) {
    await page.getByRole('radio', { name: how }).click();
    if (how === 'a recipe') {
      const [chooser] = await Promise.all([
        page.waitForEvent('filechooser'),
        page.getByRole('button', { name: 'Recipe from a file' }).click(),
      ]);
      await chooser.setFiles(recipe);
    }
    await expect(page.getByText('Transpose')).toBeVisible();
    await page.getByRole('button', { name: /^Clean (all )?4 files/ }).click();
    await expect(page.getByText('3 of 4 files cleaned, 1 failed')).toBeVisible();
    const zip = unzipSync(await downloaded(page, 'Save all as one zip'));
    const one = path.join(folder, 'high/one.mid');
    expect(Buffer.from(zip['lessons/high/one.mid']).equals(Buffer.from(byCommandLine(one, ...flags)))).toBe(
      true,
    );
  }
});

test('what is stopped, or broken off by a reload, is gone on with and ends the same', async ({ page }) => {
  const folder = mkdtempSync(path.join(tmpdir(), 'ordle-many-'));
  for (let at = 0; at < 40; at++)
    writeFileSync(path.join(folder, `take ${at}.mid`), lesson('take.mid', 2000 + at).bytes);
  await openMany(page);
  await addFolder(page, folder);
  await page.getByRole('button', { name: 'Clean 40 files' }).click();
  await expect(page.getByText(/^[1-9]\d* of 40 files cleaned/)).toBeVisible();
  // What is dropped meanwhile is not lost.
  await page.evaluate(() => {
    const given = new DataTransfer();
    given.items.add(new File(['Dear museum'], 'letter.mid'));
    window.dispatchEvent(new DragEvent('drop', { dataTransfer: given, cancelable: true }));
  });
  await expect(page.getByText('The files are added when what is under way has ended.')).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByText(/of 41 files cleaned/)).toBeVisible();
  await page.getByRole('button', { name: /^Go on with \d+ files/ }).click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await page.reload();
  // As many as were done are still done.
  await expect(page.getByText(/^[1-9]\d* of 41 files cleaned/)).toBeVisible();
  await page.getByRole('button', { name: /^Go on with \d+ files/ }).click();
  await expect(page.getByText('40 of 41 files cleaned, 1 failed')).toBeVisible();
  const zip = unzipSync(await downloaded(page, 'Save all as one zip'));
  const names = readdirSync(folder);
  expect(Object.keys(zip)).toHaveLength(40);
  for (const name of [names[0], names[39]]) {
    const own = byCommandLine(path.join(folder, name), '--suggest');
    expect(Buffer.from(zip[`${path.basename(folder)}/${name}`]).equals(Buffer.from(own))).toBe(true);
  }
});

test('files that are dropped together may be cleaned in place of becoming sessions', async ({ page }) => {
  await openMany(page);
  await page.goto('/');
  await bringIn(page, [lesson('morning.mid', 30), lesson('evening.mid', 31)]);
  await page.getByRole('button', { name: 'Clean many' }).last().click();
  await expect(page.getByRole('heading', { name: 'Clean many files' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Clean 2 files' })).toBeEnabled();
});
