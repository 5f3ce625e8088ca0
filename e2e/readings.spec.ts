import { expect, test, type Page } from './support/test';
import { parseMidi } from 'midi-file';
import { readFile } from 'node:fs/promises';
import { boxOf, bringIn, exportFile, openDemo, saved, settled } from './support/app';
import { undo } from './support/parts';
import { note, smallFile } from './support/smallFiles';

/**
 * Eighths at 120 bpm, each 20 ms late (10 ticks), of which one is struck again 10 ms later, more softly, and one
 * hangs for 24 s.
 */
const BEAT = 480;
const faulty = () =>
  smallFile('quay.mid', {
    keys: Array.from({ length: 64 }, (_, at) => {
      const start = at * (BEAT / 2) + 10;
      const pitch = 60 + [0, 2, 4, 5, 7, 5, 4, 2][at % 8];
      return note(start, at === 20 ? start + 48 * BEAT : start + 180, at === 20 ? 84 : pitch, 80);
    })
      .concat([note(12 * (BEAT / 2) + 20, 12 * (BEAT / 2) + 120, 60 + 7, 30)])
      .flat(),
  });

async function toReadings(page: Page) {
  await page.getByRole('link', { name: 'Readings', exact: true }).click();
  await expect(page.getByTestId('readings')).toHaveAttribute('data-read', 'true');
}

const rows = (page: Page) =>
  page.getByRole('list', { name: 'Findings in order of time' }).getByRole('listitem');

test('what is wrong is listed with its place, shown, mended and dismissed; the export is without it', async ({
  page,
}) => {
  await page.goto('/');
  await bringIn(page, [faulty()]);
  await settled(page);
  await toReadings(page);
  await expect(rows(page)).toHaveCount(2);
  await expect(rows(page).nth(0)).toContainText('double note');
  await expect(rows(page).nth(1)).toContainText('stuck note');
  await expect(rows(page).nth(1)).toContainText('3.3.010');
  // 64 notes are 10 ticks late, one 20: 10.58 ms on the average.
  const cells = page.getByTestId('readings-table').getByRole('row').nth(1);
  await expect(cells).toContainText('late 11 ms');
  // One is let be, and listed again.
  await rows(page).nth(0).getByRole('button', { name: 'Dismiss' }).click();
  await expect(rows(page)).toHaveCount(1);
  await expect(undo(page)).toContainText('Dismiss a finding');
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('readings')).toHaveAttribute('data-read', 'true');
  await expect(rows(page)).toHaveCount(1);
  await page.getByRole('button', { name: 'List the dismissed again' }).click();
  await expect(rows(page)).toHaveCount(2);
  // One is mended, taken back, and both are.
  await rows(page).nth(0).getByRole('button', { name: 'Remove' }).click();
  await expect(rows(page)).toHaveCount(1);
  await page.keyboard.press('Control+z');
  await expect(rows(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Fix these 2' }).click();
  await expect(page.getByTestId('findings')).toContainText('Nothing was found');
  await expect(undo(page)).toContainText('Mend 2 findings');
  // The grid that explains the playing is chosen; the notes come to lie on it.
  await page.getByRole('button', { name: 'Quantize to 1/8', exact: true }).click();
  await expect(cells).toContainText('on the line');
  await expect(cells).toContainText('was late');
  await page.getByRole('link', { name: 'Export', exact: true }).click();
  const starts: number[] = [];
  let longest = 0;
  for (const track of parseMidi(await exportFile(page)).tracks) {
    let at = 0;
    const open = new Map<number, number>();
    for (const event of track) {
      at += event.deltaTime;
      if (event.type === 'noteOn' && event.velocity > 0) {
        starts.push(at);
        open.set(event.noteNumber, at);
      } else if (event.type === 'noteOff' || event.type === 'noteOn')
        longest = Math.max(longest, at - (open.get(event.noteNumber) ?? at));
    }
  }
  expect(starts).toHaveLength(64);
  expect(longest).toBeLessThan(BEAT);
  expect(starts.map((start) => start % (BEAT / 2)).every((rest) => rest === 0)).toBe(true);
});

/**
 * Eighths at 120 bpm in C: those on the beats on time, those between them 20.8 ms late (20 ticks), the second bar all
 * on time.
 */
const uneven = () =>
  smallFile('pier.mid', {
    keys: Array.from({ length: 64 }, (_, at) => {
      const late = at % 2 === 1 && Math.floor(at / 8) !== 1 ? 20 : 0;
      return note(at * (BEAT / 2) + late, at * (BEAT / 2) + 180, 60 + [0, 4, 7][at % 3], 70 + (at % 8));
    }).flat(),
  });

test('charts are read for some bars, as a table and a file, and lead to their notes', async ({ page }) => {
  await page.goto('/');
  await bringIn(page, [uneven()]);
  await settled(page);
  await toReadings(page);
  await page.getByRole('button', { name: /^By place in the bar of / }).click();
  await expect(page.getByTestId('chart')).toHaveAttribute('data-kind', 'by-place');
  await page.getByRole('radio', { name: 'table' }).click();
  const row = (place: string) =>
    page
      .getByTestId('chart-table')
      .getByRole('row')
      .filter({ has: page.getByRole('rowheader', { name: place, exact: true }) });
  // Seven bars of eight are late there: 7/8 of 20.83 ms.
  await expect(row('1.5')).toContainText('18.2');
  await expect(row('1')).toContainText('0.0');
  await page.getByRole('radio', { name: 'bars', exact: true }).click();
  await page.getByLabel('First bar').fill('2');
  await page.keyboard.press('Enter');
  await page.getByLabel('Last bar').fill('2');
  await page.keyboard.press('Enter');
  await expect(row('1.5')).not.toContainText('18.2');
  await expect(page.getByTestId('readings-table').getByRole('row').nth(1)).toContainText('8');
  await page.getByRole('radio', { name: 'whole parts' }).click();
  // The figures as a file: a header with units, and a line a bin.
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save ▾' }).click();
  await page.getByRole('menuitem', { name: /CSV/ }).click();
  const file = await download;
  expect(file.suggestedFilename()).toMatch(/by place in the bar\.csv$/);
  const lines = (await readFile((await file.path()) ?? '', 'utf8')).trim().split('\r\n');
  expect(lines).toHaveLength(9);
  expect(lines[0]).toContain('late, ms');
  expect(lines[2].split(',').slice(0, 2)).toEqual(['1.5', '2']);
  expect(Number(lines[2].split(',')[2])).toBeCloseTo(18.23, 1);
  // The drawing stands alone: it names no colour of the page.
  await page.getByRole('radio', { name: 'chart' }).click();
  await expect(page.getByTestId('chart').locator('svg').first()).toBeVisible();
  const drawing = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save ▾' }).click();
  await page.getByRole('menuitem', { name: /SVG/ }).click();
  const svg = await readFile((await (await drawing).path()) ?? '', 'utf8');
  expect(svg).toMatch(/^<svg[^>]* xmlns="http:\/\/www.w3.org\/2000\/svg"/);
  expect(svg.includes('var(--')).toBe(false);
  // A bin of the chart is clicked: the eight notes of its place are selected on the Bench.
  const box = await boxOf(page.getByTestId('chart').locator('svg').first());
  await page.mouse.move(box.x + box.width * 0.2, box.y + box.height / 2);
  await page.mouse.click(box.x + box.width * 0.2, box.y + box.height / 2);
  await settled(page);
  await expect(page.getByTestId('selected')).toContainText('8 notes');
});

test('chords, a comparison and the report: seen, handed on, and led to from the Bench and back', async ({
  page,
}) => {
  await openDemo(page);
  await toReadings(page);
  await page.getByRole('button', { name: /^Reed organ/ }).click();
  await page.getByRole('button', { name: 'Chords and key' }).click();
  await page.getByRole('radio', { name: 'this part' }).click();
  await expect(page.getByTestId('keys')).toContainText('minor');
  // Written as Dm Bb F C: one a bar.
  const bar = (number: number) =>
    page
      .getByTestId('chords')
      .getByRole('listitem')
      .nth(number - 1);
  await expect(bar(1)).toContainText('Dm');
  await expect(bar(4)).toContainText('C');
  const csv = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save CSV' }).click();
  const lines = (await readFile((await (await csv).path()) ?? '', 'utf8')).split('\r\n');
  expect(lines[0]).toBe('bar,beat,tick,lengthTicks,chord,key,fit');
  expect(lines[1]).toMatch(/^1,1,0,\d+,Dm,/);
  // The pedal by these chords is a step like any other.
  await page.getByRole('button', { name: /^Pedal Reed organ/ }).click();
  await expect(undo(page)).toContainText('Pedal Reed');
  await page.keyboard.press('Control+z');
  // A part beside one of its takes: told in figures that add up, and in a page of its own.
  await page.getByRole('button', { name: /^Marimba/ }).click();
  await page.getByRole('button', { name: 'Compare', exact: true }).click();
  await expect(page.getByTestId('compared')).toContainText('0 missing, 0 extra');
  await page.getByLabel('Compared with').selectOption({ label: 'take: Take 2' });
  await expect(page.getByTestId('compared')).not.toContainText('0 missing, 0 extra');
  const counts = [
    ...((await page.getByTestId('compared').textContent()) ?? '').matchAll(
      /(\d+) (the same|moved|played otherwise|extra)/g,
    ),
  ];
  expect(counts.reduce((sum, [, count]) => sum + Number(count), 0)).toBe(325);
  const compared = page.waitForEvent('download');
  await page.getByRole('region', { name: 'Compare' }).getByRole('button', { name: 'Save report' }).click();
  expect(await readFile((await (await compared).path()) ?? '', 'utf8')).toContain(
    '<h1>Marimba as cleaned</h1>',
  );
  await page.getByRole('list', { name: 'Differences' }).getByRole('button', { name: 'Show' }).first().click();
  await settled(page);
  await expect(page.getByTestId('selected')).toContainText('1 note');
  // The report of the session, opened as a page: every part with its figures.
  await toReadings(page);
  const report = page.waitForEvent('download');
  await page.getByRole('main').locator('> header').getByRole('button', { name: 'Save report' }).click();
  const html = await readFile((await (await report).path()) ?? '', 'utf8');
  await page.setContent(html);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Ferry crossing');
  await expect(page.getByRole('rowheader', { name: 'Upright bass' })).toBeVisible();
  await expect(page.locator('svg')).toHaveCount(18);
});
