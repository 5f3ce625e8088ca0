import { expect, test, type Page } from './support/test';
import { boxOf, bringIn, exportedNotes, settled } from './support/app';
import { canvasLayout, dragOver, onRoll, onRuler } from './support/canvas';
import { note, smallFile } from './support/smallFiles';

const drag = (page: Page, from: [number, number], to: [number, number], keys: string[] = []) =>
  dragOver(page, [onRoll(...from), onRoll(...to)], keys);

async function exported(page: Page) {
  const notes = await exportedNotes(page);
  return notes.map(({ start, pitch }) => [start, pitch]);
}

async function open(page: Page, tracks: Parameters<typeof smallFile>[1]) {
  await page.goto('/');
  await bringIn(page, [smallFile('quay.mid', tracks)]);
  await settled(page);
}

async function locate(page: Page, tick: number) {
  const { x, y } = onRuler(tick)(await canvasLayout(page));
  await page.mouse.click(x, y);
}

test('a dragged note keeps its distance from the grid, or goes to the line; its position is told on the way', async ({
  page,
}) => {
  await open(page, { bell: [...note(487, 700, 64), ...note(1500, 1700, 67)] });
  const layout = await canvasLayout(page);
  const [from, to] = [onRoll(560, 64)(layout), onRoll(560 + 250, 64)(layout)];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 5 });
  // Beat 2 and an eighth, still 7 ticks late.
  await expect(page.getByLabel('Start', { exact: true })).toHaveValue('1.2.247');
  await page.mouse.up();
  await settled(page);
  expect(await exported(page)).toEqual([
    [727, 64],
    [1500, 67],
  ]);
  await page.getByLabel('Snap').selectOption('line');
  await drag(page, [800, 64], [800 + 115, 64]);
  await settled(page);
  expect((await exported(page))[0]).toEqual([840, 64]);
  // How it goes is remembered.
  await page.reload();
  await settled(page);
  await expect(page.getByLabel('Snap')).toHaveValue('line');
});

test('the view scrolls while a note is held at its edge', async ({ page }) => {
  await open(page, { bell: [...note(10, 200, 64), ...note(20_000, 20_400, 67)] });
  const layout = await canvasLayout(page);
  const from = onRoll(100, 64)(layout);
  const box = await boxOf(page.getByTestId('roll'));
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 3, from.y, { steps: 4 });
  await expect.poll(async () => (await canvasLayout(page)).tick).toBeGreaterThan(layout.tick + 400);
  await page.mouse.up();
  const stopped = (await canvasLayout(page)).tick;
  await page.waitForTimeout(200);
  expect((await canvasLayout(page)).tick).toBe(stopped);
  // It went farther than the window reached when it was picked up.
  const reached = layout.tick + (box.width - layout.gutter) * layout.ticksPerPixel;
  const [moved] = (await exported(page)).filter(([, pitch]) => pitch === 64);
  expect(moved[0]).toBeGreaterThan(reached);
});

test('the view is dragged by the middle button, which pastes nothing', async ({ page }) => {
  await open(page, { bell: [...note(10, 200, 64), ...note(20_000, 20_400, 67)] });
  await page.evaluate(() =>
    document.addEventListener('copy', ({ clipboardData }) =>
      Object.assign(window, { copied: clipboardData?.getData('text/plain') }),
    ),
  );
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+c');
  // What Linux does when the middle button comes up; and whether the editor takes it, then and at another time.
  await page.evaluate(() => {
    const isPasted = () => {
      const clipboardData = new DataTransfer();
      clipboardData.setData('text/plain', (window as unknown as { copied: string }).copied);
      const paste = new ClipboardEvent('paste', { clipboardData, cancelable: true, bubbles: true });
      document.body.dispatchEvent(paste);
      return paste.defaultPrevented;
    };
    Object.assign(window, { isPasted });
    addEventListener('pointerup', () => Object.assign(window, { byMiddle: isPasted() }), { once: true });
  });
  const told = (name: 'isPasted' | 'byMiddle') =>
    page.evaluate((asked) => {
      const value = (window as unknown as Record<string, unknown>)[asked];
      return typeof value === 'function' ? (value() as unknown) : value;
    }, name);
  const roll = await boxOf(page.getByTestId('roll'));
  await page.mouse.move(roll.x + 600, roll.y + 300);
  await page.mouse.down({ button: 'middle' });
  await page.mouse.move(roll.x + 500, roll.y + 300, { steps: 4 });
  const { tick } = await canvasLayout(page);
  expect(tick).toBeGreaterThan(0);
  await page.mouse.up({ button: 'middle' });
  expect(await told('byMiddle')).toBe(false);
  await expect.poll(() => told('isPasted')).toBe(true);
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('Paste 2 notes');
});

test('notes are pasted with their place in the bar: among what is there, in place of it, or pushing it later', async ({
  page,
}) => {
  await open(page, {
    // Bar 1: beat 2, late, and beat 4. Bars 3 and 4 hold others.
    bell: [
      ...note(487, 700, 60),
      ...note(1432, 1800, 62),
      ...note(3840 + 950, 3840 + 1400, 70),
      ...note(5752, 6000, 72),
    ],
  });
  await drag(page, [300, 66], [1900, 58]);
  await page.keyboard.press('Control+c');
  await locate(page, 3840);
  await page.keyboard.press('Control+v');
  await settled(page);
  const among = [[487, 60], [1432, 62], [4327, 60], [4790, 70], [5272, 62], [5752, 72]]; // prettier-ignore
  expect(await exported(page)).toEqual(among);

  await page.keyboard.press('Control+z');
  await settled(page);
  await locate(page, 3840);
  await page.getByRole('group', { name: 'Editor tools' }).getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Paste in place of what is there' }).click();
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('in place of others');
  await settled(page);
  expect(await exported(page)).toEqual(among.filter(([, pitch]) => pitch !== 70));

  await page.keyboard.press('Control+z');
  await settled(page);
  await locate(page, 3840);
  await page.keyboard.press('Control+Alt+Shift+v');
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('the rest later');
  await settled(page);
  expect(await exported(page)).toEqual([[487, 60], [1432, 62], [4327, 60], [5272, 62], [6710, 70], [7672, 72]]); // prettier-ignore
});

test('a note dragged over another of its pitch is told, and put right by a click', async ({ page }) => {
  await open(page, { bell: [...note(0, 900, 60), ...note(1440, 1800, 60)] });
  await drag(page, [1600, 60], [1600 - 960, 60]);
  const told = page.getByText('1 note lies over another of the same pitch.');
  await expect(told).toBeVisible();
  await page.getByRole('button', { name: 'Cut it' }).click();
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('Put overlapping notes right');
  await settled(page);
  await page.getByRole('link', { name: 'Export' }).click();
  await expect(page.getByText('No problems found')).toBeVisible();
});
