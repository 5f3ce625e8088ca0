import { spawn } from 'node:child_process';
import { chromium, type Page } from '@playwright/test';
import { wholeChromium } from '../../scripts/chromium.mjs';
import type { BenchRow } from '../core';
import { handEdit, marqueeAndMove, sliderDrag } from './gestures';
import { PORT, untilServed } from './page';
import { firstPaint, memory, panAndZoom, panLane } from './painting';
import { parts, takes } from './places';
import { controllerFlood, lostTab, practiceAgainstTake } from './recording';

const ARGUMENTS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--autoplay-policy=no-user-gesture-required',
];

const MEASURES: Record<string, (page: Page) => Promise<BenchRow[]>> = {
  'first paint': firstPaint,
  'pan the roll': panAndZoom,
  'pan a lane': panLane,
  'box and drag': marqueeAndMove,
  slider: sliderDrag,
  'hand edit': handEdit,
  takes,
  parts,
  'recording, practice': practiceAgainstTake,
  'recording, controllers': controllerFlood,
  'recording, lost': lostTab,
  memory,
};

/**
 * Measures the built app in real Chromium: painting, gestures, the first paint, memory; only what has `only` in its
 * name.
 */
export async function benchBrowser(only = ''): Promise<BenchRow[]> {
  const server = spawn(process.execPath, ['server/dist/server.js', '--demo', '--port', String(PORT)], {
    stdio: 'ignore',
  });
  const browser = await chromium.launch({
    executablePath: wholeChromium(),
    args: ARGUMENTS,
  });
  try {
    await untilServed();
    const rows: BenchRow[] = [];
    const open = async () => (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    for (const [name, measure] of Object.entries(MEASURES))
      if (name.includes(only)) rows.push(...(await measure(await open())));
    return rows;
  } finally {
    await browser.close();
    server.kill();
  }
}
