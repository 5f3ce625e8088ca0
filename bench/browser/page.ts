import { writeFileSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { writeMidi } from '@ordle/core';
import { largeFile } from '../corpus';

export const PORT = 4327;
export const BASE = `http://127.0.0.1:${PORT}`;

/** What the canvases tell of themselves for measuring. */
export interface EditorHandle {
  paintTimes(): number[];
  layout(): { overview: number; ruler: number; spans: number };
  onPainted(listener: () => void): void;
  firstNote(): { start: number; pitch: number } | null;
  placeOfRow(row: number): { x: number; y: number };
}

export const quantile = (values: number[], share: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))] ?? NaN;
export const ms = (value: number) => `${value.toFixed(1)} ms`;

export async function untilServed() {
  for (let attempt = 0; attempt < 50; attempt++) {
    const answer = await fetch(`${BASE}/health`).catch(() => null);
    if (answer?.ok) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('The server did not start; run "npm run build" first.');
}

/** Opens a file of so many notes in the app. */
export async function bring(page: Page, name: string, notes: number, content = largeFile(notes)) {
  const folder = path.resolve('.cache/bench');
  mkdirSync(folder, { recursive: true });
  writeFileSync(path.join(folder, name), writeMidi(content));
  await page.goto(BASE);
  await page.setInputFiles('input[type=file]', path.join(folder, name));
  await notesShown(page, new RegExp(`: ${notes} notes`));
}

export async function notesShown(page: Page, label: RegExp) {
  await page.waitForFunction(
    (source) =>
      new RegExp(source).test(document.querySelector('[data-testid=roll]')?.getAttribute('aria-label') ?? ''),
    label.source,
    { timeout: 120000 },
  );
}

export const paintTimes = (page: Page) =>
  page
    .getByTestId('roll')
    .evaluate((canvas) =>
      (canvas as unknown as { ordleEditor: EditorHandle }).ordleEditor.paintTimes().slice(),
    );

/** Begins to write down how long each frame takes, from now on. */
export const recordFrames = (page: Page) =>
  page.evaluate(() => {
    const frames: number[] = [];
    let last = performance.now();
    const tick = () => {
      const now = performance.now();
      frames.push(now - last);
      last = now;
      requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
    Object.assign(window, { ordleFrames: frames });
  });

/** How long the frames took since, in ms. */
export const framesOf = (page: Page) =>
  page.evaluate(() => (window as unknown as { ordleFrames: number[] }).ordleFrames.slice());
