import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test, type Page } from './support/test';
import { bringIn, demoPath, exportFile, peerNotes, saved } from './support/app';
import { undo } from './support/parts';
import { note, smallFile } from './support/smallFiles';

const BEAT = 480;
/** Numbers between -1 and 1 that look like chance and are the same each time. */
const chance = (at: number, salt: number) => (((at * 7919 + salt * 104729) % 1009) / 1009) * 2 - 1;

/** Eighths at 120 bpm, late and loose by some ticks. */
const eighths = (late: number, loose: number, pitch: number, channel: number) =>
  Array.from({ length: 96 }, (_, at) => {
    const start = Math.round(2 * BEAT + (at * BEAT) / 2 + late + loose * chance(at, channel + 1));
    return note(start, start + 180, pitch + (at % 5), 80, channel);
  }).flat();

const recorded = () =>
  smallFile('quay.mid', {
    Keys: eighths(20, 12, 60, 0),
    Bass: eighths(26, 14, 36, 1),
    Bells: eighths(-9, 10, 80, 2),
  });

/** Beats in a time of their own, of some 66 a minute, in two parts. */
const free = () => {
  let at = 700;
  const [right, left]: ReturnType<typeof note>[] = [[], []];
  for (let beat = 0; beat < 88; beat++) {
    const length = (960 * 60 * (1 + 0.12 * Math.sin(beat / 7))) / 66;
    const start = (share: number, salt: number) => Math.round(at + share * length + 9 * chance(beat, salt));
    right.push(...note(start(0, 1), start(0, 1) + 300, 72 + (beat % 5), beat % 4 === 0 ? 100 : 74));
    right.push(...note(start(0.5, 2), start(0.5, 2) + 200, 67 + (beat % 3), 60));
    if (beat % 2 === 0) left.push(...note(start(0, 3), start(0, 3) + 700, 48 + (beat % 7), 80, 1));
    at += length;
  }
  return smallFile('sketch.mid', { Right: right, Left: left });
};

/** What the command line makes of a file by its own suggestion. */
function suggestedByCommandLine({ name, bytes }: { name: string; bytes: Uint8Array }) {
  const folder = mkdtempSync(path.join(tmpdir(), 'ordle-e2e-'));
  try {
    const [from, to] = [path.join(folder, name), path.join(folder, `done-${name}`)];
    writeFileSync(from, bytes);
    execFileSync(process.execPath, ['cli/bin/ordle.mjs', 'suggest', from, '--apply', to], {
      cwd: path.resolve(import.meta.dirname, '..'),
    });
    return peerNotes(readFileSync(to));
  } finally {
    rmSync(folder, { recursive: true });
  }
}

const sheet = (page: Page) => page.getByTestId('clean-up');
const lines = (page: Page) => page.getByTestId('clean-up-part');

/** Picks a file as a person does: by the button and the browser's own dialog. */
async function pick(page: Page, { name, bytes }: { name: string; bytes: Uint8Array }) {
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Import files' }).click(),
  ]);
  await chooser.setFiles({ name, mimeType: 'audio/midi', buffer: Buffer.from(bytes) });
}

test('a recording of three parts is cleaned and exported in four clicks, to what the command line makes of it', async ({
  page,
}) => {
  await page.goto('/');
  const file = recorded();
  await pick(page, file);
  await expect(sheet(page)).toContainText('A recording of three parts, recorded to the click, 120 bpm');
  await expect(lines(page).first()).toContainText(/Nudge −2\d ms: it is 2\d ms late on average/);
  await page.getByRole('button', { name: 'Clean all of it' }).click();
  await expect(page.getByRole('status', { name: 'What was done' })).toContainText(
    '3 parts cleaned, as one action',
  );
  await page.getByRole('link', { name: 'Go on to Export' }).click();
  const notes = peerNotes(await exportFile(page));
  expect(notes).toEqual(suggestedByCommandLine(file));
  // It was one action, and is taken back as one.
  await expect(undo(page)).toContainText('Clean up 3 p');
  await page.keyboard.press('Control+z');
  expect(peerNotes(await exportFile(page))).toEqual(peerNotes(file.bytes));
});

test('a line of the sheet is opened, changed and left out before anything is done', async ({ page }) => {
  await page.goto('/');
  await bringIn(page, [recorded()]);
  const keys = lines(page).nth(0);
  await expect(keys).toContainText('Quantize 1/8, 80 %');
  await keys.getByRole('button', { name: 'Settings for Keys' }).click();
  const before = await keys.getByRole('img').getAttribute('aria-label');
  await keys.getByLabel('Strength, typed').fill('100');
  await page.keyboard.press('Enter');
  await expect(keys).toContainText('Quantize 1/8, 100 %');
  await expect(keys.getByRole('img')).not.toHaveAttribute('aria-label', before ?? '');
  await lines(page).nth(1).getByRole('checkbox').click();
  await page.getByRole('button', { name: 'Clean all of it' }).click();
  await expect(undo(page)).toContainText('Clean up 2 p');
  await page.getByRole('link', { name: 'Go on to Export' }).click();
  const notes = peerNotes(await exportFile(page));
  const starts = (track: number) => notes.filter((each) => each.track === track).map(({ start }) => start);
  expect(starts(1).every((start) => start % 240 === 0)).toBe(true);
  const played = peerNotes(recorded().bytes).filter(({ track }) => track === 2);
  expect(starts(2)).toEqual(played.map(({ start }) => start));
  await saved(page);
  // The same sheet is there again, by its name, from the Bench and by its key; what is in time is left alone.
  await page.getByRole('link', { name: 'Bench' }).click();
  await page.getByRole('button', { name: 'Suggested clean-up' }).click();
  await expect(lines(page).nth(0)).toContainText('puts it in time already');
  await expect(lines(page).nth(1)).toContainText('Quantize');
});

test('the beats of a free recording are agreed to first; then one button does all of it', async ({
  page,
}) => {
  await page.goto('/');
  const file = free();
  await pick(page, file);
  await expect(sheet(page)).toContainText(/A recording of two parts, played freely, about 6\d bpm/);
  const all = page.getByRole('button', { name: 'Clean all of it' });
  await expect(all).toBeDisabled();
  await page.getByRole('button', { name: 'Half as many' }).click();
  await expect(sheet(page)).toContainText(/about 3\d bpm/);
  await page.getByRole('button', { name: 'Twice as many' }).click();
  await expect(sheet(page)).toContainText(/about 6\d bpm/);
  await page.reload();
  await page.getByRole('button', { name: 'Yes, these are the beats' }).click();
  await all.click();
  await expect(undo(page)).toContainText('Clean up');
  await page.getByRole('link', { name: 'Go on to Export' }).click();
  expect(peerNotes(await exportFile(page))).toEqual(suggestedByCommandLine(file));
});

test('files that are takes of one part are seen to be, lined up, and the tightest of them proposed', async ({
  page,
}) => {
  await page.goto('/');
  const names = [1, 2, 3].map((take) => `ferry-marimba-take-${take}.mid`);
  await bringIn(
    page,
    names.map((name) => ({ name, bytes: new Uint8Array(readFileSync(demoPath(name))) })),
  );
  await expect(page.getByTestId('what-are-they')).toContainText('same pitches and length');
  await page.getByRole('button', { name: 'One new session: takes of one part' }).click();
  await expect(page.getByTestId('proposal')).toContainText(/Changes \d+ bars/);
  await expect(page.getByRole('list', { name: 'Takes' }).getByRole('listitem')).toHaveCount(3);
  await expect(page.getByLabel('Slide of ferry-marimba-take-2')).toHaveValue(/^-\d/);
});
