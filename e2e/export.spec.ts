import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, type Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { ROOT, addStep, bringIn, demoPath, exportFile, peerNotes, settled } from './support/app';
import { marker, note, smallFile } from './support/smallFiles';
import { test } from './support/test';

const format = (page: Page, name: string) => page.getByRole('checkbox', { name, exact: true });
const ready = (page: Page) => expect(page.getByTestId('export')).toHaveAttribute('data-busy', 'false');
async function toExport(page: Page) {
  await page.getByRole('link', { name: 'Export', exact: true }).click();
  await ready(page);
}

/** What the command line writes of some bytes. */
function byCommandLine(bytes: Uint8Array, args: string[]): Buffer {
  const folder = mkdtempSync(path.join(tmpdir(), 'ordle-e2e-'));
  const [source, target] = [path.join(folder, 'quay.ordle'), path.join(folder, 'out.zip')];
  writeFileSync(source, bytes);
  execFileSync(process.execPath, [
    path.join(ROOT, 'cli/bin/ordle.mjs'),
    'export',
    source,
    '--out',
    target,
    ...args,
  ]);
  return readFileSync(target);
}

test('all formats go into one zip, the same to the byte as the command line makes of the session file', async ({
  page,
}) => {
  await page.goto('/');
  const name = 'tide-hands.mid';
  await bringIn(page, [{ name, bytes: new Uint8Array(readFileSync(demoPath(name))) }]);
  await settled(page);
  await addStep(page, 'Quantize');
  await settled(page);
  await toExport(page);
  for (const each of ['MusicXML', 'CSV', 'WAV', 'Clean-up report', 'Session file', 'Recipes', 'Grooves'])
    await format(page, each).click();
  await page.getByRole('radio', { name: 'a file a part' }).click();
  await page.getByLabel('Bits').selectOption('24');
  await page.getByRole('group', { name: 'Tables' }).getByRole('checkbox', { name: 'Controllers' }).click();
  await page.getByRole('group', { name: 'Tables' }).getByRole('checkbox', { name: 'Notes' }).click();
  await ready(page);
  await expect(page.getByRole('list', { name: 'Files' }).getByRole('listitem')).toHaveCount(8);
  const bytes = Buffer.from(await exportFile(page));
  await expect(page.getByText('tide-hands.zip was written with 8 files')).toBeVisible();
  const files = unzipSync(bytes);
  const own = Object.keys(files).find((each) => each.endsWith('.ordle')) ?? '';
  const told = byCommandLine(files[own], [
    '--to',
    'mid,musicxml,csv,wav,report,ordle,recipe,groove',
    '--stems',
    '--bits',
    '24',
    '--controllers',
  ]);
  const theirs = unzipSync(told);
  expect(Object.keys(theirs)).toEqual(Object.keys(files));
  for (const each of Object.keys(files))
    expect(Buffer.compare(Buffer.from(theirs[each]), Buffer.from(files[each])), each).toBe(0);
  expect(told.equals(bytes)).toBe(true);
});

test('sections are files of their own; what was chosen is there again after a reload', async ({ page }) => {
  await page.goto('/');
  const bell = [0, 1, 2, 3].flatMap((bar) => note(bar * 1920, bar * 1920 + 400, 60 + bar));
  await bringIn(page, [smallFile('tide.mid', { bell: [marker(0, 'Ebb'), marker(3840, 'Flood'), ...bell] })]);
  await settled(page);
  await toExport(page);
  await expect(page.getByText('Nothing was done to bell: it goes out as played.')).toBeVisible();
  await page.getByRole('radio', { name: 'each section' }).click();
  // They are heard one after the other, as they will be written.
  await page.getByRole('button', { name: 'Hear it' }).click();
  await expect(page.getByText('Ebb, 1 of 2')).toBeVisible();
  await expect(page.getByText('Flood, 2 of 2')).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByRole('button', { name: 'Hear it' })).toBeVisible();
  await page.getByLabel('Names of files').fill('{session} {section}');
  await page.getByLabel('Names of files').press('Enter');
  const list = page.getByRole('list', { name: 'Files' }).getByRole('listitem');
  await expect(list).toHaveText([/^tide Ebb\.mid/, /^tide Flood\.mid/]);
  await page.reload();
  await ready(page);
  await expect(list).toHaveText([/^tide Ebb\.mid/, /^tide Flood\.mid/]);
  const files = unzipSync(await exportFile(page));
  expect(peerNotes(files['tide Flood.mid']).map(({ start, pitch }) => [start, pitch])).toEqual([
    [0, 62],
    [1920, 63],
  ]);
  // Some bars, as a file by itself.
  await page.getByRole('radio', { name: 'some bars' }).click();
  await page.getByLabel('First bar').fill('4');
  await page.getByLabel('First bar').press('Enter');
  await page.getByLabel('Last bar').fill('4');
  await page.getByLabel('Last bar').press('Enter');
  await ready(page);
  expect(peerNotes(await exportFile(page)).map(({ start, pitch }) => [start, pitch])).toEqual([[0, 63]]);
});

test('long work shows how far it is and is stopped; what will be written is heard', async ({ page }) => {
  await page.goto('/');
  const long = Array.from({ length: 3000 }, (_, at) =>
    note(at * 240, at * 240 + 2000, 40 + (at % 40)),
  ).flat();
  await bringIn(page, [smallFile('long.mid', { bell: long.sort((a, b) => a.tick - b.tick) })]);
  await settled(page);
  await toExport(page);
  await page.getByRole('button', { name: 'Hear it' }).click();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByRole('button', { name: 'Hear it' })).toBeVisible();
  await format(page, 'WAV').click();
  await page.getByRole('button', { name: 'Export', exact: true }).click();
  const progress = page.getByRole('progressbar', { name: 'Writing' });
  await expect(progress).not.toHaveAttribute('aria-valuenow', '0');
  // It goes on while something else is looked at.
  await page.getByRole('link', { name: 'Bench' }).click();
  await settled(page);
  await page.getByRole('link', { name: 'Export', exact: true }).click();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('The export was stopped. Nothing was written.')).toBeVisible();
  await format(page, 'WAV').click();
  await ready(page);
  expect(peerNotes(await exportFile(page))).toHaveLength(3000);
});

test('a session file takes its history along: what was done is undone elsewhere', async ({
  page,
  browser,
}) => {
  await page.goto('/');
  await bringIn(page, [smallFile('pier.mid', { bell: [...note(20, 400, 60), ...note(500, 900, 62)] })]);
  await settled(page);
  await addStep(page, 'Quantize');
  await settled(page);
  await toExport(page);
  await format(page, 'Standard MIDI File').click();
  await format(page, 'Session file').click();
  await page.getByRole('checkbox', { name: /^With its history/ }).click();
  await ready(page);
  const bytes = await exportFile(page);
  const context = await browser.newContext();
  try {
    const other = await context.newPage();
    await other.goto('/');
    await bringIn(other, [{ name: 'pier.ordle', bytes }]);
    await settled(other);
    await other.getByRole('button', { name: /^Undo/ }).click();
    await settled(other);
    await other.getByRole('link', { name: 'Export', exact: true }).click();
    const starts = async () => peerNotes(await exportFile(other)).map(({ start }) => start);
    expect(await starts()).toEqual([20, 500]);
    await other.getByRole('button', { name: /^Redo/ }).click();
    await ready(other);
    expect(await starts()).toEqual([4, 484]);
  } finally {
    await context.close();
  }
});
