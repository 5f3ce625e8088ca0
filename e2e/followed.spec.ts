import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { writeMidi } from '@ordle/core';
import { fileOfNotes, type PlainNote } from '../core/testing/files';
import { bringIn, demoPath, exportedNotes, openDemo, openDemoFile, settled } from './support/app';
import { undo } from './support/parts';
import { expect, test } from './support/test';

const told = (page: Page) => page.getByTestId('score-told');

/** Lays a score beside the part that is worked on, from a file, and waits until the page shows it. */
async function layScore(page: Page, file: string | { name: string; mimeType: string; buffer: Buffer }) {
  await page.getByRole('link', { name: 'Score', exact: true }).click();
  await page.getByLabel('A written score, MusicXML or MIDI').setInputFiles(file);
  await shown(page);
}

async function shown(page: Page) {
  await expect(told(page)).toBeVisible();
  await expect(page.getByTestId('score')).toHaveAttribute('data-busy', 'false');
  await expect(page.locator('.score section').first()).toHaveAttribute('data-drawn', 'true');
}

test('a score that is dropped lights the page up; one button cleans to it, as the command line does', async ({
  page,
}, testInfo) => {
  await openDemoFile(page, 'ferry-fog-signal.mid');
  await page.getByRole('link', { name: 'Score', exact: true }).click();
  const bytes = [...readFileSync(demoPath('ferry-fog-signal.musicxml'))];
  const dropped = await page.evaluateHandle((content) => {
    const transfer = new DataTransfer();
    transfer.items.add(new File([Uint8Array.from(content)], 'fog.musicxml'));
    return transfer;
  }, bytes);
  await page.dispatchEvent('[data-testid=score]', 'drop', { dataTransfer: dropped });
  await shown(page);
  await expect(told(page)).toHaveText(/^56 of 56 notes right, 0 wrong, 0 missing, 0 extra\./);
  await expect(page.locator('g.note.right').first()).toBeAttached();
  expect(await page.locator('g.played .late, g.played .early').count()).toBeGreaterThan(10);
  await page.getByRole('button', { name: 'Clean to the score' }).click();
  await expect(told(page)).toContainText('Typically 0 ms from the written place');
  // What was played is still there to be looked at.
  await page.getByRole('radio', { name: 'as played' }).click();
  await expect(told(page)).toContainText('ms from the tempo around');
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await settled(page);
  await page
    .getByRole('button', { name: /^To the score/ })
    .first()
    .click();
  await page.getByRole('radio', { name: 'together' }).click();
  await settled(page);
  const out = testInfo.outputPath('followed.mid');
  execFileSync(process.execPath, [
    path.resolve('cli/bin/ordle.mjs'),
    ...['follow', demoPath('ferry-fog-signal.mid'), '--score', demoPath('ferry-fog-signal.musicxml')],
    ...['--apply', out],
  ]);
  const { peerNotes } = await import('./support/app');
  expect(await exportedNotes(page)).toEqual(peerNotes(readFileSync(out)));
  // All of it is undone, and comes back with a reload.
  await page.keyboard.press('Control+z');
  await expect(undo(page)).toContainText('Clean to the score');
  await expect(page.getByText('saved')).toBeVisible();
  await page.reload();
  await page.getByRole('link', { name: 'Score', exact: true }).click();
  await shown(page);
  await expect(told(page)).toContainText('56 of 56 notes right');
});

test('wrong, missing and extra notes are put right one by one or all at once', async ({ page }) => {
  await openDemo(page);
  await layScore(page, demoPath('ferry-marimba.musicxml'));
  await expect(told(page)).toHaveText(/8 missing, 9 extra/);
  await expect(page.locator('g.note.missing')).not.toHaveCount(0);
  await expect(page.locator('g.played .extra')).not.toHaveCount(0);
  // By key from fault to fault, and from note to note.
  await page.keyboard.press('u');
  const pointed = page.locator('g.note.pointed');
  await expect(pointed).toHaveCount(1);
  const first = await pointed.getAttribute('id');
  await page.keyboard.press('u');
  await expect(pointed).not.toHaveAttribute('id', first ?? '');
  await page.keyboard.press('Shift+U');
  await expect(pointed).toHaveAttribute('id', first ?? '');
  // The strip over the page leads to its last bar.
  const strip = page.getByTestId('page-strip');
  await expect(strip).toHaveAttribute('aria-label', /^24 bars, 1\d with wrong, missing or extra notes$/);
  const box = await strip.boundingBox();
  if (!box) throw new Error('no strip');
  await page.mouse.click(box.x + box.width - 4, box.y + 10);
  await expect(page.locator('.score g.measure').last()).toBeInViewport();
  const selected = page.locator('g.note.chosen');
  const before = await selected.getAttribute('id');
  await page.getByRole('region', { name: 'The written page' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(selected).not.toHaveAttribute('id', before ?? '');
  await page.keyboard.press('ArrowLeft');
  await expect(selected).toHaveAttribute('id', before ?? '');
  await page.getByText('17 wrong, missing or extra notes').click();
  await page.getByRole('button', { name: 'Put it in' }).first().click();
  await expect(told(page)).toHaveText(/7 missing, 9 extra/);
  await page.getByRole('button', { name: 'Fix all' }).click();
  await expect(told(page)).toHaveText(/^324 of 324 notes right, 0 wrong, 0 missing, 0 extra/);
  // Readings tell it in figures, and a player in a report.
  await page.getByRole('link', { name: 'Readings', exact: true }).click();
  await page.getByRole('button', { name: 'By the score' }).click();
  const figures = page.getByTestId('by-score');
  await expect(figures.getByRole('row', { name: /^played right/ })).toContainText('316 of 324324 of 324');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save a report for the player' }).click(),
  ]);
  const report = readFileSync(await download.path(), 'utf8');
  expect(report).toContain('316 of 324 notes were played right: 0 wrong notes, 8 missing, 9 extra.');
  expect(report.match(/is written in bar \d+ of the score and was not played/g)).toHaveLength(8);
  // Takes are counted by it too.
  await page.getByRole('link', { name: 'Takes', exact: true }).click();
  await expect(page.getByText(/\d+ missing/).first()).toBeVisible();
  await page.getByRole('link', { name: 'Score', exact: true }).click();
  await page.getByRole('button', { name: 'More for the score' }).click();
  await page.getByRole('menuitem', { name: 'Take the score away' }).click();
  await expect(page.getByRole('button', { name: /Lay a score beside it/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(told(page)).toBeVisible();
});

/** Eighths of eight bars, no two bars alike; some bars of them one after the other. */
const TUNE = Array.from({ length: 64 }, (_, at): PlainNote => [
  at * 240,
  at * 240 + 200,
  60 + ((at * 7) % 19),
  80,
]);
const barsInRow = (numbers: readonly number[]) =>
  numbers.flatMap((number, place) =>
    TUNE.slice((number - 1) * 8, number * 8).map(([start, end, pitch, velocity]): PlainNote => {
      const by = (place - number + 1) * 1920;
      return [start + by, end + by, pitch, velocity];
    }),
  );
const midi = (name: string, notes: PlainNote[]) => ({ name, bytes: writeMidi(fileOfNotes(notes)) });

test('a repeat and a cut are told and shown, and what a person says of a bar holds', async ({ page }) => {
  await page.goto('/');
  await bringIn(page, [midi('again.mid', barsInRow([1, 2, 3, 4, 3, 4, 6, 7, 8]))]);
  await page.waitForURL(/clean-up/);
  const { name, bytes } = midi('tune.mid', TUNE);
  await layScore(page, { name, mimeType: 'audio/midi', buffer: Buffer.from(bytes) });
  const list = page.getByRole('list', { name: 'Repeats and cuts' });
  await expect(list.getByRole('button')).toHaveText([
    /0:08.0 from bar 4 to bar 3/,
    /0:12.0 from bar 4 to bar 6/,
  ]);
  await expect(page.locator('g.played .goes-on')).toHaveText(['bar 3, after bar 4', 'bar 6, after bar 4']);
  await expect(told(page)).toHaveText(/^72 of 72 notes right/);
  // The fifth bar begins with the 33rd note; it is said to be bar 8, and is followed so.
  const head = await page.locator('g.note').nth(32).locator('g.notehead').boundingBox();
  if (!head) throw new Error('no head');
  await page.mouse.click(head.x + head.width / 2, head.y + head.height / 2);
  const bar = page.getByLabel('Bar of the score');
  await expect(bar).toHaveValue('3');
  await bar.fill('8');
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Say so' }).click();
  await expect(page.getByText('0:08.0 is bar 8, as you said')).toBeVisible();
  await expect(list.getByRole('button').first()).toHaveText(/0:08.0 from bar 4 to bar 8/);
  await page.getByRole('button', { name: 'forget' }).click();
  await expect(list.getByRole('button').first()).toHaveText(/0:08.0 from bar 4 to bar 3/);
});

test('a written score that is dropped anywhere else may be laid beside the part', async ({ page }) => {
  await openDemoFile(page, 'ferry-fog-signal.mid');
  await page
    .getByLabel('Standard MIDI Files or session files to import')
    .setInputFiles(demoPath('ferry-fog-signal.musicxml'));
  await page.getByRole('button', { name: 'Lay it beside Fog signal as its written score' }).click();
  await page.waitForURL(/score$/);
  await shown(page);
  await expect(told(page)).toContainText('56 of 56 notes right');
  await expect(undo(page)).toContainText('Lay “Fog signal” beside a part');
});

test('the tempo map of free playing is the score’s, and what is no score of it is refused', async ({
  page,
}) => {
  await openDemoFile(page, 'ferry-fog-signal.mid');
  await page.getByRole('link', { name: 'Score', exact: true }).click();
  await page
    .getByLabel('A written score, MusicXML or MIDI')
    .setInputFiles(demoPath('ferry-marimba.musicxml'));
  await expect(page.getByText(/Hardly anything of/)).toBeVisible();
  await layScore(page, demoPath('ferry-fog-signal.musicxml'));
  await page.getByRole('link', { name: 'Tempo', exact: true }).click();
  await page.getByRole('button', { name: 'Take the beats from the score' }).click();
  await expect(undo(page)).toContainText('Beats from the score');
  await page.getByRole('button', { name: 'Set the tempo map from the performance' }).click();
  await expect(undo(page)).toContainText('Tempo map from');
  await page.getByRole('link', { name: 'Score', exact: true }).click();
  await shown(page);
  // Under its own tempo every note lies by the bars it is written in.
  await expect(told(page)).toContainText('from the written place');
});
