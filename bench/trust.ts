import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { midiFilesBelow } from '../core/testing/files';
import { fuzz } from '../core/testing/fuzz';
import { wholeChromium } from '../scripts/chromium.mjs';
import type { BenchRow } from './core';

/** Damaged files a second through reading, cleaning and writing, and the slowest of them. */
export function benchFuzz(): BenchRow[] {
  const files = midiFilesBelow('app/public/demo').map((file) => new Uint8Array(readFileSync(file)));
  const count = 2000;
  const begun = performance.now();
  const { done, fault, slowest } = fuzz(files, count, 7);
  const aSecond = (done / (performance.now() - begun)) * 1000;
  return [
    {
      work: `damaged files read, cleaned and written, of ${count}`,
      ours: `${aSecond.toFixed(0)} a second`,
      peer: fault ?? 'no fault',
      reach: 'no fault',
      met: fault === null,
    },
    {
      work: 'the slowest of them',
      ours: `${slowest.ms.toFixed(0)} ms`,
      peer: '',
      reach: '1000 ms',
      met: slowest.ms < 1000,
    },
  ];
}

const KILLS = 30;
const PORT = 4328;
const BASE = `http://127.0.0.1:${PORT}`;

/** Kills the browser again and again in the middle of the work, and looks what was kept. */
export async function benchKills(): Promise<BenchRow[]> {
  const server = spawn(process.execPath, ['server/dist/server.js', '--port', String(PORT)], {
    stdio: 'ignore',
  });
  const profile = mkdtempSync(path.join(tmpdir(), 'ordle-kill-'));
  const open = () =>
    chromium.launchPersistentContext(profile, {
      executablePath: wholeChromium(),
      viewport: { width: 1280, height: 800 },
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-sync'],
    });
  let largest = 0;
  let broken = 0;
  try {
    await new Promise((resolve) => setTimeout(resolve, 1500));
    const first = await open();
    const made = await first.newPage();
    await made.goto(BASE);
    await made.getByRole('button', { name: 'Open the demo' }).click();
    await made.waitForSelector('[data-state=saved]');
    const address = made.url();
    await first.close();
    for (let kill = 0; kill < KILLS; kill++) {
      const context = await open();
      const page = await context.newPage();
      await page.goto(address);
      await page.waitForSelector('[data-state=saved]');
      const { edits, shownAsSaved, killedAt } = await workUntilKilled(page, profile, 400 + ((kill * 619) % 2400));
      await context.close().catch(() => undefined);
      const again = await open();
      const looking = await again.newPage();
      await looking.goto(address);
      const stored = await looking.getByLabel('Name of the session').inputValue();
      await again.close();
      const kept = edits.findLastIndex(({ name }) => name === stored);
      const firstLost = edits[kept + 1];
      if (firstLost) largest = Math.max(largest, killedAt - firstLost.at);
      if (shownAsSaved > kept) broken++;
    }
  } finally {
    server.kill();
    spawnSync('pkill', ['-9', '-f', profile]);
    rmSync(profile, { recursive: true, force: true });
  }
  return [
    {
      work: `largest loss over ${KILLS} kills of the browser`,
      ours: `${largest.toFixed(0)} ms of work`,
      peer: '',
      reach: '1000 ms',
      met: largest <= 1000,
    },
    {
      work: 'of them with a loss of what was shown as saved',
      ours: String(broken),
      peer: '',
      reach: '0',
      met: broken === 0,
    },
  ];
} // prettier-ignore

interface KilledWork {
  /** Names given, with the times at which they were. */
  edits: { name: string; at: number }[];
  /** Index of the last of them that was shown as saved; -1 for none. */
  shownAsSaved: number;
  killedAt: number;
}

/** Renames the session over and over, until the browser is killed from outside. */
async function workUntilKilled(page: Page, profile: string, afterMs: number): Promise<KilledWork> {
  const edits: KilledWork['edits'] = [];
  let shownAsSaved = -1;
  let killedAt = Infinity;
  const name = page.getByLabel('Name of the session');
  const killed = new Promise<void>((resolve) =>
    setTimeout(() => {
      killedAt = performance.now();
      spawnSync('pkill', ['-9', '-f', profile]);
      resolve();
    }, afterMs),
  );
  const working = async () => {
    for (let count = 0; performance.now() < killedAt; count++) {
      const next = `Ferry ${Math.round(performance.timeOrigin + performance.now())} ${count}`;
      await name.fill(next);
      await name.press('Enter');
      edits.push({ name: next, at: performance.now() });
      const isSaved = (await page.getByTestId('saving').getAttribute('data-state')) === 'saved';
      if (isSaved && (await name.inputValue()) === next) shownAsSaved = edits.length - 1;
      // Now in quick succession, now with a pause in which everything can be saved.
      await page.waitForTimeout(count % 5 === 4 ? 450 : 60);
      if (count % 5 === 4 && (await page.getByTestId('saving').getAttribute('data-state')) === 'saved')
        shownAsSaved = edits.length - 1;
    }
  };
  await Promise.all([killed, working().catch(() => undefined)]);
  return { edits, shownAsSaved, killedAt };
}
