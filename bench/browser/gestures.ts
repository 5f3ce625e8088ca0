import type { Page } from '@playwright/test';
import type { BenchRow } from '../core';
import { bring, framesOf, ms, paintTimes, quantile, recordFrames, type EditorHandle } from './page';

/** A frame at 60 Hz, as exactly as the browser's clock tells it (to a tenth). */
const FRAME_MS = 16.8;

/** Selects with a box over 100,000 notes, then drags 1,000 selected ones; times the painting and the frames. */
export async function marqueeAndMove(page: Page): Promise<BenchRow[]> {
  await bring(page, 'pan.mid', 100_000);
  await page.getByTestId('roll').focus();
  await page.keyboard.press('f');
  // Until the window is at rest and remembered: only the box is to be timed.
  await page.waitForTimeout(1500);
  const box = await page.getByTestId('roll').boundingBox();
  if (!box) throw new Error('no roll');
  const before = (await paintTimes(page)).length;
  // Above the highest note, where a press takes hold of nothing.
  const top = await page.getByTestId('roll').evaluate((canvas) => {
    const { overview, ruler, spans } = (
      canvas as unknown as { ordleEditor: EditorHandle }
    ).ordleEditor.layout();
    return overview + ruler + spans + 4;
  });
  await page.mouse.move(box.x + 120, box.y + top);
  await page.mouse.down();
  for (let move = 0; move < 60; move++) {
    await page.mouse.move(box.x + 120 + move * 8, box.y + top + move * 4);
    await page.waitForTimeout(8);
  }
  const marquee = quantile((await paintTimes(page)).slice(before), 0.95);
  await page.keyboard.press('Escape');
  await page.mouse.up();

  // 1,000 notes: by question, the first bars of the part.
  await page.keyboard.press('Shift+f');
  await page.getByLabel('Bars, from').fill('1');
  await page.getByLabel('Bars, to').fill('21');
  await page.getByTestId('found').getByText(/found/).waitFor();
  await page.waitForTimeout(500);
  await page.getByRole('button', { name: /^Select [0-9,]+ notes?$/ }).click();
  await page.keyboard.press('z');
  await page.waitForTimeout(300);
  const count = (await page.getByTestId('selected').locator('b').textContent()) ?? '';
  const place = await page.getByTestId('roll').evaluate((canvas) => {
    const { ordleEditor } = canvas as unknown as { ordleEditor: EditorHandle };
    const { x, y } = ordleEditor.placeOfRow(300);
    return { x, y };
  });
  await page.mouse.move(box.x + place.x + 1, box.y + place.y + 2);
  await page.mouse.down();
  await recordFrames(page);
  const start = (await paintTimes(page)).length;
  for (let move = 0; move < 100; move++)
    await page.mouse.move(box.x + place.x + (move % 50) * 3, box.y + place.y + (move % 20));
  const frames = await framesOf(page);
  const painting = (await paintTimes(page)).slice(start);
  await page.keyboard.press('Escape');
  await page.mouse.up();
  const median = quantile(frames, 0.5);
  return [
    {
      work: 'box over 100,000 notes, painting, p95',
      ours: ms(marquee),
      peer: '',
      reach: '8 ms',
      met: marquee <= 8,
    },
    {
      work: `drag of ${count} of 100,000, frame, median`,
      ours: ms(median),
      peer: '',
      reach: '16.7 ms (60 Hz)',
      met: median <= FRAME_MS,
    },
    {
      work: `the same, painting, median of ${painting.length}`,
      ours: ms(quantile(painting, 0.5)),
      peer: '',
      reach: '(no figure set)',
      met: true,
    },
  ];
}

/** Drags strength over a 10,000-note part and times frames, and changes until they are on the canvas. */
export async function sliderDrag(page: Page): Promise<BenchRow[]> {
  await bring(page, 'drag.mid', 10_000);
  await page.getByRole('button', { name: 'Add quantize' }).click();
  await page.getByTestId('notes-moved').waitFor();
  const box = await page.getByRole('slider', { name: 'Strength', exact: true }).boundingBox();
  if (!box) throw new Error('no slider');
  await page.evaluate(() => {
    const delays: number[] = [];
    let changed = 0;
    window.addEventListener('pointermove', () => (changed ||= performance.now()), true);
    const roll = document.querySelector('[data-testid=roll]') as unknown as { ordleEditor: EditorHandle };
    roll.ordleEditor.onPainted(() => {
      if (changed) delays.push(performance.now() - changed);
      changed = 0;
    });
    Object.assign(window, { ordleDelays: delays });
  });
  await page.mouse.move(box.x + 3, box.y + 7);
  await page.mouse.down();
  await recordFrames(page);
  for (let move = 0; move < 120; move++)
    await page.mouse.move(box.x + 3 - 80 + Math.abs(80 - ((move * 2) % 160)), box.y + 7);
  const frames = await framesOf(page);
  const delays = await page.evaluate(() =>
    (window as unknown as { ordleDelays: number[] }).ordleDelays.slice(),
  );
  await page.mouse.up();
  const [median, p95] = [quantile(frames, 0.5), quantile(frames, 0.95)];
  return [
    {
      work: `slider drag on 10,000 notes, ${frames.length} frames, median`,
      ours: ms(median),
      peer: '',
      reach: '16.7 ms (60 Hz)',
      met: median <= FRAME_MS,
    },
    { work: 'the same, p95', ours: ms(p95), peer: '', reach: '33 ms', met: p95 <= 33 },
    {
      work: `the same, from the pointer to painted notes, median of ${delays.length}`,
      ours: ms(quantile(delays, 0.5)),
      peer: '',
      reach: '(no figure set)',
      met: true,
    },
  ];
}

/** Moves all of 100,000 notes by a key: from the key to painted notes, and the longest frame until all is saved. */
export async function handEdit(page: Page): Promise<BenchRow[]> {
  await bring(page, 'hand.mid', 100_000);
  await page.getByTestId('roll').click({ position: { x: 300, y: 300 } });
  await page.keyboard.press('Control+a');
  await page.getByText('100,000 notes').first().waitFor();
  await page.waitForTimeout(1500);
  const seen: number[] = [];
  const times: number[] = [];
  const longest: number[] = [];
  for (let run = 0; run < 5; run++) {
    await page.evaluate(() => {
      const measured = { seen: 0, painted: 0, longest: 0, begun: 0, live: true };
      Object.assign(window, { ordleEdit: measured });
      window.addEventListener('keydown', () => (measured.begun ||= performance.now()), {
        capture: true,
        once: true,
      });
      const roll = document.querySelector('[data-testid=roll]') as unknown as { ordleEditor: EditorHandle };
      const before = roll.ordleEditor.firstNote()?.pitch;
      const painted = () => {
        if (!measured.begun || !measured.live) return;
        measured.painted = performance.now() - measured.begun;
        if (roll.ordleEditor.firstNote()?.pitch !== before) measured.seen ||= measured.painted;
      };
      roll.ordleEditor.onPainted(painted);
      let last = performance.now();
      const tick = () => {
        const now = performance.now();
        // What the key itself takes until it is painted is the other figure.
        if (measured.seen) measured.longest = Math.max(measured.longest, now - last);
        last = now;
        if (measured.live) requestAnimationFrame(tick);
      };
      requestAnimationFrame(tick);
    });
    await page.keyboard.press(run % 2 ? 'ArrowDown' : 'ArrowUp');
    await page.getByText(/^saved/).waitFor({ timeout: 30000 });
    await page.waitForTimeout(2500);
    const {
      seen: first,
      painted,
      longest: frame,
    } = await page.evaluate(() => {
      const { ordleEdit } = window as unknown as {
        ordleEdit: { seen: number; painted: number; longest: number; live: boolean };
      };
      ordleEdit.live = false;
      return ordleEdit;
    });
    seen.push(first);
    times.push(painted);
    longest.push(frame);
  }
  const [shown, time, frame] = [quantile(seen, 0.5), quantile(times, 0.5), quantile(longest, 0.5)];
  return [
    {
      work: 'a hand edit of 100,000 notes, from the key to painted',
      ours: ms(shown),
      peer: '',
      reach: '150 ms',
      met: shown <= 150,
    },
    {
      work: 'the same, until it is worked out and painted anew',
      ours: ms(time),
      peer: '',
      reach: '(no figure set)',
      met: true,
    },
    {
      work: 'the same, longest frame until it is saved',
      ours: ms(frame),
      peer: '',
      reach: '50 ms',
      met: frame <= 50,
    },
  ];
}
