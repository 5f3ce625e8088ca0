import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { bestMatch, createTimeline, writeMidi } from '@ordle/core';
import type { BenchRow } from '../core';
import { strokesFile } from '../corpus';
import { BASE, ms, notesShown, quantile } from './page';

const FOLDER = path.resolve('.cache/bench');
const BAR = 1920;

interface TakesHandle {
  placeOfCell(cell: { row: number; bar: number }): { x: number; y: number };
  paintTimes(): number[];
}

/** Twelve takes of 200 bars and 5,000 notes: a cell is chosen, and the bars are scrolled. */
export async function takes(page: Page): Promise<BenchRow[]> {
  mkdirSync(FOLDER, { recursive: true });
  const files = Array.from({ length: 12 }, (_, take) => {
    const file = path.join(FOLDER, `take-${take + 1}.mid`);
    writeFileSync(file, writeMidi(strokesFile(1, 5000, 200 * BAR, take)));
    return file;
  });
  await page.goto(BASE);
  await page.setInputFiles('input[type=file]', files[0]);
  await notesShown(page, /: 5000 notes/);
  await page.getByRole('link', { name: 'Takes', exact: true }).click();
  await page.getByLabel('Files with takes').setInputFiles(files.slice(1));
  await page.getByText('11 takes brought in.').waitFor();
  await page.getByText('12 takes, 200 bars').waitFor();
  await page.getByRole('button', { name: 'Propose' }).click();
  await page.getByRole('button', { name: 'Accept' }).click();
  await page.waitForTimeout(1500);
  const canvas = page.getByTestId('takes');
  const box = await canvas.boundingBox();
  if (!box) throw new Error('no takes');
  // From the release of the button to the first painting with the new notes of the part.
  const times: number[] = [];
  for (let turn = 0; turn < 24; turn++) {
    const place = await canvas.evaluate(
      (element, cell) => (element as unknown as { ordleEditor: TakesHandle }).ordleEditor.placeOfCell(cell),
      { row: turn % 4, bar: turn % 6 },
    );
    await page.evaluate(() => {
      const told = document.querySelector('[data-testid=assembled]');
      const measured = { begun: 0, done: 0 };
      Object.assign(window, { ordleChoice: measured });
      window.addEventListener('pointerup', () => (measured.begun ||= performance.now()), {
        capture: true,
        once: true,
      });
      // What is told beside the canvas changes in the same frame as what is painted.
      const watch = new MutationObserver(() => {
        if (!measured.begun) return;
        watch.disconnect();
        requestAnimationFrame(() => setTimeout(() => (measured.done = performance.now() - measured.begun)));
      });
      if (told) watch.observe(told, { subtree: true, childList: true, characterData: true });
    });
    await page.mouse.click(box.x + place.x, box.y + place.y);
    await page.waitForTimeout(400);
    const done = await page.evaluate(
      () => (window as unknown as { ordleChoice: { done: number } }).ordleChoice.done,
    );
    // A bar that had that take already changes nothing.
    if (done > 0) times.push(done);
  }
  const paintTimes = () =>
    canvas.evaluate((element) =>
      (element as unknown as { ordleEditor: TakesHandle }).ordleEditor.paintTimes().slice(),
    );
  const before = (await paintTimes()).length;
  await page.mouse.move(box.x + 300, box.y + 200);
  for (let turn = 0; turn < 90; turn++) {
    await page.mouse.wheel(turn < 45 ? 160 : -160, turn % 9 === 0 ? 40 : 0);
    await page.waitForTimeout(16);
  }
  await page.getByRole('button', { name: 'all bars' }).click();
  await page.waitForTimeout(300);
  const painted = quantile((await paintTimes()).slice(before), 0.95);
  const chosen = quantile(times, 0.5);
  return [
    {
      work: `choose one of 12 takes x 200 bars, to repainted, median of ${times.length}`,
      ours: ms(chosen),
      peer: '',
      reach: '50 ms',
      met: chosen <= 50,
    },
    {
      work: 'scroll 12 takes x 200 bars, painting, p95',
      ours: ms(painted),
      peer: '',
      reach: '8 ms',
      met: painted <= 8,
    },
  ];
}

/** A hundred parts of 500 bars: from the click to the painted place. */
export async function parts(page: Page): Promise<BenchRow[]> {
  mkdirSync(FOLDER, { recursive: true });
  const file = path.join(FOLDER, 'parts.mid');
  writeFileSync(file, writeMidi(strokesFile(100, 1000, 500 * BAR, 3)));
  await page.goto(BASE);
  await page.setInputFiles('input[type=file]', file);
  await notesShown(page, /: 1000 notes/);
  await page.waitForTimeout(2000);
  const begun = await page.evaluate(() => performance.now());
  await page.getByRole('link', { name: 'Parts', exact: true }).click();
  await page.locator('[data-testid=parts][data-read=true]').waitFor();
  const time = (await page.evaluate(() => performance.now())) - begun;
  return [
    {
      work: 'open the parts: 100 x 500 bars, 100,000 notes',
      ours: ms(time),
      peer: '',
      reach: '1000 ms',
      met: time <= 1000,
    },
  ];
}

/** Lines up two takes of ten minutes by their strokes. */
export function benchAlignment(): BenchRow[] {
  const { tracks, division } = strokesFile(1, 5000, 300 * BAR, 1);
  const { events } = tracks[1];
  const rows = Array.from(events.tick.keys()).filter((row) => (events.status[row] & 0xf0) === 0x90);
  const take = {
    start: Float64Array.from(rows, (row) => events.tick[row]),
    pitch: Uint8Array.from(rows, (row) => events.data1[row]),
  };
  const later = { ...take, start: take.start.map((tick) => tick + 1234) };
  const timeline = createTimeline(division, [], []);
  const begun = performance.now();
  const match = bestMatch(take, later, timeline);
  const time = performance.now() - begun;
  const isFound = match !== null && Math.abs(match.seconds - 1234 / 960) < 0.001;
  return [
    {
      work: 'line up two takes of ten minutes, 5,000 notes each',
      ours: isFound ? ms(time) : 'not found',
      peer: '',
      reach: '1000 ms',
      met: isFound && time <= 1000,
    },
  ];
}
