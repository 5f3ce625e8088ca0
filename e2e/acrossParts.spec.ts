import { expect, test, type Page } from './support/test';
import { bringIn, exportedNotes, settled } from './support/app';
import { clickOnRoll } from './support/canvas';
import { exportedController, playLineTo } from './support/lanes';
import { controller, note, smallFile } from './support/smallFiles';

const undoButton = (page: Page) => page.getByRole('button', { name: /^Undo/ });

test('several parts that are shown are selected, moved, copied and deleted together, each as one action', async ({
  page,
}) => {
  await page.goto('/');
  const rows = (pitch: number, channel: number) =>
    [0, 480, 960, 1440].flatMap((at) => note(at, at + 200, pitch + at / 480, 60, channel));
  await bringIn(page, [smallFile('pier.mid', { Bells: rows(72, 0), Reed: rows(60, 1), Bass: rows(40, 2) })]);
  await settled(page);
  await page.getByRole('button', { name: 'show all' }).click();
  await page.getByTestId('roll').focus();
  await page.keyboard.press('f');
  // Everything that is shown is selected; two presses, however quick, are two moves of all of it.
  await page.keyboard.press('Control+a');
  await expect(page.getByTestId('selected')).toContainText('12 notes in 3 parts');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Control+ArrowUp');
  await expect(undoButton(page)).toContainText('Louder');
  const moved = await exportedNotes(page);
  const of = (notes: typeof moved, track: number) =>
    notes.filter((each) => each.track === track).map(({ pitch, velocity }) => [pitch, velocity]);
  expect([1, 2, 3].map((track) => of(moved, track)[0])).toEqual([[74, 65], [62, 65], [42, 65]]); // prettier-ignore
  for (let undone = 0; undone < 3; undone++) await page.keyboard.press('Control+z');
  await settled(page);
  // Copied, they go back to the same parts.
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Control+Shift+v');
  await expect(undoButton(page)).toContainText('Paste 12');
  const twice = await exportedNotes(page);
  expect([1, 2, 3].map((track) => of(twice, track).length)).toEqual([8, 8, 8]);
  await page.keyboard.press('Control+z');
  // A click on a note of another part selects it, and its part is looked at; with Shift one is added.
  await clickOnRoll(page, 960 + 60, 62);
  await expect(page.getByTestId('selected')).toContainText('1 note');
  await expect(page.getByTestId('roll')).toHaveAttribute('aria-label', /^Reed/);
  await settled(page);
  await page.keyboard.down('Shift');
  await clickOnRoll(page, 480 + 60, 41);
  await page.keyboard.up('Shift');
  await expect(page.getByTestId('selected')).toContainText('2 notes in 2 parts');
  // A step that is added is for what is selected, and can be widened.
  await page.keyboard.press('q');
  await expect(page.getByText('Quantize acts on the 2 selected notes in 2 parts alone.')).toBeVisible();
  await page.getByRole('button', { name: 'Whole parts' }).click();
  await expect(undoButton(page)).toContainText('Where: whol');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Delete');
  await expect(undoButton(page)).toContainText('Delete 2 no');
  const left = await exportedNotes(page);
  expect([1, 2, 3].map((track) => of(left, track).length)).toEqual([4, 3, 3]);
});

test('what is copied of several parts takes the controllers of each along, to the same parts', async ({
  page,
}) => {
  await page.goto('/');
  const rows = (pitch: number, channel: number) =>
    [0, 480].flatMap((at) => note(at, at + 200, pitch, 60, channel));
  const swell = (channel: number, values: number[]) =>
    values.map((value, at) => controller(480 * at, 11, value, channel));
  const bells = [...rows(72, 0), ...swell(0, [100, 50])];
  const reed = [...rows(60, 1), ...swell(1, [90, 30])];
  await bringIn(page, [smallFile('pier.mid', { Bells: bells, Reed: reed, Bass: rows(40, 2) })]);
  await settled(page);
  await page.getByRole('button', { name: 'show all' }).click();
  await page.getByTestId('roll').focus();
  await page.keyboard.press('f');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+c');
  await expect(page.getByText('6 notes in 3 parts copied.')).toBeVisible();
  await playLineTo(page, 1920);
  await page.keyboard.press('Control+v');
  await expect(undoButton(page)).toContainText('Paste 6');
  await settled(page);
  const laid = await exportedController(page, 11);
  const from = (tick: number) =>
    laid.filter(([at]) => at >= tick && at < tick + 960).map(([, value]) => value);
  expect(from(0)).toEqual([100, 50, 90, 30]);
  const after = from(1920);
  for (const values of [[100, 50], [90, 30]]) for (const value of values) expect(after).toContain(value); // prettier-ignore
  await page.keyboard.press('Control+z');
  expect((await exportedController(page, 11)).filter(([at]) => at >= 1000)).toEqual([]);
});
