import { readFileSync } from 'node:fs';
import { expect, test } from './support/test';
import {
  bringIn,
  demoPath,
  exportFile,
  openDemo,
  peerNotes,
  saved,
  settled,
  type PeerNote,
} from './support/app';
import { BAR, at, clickBlock, drag, exported, head, toParts, undo } from './support/parts';
import { note, smallFile } from './support/smallFiles';

const plain = ({ start, pitch }: PeerNote) => [start, pitch];

/** A file of one part with a stroke at the start of each of four bars. */
const fourBars = () =>
  smallFile('quay.mid', { bell: [0, 1, 2, 3].flatMap((bar) => note(bar * BAR, bar * BAR + 200, 60 + bar)) });

test('blocks are split, moved, trimmed, stretched, repeated and duplicated; an independent reader finds it in the export', async ({
  page,
}) => {
  await page.goto('/');
  await bringIn(page, [fourBars()]);
  await settled(page);
  await toParts(page);
  // The play line to bar 3, by a click on the ruler; the block splits there.
  const third = await at(page, 1, 3);
  await page.mouse.click(third.x + 1, third.top + 8);
  await clickBlock(page, 1, 2);
  await page.getByLabel('Blocks are moved by').getByRole('radio', { name: 'bars' }).click();
  await page.getByTestId('parts').focus();
  await page.keyboard.press('x');
  await expect(undo(page)).toContainText('Split blocks');
  expect((await exported(page)).map(plain)).toEqual([0, 1, 2, 3].map((bar) => [bar * BAR, 60 + bar]));
  // The second half is dragged two bars later: it snaps to bars.
  await drag(page, await at(page, 1, 4), await at(page, 1, 6.1));
  await expect(undo(page)).toContainText('Move blocks');
  expect((await exported(page)).map(plain)).toEqual([
    [0, 60],
    [BAR, 61],
    [4 * BAR, 62],
    [5 * BAR, 63],
  ]);
  // Its end is trimmed by a bar, and what is left played twice as slow.
  await drag(page, { ...(await at(page, 1, 7)), x: (await at(page, 1, 7)).x - 3 }, await at(page, 1, 6));
  await expect(undo(page)).toContainText('Trim blocks');
  await page.getByRole('spinbutton', { name: 'Stretch' }).fill('200');
  await page.keyboard.press('Enter');
  await page.getByRole('spinbutton', { name: 'Times' }).fill('2');
  await page.keyboard.press('Enter');
  expect((await exported(page)).map(plain)).toEqual([
    [0, 60],
    [BAR, 61],
    [4 * BAR, 62],
    [6 * BAR, 62],
  ]);
  // The first block again after itself, as a linked copy: transposed on the Bench before the layout both follow.
  await clickBlock(page, 1, 1.5);
  await page.keyboard.press('Control+d');
  await expect(undo(page)).toContainText('Duplicate blocks');
  await saved(page);
  await page.reload();
  await toParts(page);
  expect((await exported(page)).map(plain)).toEqual([
    [0, 60],
    [BAR, 61],
    [2 * BAR, 60],
    [3 * BAR, 61],
    [4 * BAR, 62],
    [6 * BAR, 62],
  ]);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  expect((await exported(page)).map(plain)).toEqual([
    [0, 60],
    [BAR, 61],
    [4 * BAR, 62],
  ]);
});

test('bars are repeated, deleted and inserted across all parts', async ({ page }) => {
  await page.goto('/');
  const strokes = (pitch: number) =>
    [0, 1, 2].flatMap((bar) => note(bar * BAR, bar * BAR + 200, pitch + bar));
  await bringIn(page, [smallFile('quay.mid', { bell: strokes(60), horn: strokes(40) })]);
  await settled(page);
  await toParts(page);
  const [from, to] = [await at(page, 1, 2.2), await at(page, 1, 2.8)];
  await drag(page, { x: from.x, y: from.top + 8 }, { x: to.x, y: to.top + 8 });
  const bars = page.getByRole('region', { name: 'Bars of all parts' });
  await expect(bars).toContainText('All parts, bar 2');
  await bars.getByRole('button', { name: 'Repeat' }).click();
  await expect(undo(page)).toContainText('Repeat bar 2, 2 parts');
  const inBothParts = (list: [number, number][]) =>
    list.flatMap(([bar, step]) => [
      [bar * BAR, 60 + step],
      [bar * BAR, 40 + step],
    ]);
  expect((await exported(page)).map(plain)).toEqual(
    inBothParts([
      [0, 0],
      [1, 1],
      [2, 1],
      [3, 2],
    ]),
  );
  await page.keyboard.press('Control+z');
  await bars.getByRole('button', { name: 'Delete' }).click();
  expect((await exported(page)).map(plain)).toEqual(
    inBothParts([
      [0, 0],
      [1, 2],
    ]),
  );
  await page.keyboard.press('Control+z');
  await bars.getByRole('button', { name: 'Insert time before' }).click();
  expect((await exported(page)).map(plain)).toEqual(
    inBothParts([
      [0, 0],
      [2, 1],
      [3, 2],
    ]),
  );
});

test('a kit is separated into its pieces and merged again; the export is the kit, the sources stay out of it', async ({
  page,
}) => {
  await openDemo(page);
  await toParts(page);
  const drums = (notes: PeerNote[]) =>
    notes
      .filter(({ channel }) => channel === 9)
      .map(({ start, pitch, velocity }) => `${start} ${pitch} ${velocity}`)
      .sort();
  const before = drums(await exported(page));
  const files = ['low', 'high'].flatMap((layer) =>
    peerNotes(readFileSync(demoPath(`ferry-brush-kit-${layer}.mid`))),
  );
  expect(before).toEqual(drums(files));
  await head(page, 'Brush kit').click();
  await page.getByRole('button', { name: 'Separate' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('list', { name: 'Shares' })).toContainText('closed hi hat');
  await dialog.getByRole('button', { name: /^Make \d+ parts$/ }).click();
  await expect(head(page, 'Closed hi hat')).toBeVisible();
  await expect(page.getByText('1 set aside')).toBeVisible();
  expect(drums(await exported(page))).toEqual(before);
  // The bass drum and the snare together again, live on their parts.
  await head(page, 'Bass drum 1').click();
  await head(page, 'Acoustic snare').click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Merge' }).click();
  await dialog.getByRole('button', { name: 'Merge', exact: true }).click();
  await expect(page.getByText('3 set aside')).toBeVisible();
  expect(drums(await exported(page))).toEqual(before);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(page.getByText('set aside')).toHaveCount(0);
  expect(drums(await exported(page))).toEqual(before);
});

test('a part that others are made of is asked about; without it they say so, the rest plays and goes out', async ({
  page,
}) => {
  await page.goto('/');
  await bringIn(page, [
    smallFile('quay.mid', {
      bell: note(0, 200, 60),
      horn: [...note(0, 200, 40), ...note(5, 90, 60, 50)],
      drone: note(0, 9000, 30),
    }),
  ]);
  await settled(page);
  await toParts(page);
  await head(page, 'bell').click();
  await head(page, 'horn').click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Merge' }).click();
  const merging = page.getByRole('dialog');
  await expect(merging.getByTestId('doubles')).toContainText('All 3 notes stay; 1 of them is a double.');
  await merging.getByRole('radio', { name: 'louder' }).click();
  await expect(merging.getByTestId('doubles')).toContainText('1 of the notes is left out, 2 stay.');
  await merging.getByRole('button', { name: 'Merge', exact: true }).click();
  await expect(undo(page)).toContainText('Merge bell + horn, 1 double left out');
  await expect(head(page, 'bell + horn')).toBeVisible();
  await page.getByRole('button', { name: 'More for horn', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Delete part' }).click();
  const dialog = page.getByRole('dialog', { name: 'Delete “horn”?' });
  await expect(dialog).toContainText('“bell + horn” is made of it');
  await dialog.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(page.getByRole('list', { name: 'Parts' })).toContainText(
    /no longer|deleted|not in the session/,
  );
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByText(/Not heard: “bell \+ horn” is made of a part/)).toBeVisible();
  await expect(page.getByTestId('position')).not.toHaveText('1.1.000');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('link', { name: 'Export', exact: true }).click();
  await expect(page.getByText(/Not written: “bell \+ horn” is made of a part/)).toBeVisible();
  expect(peerNotes(await exportFile(page)).map(plain)).toEqual([[0, 30]]);
  await page.keyboard.press('Control+z');
  await toParts(page);
  await expect(page.getByRole('list', { name: 'Parts' })).toContainText('of bell, horn');
  expect((await exported(page)).map(plain)).toEqual([
    [0, 40],
    [0, 60],
    [0, 30],
  ]);
});
