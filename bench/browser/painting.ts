import type { Page } from '@playwright/test';
import type { BenchRow } from '../core';
import { largeLane } from '../corpus';
import { BASE, bring, ms, notesShown, paintTimes, quantile, type EditorHandle } from './page';

/** From an empty cache: navigation to the demo session until its notes are on the canvas. */
export async function firstPaint(page: Page): Promise<BenchRow[]> {
  await page.goto(BASE);
  await page.getByRole('link', { name: 'Ferry crossing' }).click();
  await notesShown(page, /\d+ notes/);
  const client = await page.context().newCDPSession(page);
  await client.send('Network.setCacheDisabled', { cacheDisabled: true });
  const times: number[] = [];
  for (let run = 0; run < 5; run++) {
    await page.reload();
    await page.waitForFunction(() =>
      document
        .querySelector('[data-testid=roll]')
        ?.getAttribute('aria-label')
        ?.match(/: [1-9]\d* notes/),
    );
    times.push(await page.evaluate(() => performance.now()));
  }
  const median = quantile(times, 0.5);
  return [
    {
      work: 'first paint of the demo, notes on the canvas',
      ours: ms(median),
      peer: '',
      reach: '1500 ms',
      met: median < 1500,
    },
  ];
}

/** Pans and zooms by the wheel at a place, 120 turns. */
async function wheelAbout(page: Page, x: number, y: number) {
  await page.mouse.move(x, y);
  for (const [delta, zoom] of [
    [400, false],
    [300, true],
    [500, false],
    [400, true],
    [600, true],
    [700, false],
    [900, true],
    [-800, true],
    [300, false],
    [-900, true],
  ] as const) {
    if (zoom) await page.keyboard.down('Control');
    for (let turn = 0; turn < 12; turn++) {
      await page.mouse.wheel(zoom ? 0 : delta, zoom ? delta / 3 : 0);
      await page.waitForTimeout(16);
    }
    if (zoom) await page.keyboard.up('Control');
  }
}

/** The roll with very many notes, panned and zoomed. */
export async function panAndZoom(page: Page): Promise<BenchRow[]> {
  await bring(page, 'pan.mid', 100_000);
  const box = await page.getByTestId('roll').boundingBox();
  if (!box) throw new Error('no roll');
  const before = (await paintTimes(page)).length;
  await wheelAbout(page, box.x + 400, box.y + 300);
  const times = (await paintTimes(page)).slice(before);
  const p95 = quantile(times, 0.95);
  return [
    {
      work: `pan and zoom 100,000 notes, ${times.length} frames, p95`,
      ours: ms(p95),
      peer: '',
      reach: '8 ms',
      met: p95 <= 8,
    },
  ];
}

/** The lane of a controller with very many points, panned and zoomed: what painting it costs a frame. */
export async function panLane(page: Page): Promise<BenchRow[]> {
  await bring(page, 'lane.mid', 1, largeLane(200_000));
  await page.keyboard.press('Shift+V');
  await page.getByPlaceholder('Number or name').fill('expression');
  await page.keyboard.press('Enter');
  const lane = page.getByTestId('lane-cc11');
  await page.getByText('200,000 points').waitFor();
  const box = await lane.boundingBox();
  if (!box) throw new Error('no lane');
  const times = () =>
    lane.evaluate((canvas) =>
      (canvas as unknown as { ordleLane: EditorHandle }).ordleLane.paintTimes().slice(),
    );
  const before = (await times()).length;
  await wheelAbout(page, box.x + 400, box.y + 40);
  const painted = (await times()).slice(before);
  const p95 = quantile(painted, 0.95);
  return [
    {
      work: `pan and zoom a lane of 200,000 points, ${painted.length} frames, p95`,
      ours: ms(p95),
      peer: '',
      reach: '8 ms',
      met: p95 <= 8,
    },
  ];
}

export async function memory(page: Page): Promise<BenchRow[]> {
  await bring(page, 'million.mid', 1_000_000);
  const bytes = await page.evaluate(async () => {
    const measured = performance as Performance & {
      measureUserAgentSpecificMemory?: () => Promise<{ bytes: number }>;
    };
    return (await measured.measureUserAgentSpecificMemory?.())?.bytes ?? NaN;
  });
  return [
    {
      work: 'memory of the tab with 1,000,000 notes open',
      ours: `${(bytes / 1e6).toFixed(0)} MB`,
      peer: '',
      reach: '400 MB',
      met: bytes < 400e6,
    },
  ];
}
