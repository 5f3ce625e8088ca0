import { expect, test, type Page } from './support/test';
import { parseMidi } from 'midi-file';
import { boxOf, bringIn, bytesOf, exportFile, peerNotes, settled } from './support/app';
import { BAR, at, clickBlock, drag, exported, head, toParts, undo } from './support/parts';
import { controller, marker, note, smallFile } from './support/smallFiles';

const sections = (page: Page) => page.getByRole('list', { name: 'Sections' });

/** Eight bars of a stroke each in two parts, with a marker at bars 1 and 5. */
const harbour = () =>
  smallFile(
    'harbour.mid',
    {
      bell: Array.from({ length: 8 }, (_, bar) => note(bar * BAR, bar * BAR + 200, 60 + bar)).flat(),
      horn: Array.from({ length: 8 }, (_, bar) => note(bar * BAR, bar * BAR + 900, 40, 70, 1)).flat(),
    },
    [marker(0, 'Quay'), marker(4 * BAR, 'Open water')],
  );

/** Markers of a file, by midi-file: ticks and names. */
function markersIn(bytes: Uint8Array): [number, string][] {
  const found: [number, string][] = [];
  for (const track of parseMidi(Buffer.from(bytes)).tracks) {
    let tick = 0;
    for (const event of track) {
      tick += event.deltaTime;
      // midi-file gives the bytes of texts as letters.
      if (event.type === 'marker') found.push([tick, Buffer.from(event.text, 'latin1').toString('utf8')]);
    }
  }
  return found;
}

async function exportedBytes(page: Page): Promise<Uint8Array> {
  await page.getByRole('link', { name: 'Export', exact: true }).click();
  const bytes = await exportFile(page);
  await toParts(page);
  return bytes;
}

test('markers of a file are sections: renamed, moved, selected by, transposed by, and written back', async ({
  page,
}) => {
  await page.goto('/');
  await bringIn(page, [harbour()]);
  await settled(page);
  // On the Bench a section is selected by its name.
  await page.keyboard.press('Shift+PageDown');
  await page.keyboard.press('Shift+A');
  await expect(page.getByTestId('selected')).toContainText('4 notes');
  await toParts(page);
  await expect(sections(page)).toContainText('Quaybars 1 to 4');
  await expect(sections(page)).toContainText('Open waterbars 5 to 8');
  expect(markersIn(await exportedBytes(page))).toEqual([
    [0, 'Quay'],
    [4 * BAR, 'Open water'],
  ]);

  // A new one at the play line, which stands a hair beside bar 7.
  const { x, top } = await at(page, 1, 7);
  await page.mouse.click(x + 2, top + 12);
  await page.getByRole('button', { name: 'New marker' }).click();
  await page.keyboard.type('Landing');
  await page.keyboard.press('Enter');
  await expect(sections(page)).toContainText('Landingbars 7 to 8');
  await page.getByRole('button', { name: 'More for Open water' }).click();
  await page.getByRole('menuitem', { name: 'Rename' }).click();
  await page.getByLabel('New name of Open water').fill('Überfahrt');
  await page.keyboard.press('Enter');
  await expect(undo(page)).toContainText('Rename Open water to Überfahrt');
  // Dragged with Alt it goes from bar line to bar line.
  await page.keyboard.down('Alt');
  await drag(page, { x: x + 3, y: top + 12 }, { x: (await at(page, 1, 8)).x + 4, y: top + 12 });
  await page.keyboard.up('Alt');
  await expect(sections(page)).toContainText('Landingbar 8');

  // Transposed in one part, and a recipe applied in it.
  await head(page, 'bell').click();
  await page.getByRole('button', { name: 'More for Überfahrt' }).click();
  await page.getByRole('menuitem', { name: /^Transpose or apply/ }).click();
  await page.getByLabel('Semitones').fill('7');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Apply to Überfahrt' }).click();
  await expect(undo(page)).toContainText('Transpose Überfahrt');
  const bytes = await exportedBytes(page);
  expect(markersIn(bytes)).toEqual([
    [0, 'Quay'],
    [4 * BAR, 'Überfahrt'],
    [7 * BAR, 'Landing'],
  ]);
  const bell = peerNotes(bytes).filter(({ channel }) => channel === 0);
  expect(bell.map(({ pitch }) => pitch)).toEqual([60, 61, 62, 63, 71, 72, 73, 67]);
  expect(
    new Set(
      peerNotes(bytes)
        .filter(({ channel }) => channel === 1)
        .map(({ pitch }) => pitch),
    ),
  ).toEqual(new Set([40]));
});

test('parts are grouped, dragged into another order, muted together; blocks are muted one by one', async ({
  page,
}) => {
  await page.goto('/');
  await bringIn(page, [
    smallFile('trio.mid', {
      bell: [0, 1, 2, 3].flatMap((bar) => note(bar * BAR, bar * BAR + 200, 60 + bar)),
      horn: note(0, 900, 40, 70, 1),
      drone: note(0, 900, 30, 70, 2),
    }),
  ]);
  await settled(page);
  await toParts(page);
  const rows = page.getByRole('list', { name: 'Parts' }).getByRole('listitem');
  const order = () =>
    rows.evaluateAll((items) =>
      items.map(
        (item) => item.querySelector('button[aria-pressed], button[title^="Select all"]')?.textContent,
      ),
    );
  await head(page, 'horn').click();
  await head(page, 'drone').click({ modifiers: ['Control'] });
  await page.keyboard.press('Control+g');
  await expect(undo(page)).toContainText('Group 2 parts as Group 1');
  expect(await order()).toEqual(['bell', 'Group 1 2 parts', 'horn', 'drone']);
  // The bell is dragged under the horn and so into the group.
  const middle = async (index: number) => {
    const box = await boxOf(rows.nth(index));
    return { x: box.x + 120, y: box.y + box.height / 2 };
  };
  await drag(page, await middle(0), await middle(2));
  await expect(undo(page)).toContainText('Move bell in the list');
  expect(await order()).toEqual(['Group 1 3 parts', 'horn', 'bell', 'drone']);
  await rows.nth(0).hover();
  await page.getByRole('button', { name: 'Mute Group 1' }).click();
  await expect(undo(page)).toContainText('Mute Group 1');
  await expect(page.getByRole('button', { name: /^Mute (bell|horn|drone)$/, pressed: true })).toHaveCount(3);
  await undo(page).click();
  await page.getByRole('button', { name: 'Fold Group 1' }).click();
  await expect(rows).toHaveCount(1);
  await page.getByRole('button', { name: 'Unfold Group 1' }).click();
  await page.keyboard.press('Control+z');
  await expect.poll(order).toEqual(['bell', 'Group 1 2 parts', 'horn', 'drone']);

  // The second half of the bell is cut off and muted.
  const { x, top } = await at(page, 1, 3);
  await page.mouse.click(x + 2, top + 12);
  await clickBlock(page, 1, 2);
  await page.keyboard.press('x');
  await clickBlock(page, 1, 4);
  await page.keyboard.press('m');
  await expect(undo(page)).toContainText('Mute blocks');
  expect((await exported(page)).filter(({ channel }) => channel === 0).map(({ pitch }) => pitch)).toEqual([
    60, 61,
  ]);
});

test('parts, steps and recipes come from another session', async ({ page }) => {
  await page.goto('/');
  await bringIn(page, [smallFile('tide.mid', { gull: note(30, 500, 72), buoy: note(0, 300, 48, 80, 1) })]);
  await settled(page);
  await page.keyboard.press('q');
  await expect(undo(page)).toContainText('Add quantize');
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await bringIn(page, [smallFile('quay.mid', { bell: note(40, 400, 60) })]);
  await settled(page);
  await toParts(page);
  const fromThere = async (what: string) => {
    await page.getByRole('button', { name: 'New part' }).click();
    await page.getByRole('menuitem', { name: /^From another session/ }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Session', { exact: true }).selectOption({ label: 'tide' });
    await dialog.getByRole('radio', { name: what, exact: true }).click();
    await dialog.getByLabel('gull').check();
    return dialog;
  };
  await (await fromThere('parts')).getByRole('button', { name: 'Copy 1 part' }).click();
  await expect(undo(page)).toContainText('Copy 1 part of tide');
  await expect(head(page, 'gull')).toBeVisible();
  // Its step came along: the gull is four fifths of its way to the grid, the bell is as it was played.
  const starts = async () => (await exported(page)).map(({ start, pitch }) => [start, pitch]);
  expect(await starts()).toEqual([
    [6, 72],
    [40, 60],
  ]);
  await head(page, 'bell').click();
  await (await fromThere('steps')).getByRole('button', { name: 'Add 1 step' }).click();
  expect(await starts()).toEqual([
    [6, 72],
    [8, 60],
  ]);
  await (await fromThere('a recipe')).getByRole('button', { name: 'Save 1 step' }).click();
  await expect(page.getByText('Saved the recipe “gull, tide”.')).toBeVisible();
  // The takes are kept with the session from now on.
  await page.reload();
  await toParts(page);
  expect(await starts()).toEqual([
    [6, 72],
    [8, 60],
  ]);
});

test('the line between the hands is dragged, and parts that disagree are asked about lane by lane', async ({
  page,
}) => {
  await page.goto('/');
  const keys = [0, 1, 2, 3].flatMap((bar) =>
    [40, 52, 64, 76].flatMap((pitch) => note(bar * BAR, bar * BAR + 900, pitch)),
  );
  await bringIn(page, [
    smallFile('keys.mid', {
      keys: [...keys, controller(0, 11, 100)],
      pad: [...note(0, 200, 90), controller(0, 11, 50), controller(0, 7, 80)],
    }),
  ]);
  await settled(page);
  await toParts(page);
  await head(page, 'keys').click();
  await page.getByRole('button', { name: 'Separate' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('radio', { name: 'hand' }).click();
  const shares = dialog.getByRole('list', { name: 'Shares' });
  await expect(shares).toContainText('left8 notes');
  // Up by an octave in the second bar: the note at 64 goes to the left hand there.
  const picture = await boxOf(dialog.getByTestId('hand-line'));
  const place = { x: picture.x + picture.width * 0.375, y: picture.y + picture.height / 2 };
  await drag(page, place, { x: place.x, y: place.y - (picture.height / 41) * 12 });
  await expect(shares).toContainText('left9 notes');
  await dialog.getByRole('button', { name: 'Make 2 parts' }).click();
  await expect(head(page, 'keys, left')).toBeVisible();
  // Changed again, for both parts at once.
  await page.getByRole('button', { name: 'More for keys, left' }).click();
  await page.getByRole('menuitem', { name: 'Change the line between the hands' }).click();
  await dialog.getByRole('button', { name: 'as found' }).click();
  await expect(shares).toContainText('left8 notes');
  await dialog.getByRole('button', { name: 'Go by this line' }).click();
  await expect(undo(page)).toContainText('Change the line between the hands of keys');
  expect(await exported(page)).toHaveLength(17);

  // Both have expression: asked whose counts, and the pad's is written.
  await head(page, 'keys, left').click();
  await head(page, 'pad').click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Merge' }).click();
  await dialog.getByLabel('expression (11) of').selectOption({ label: 'pad' });
  await expect(dialog.getByLabel('volume (7) of')).toHaveCount(0);
  await dialog.getByRole('button', { name: 'Merge', exact: true }).click();
  const file = parseMidi(Buffer.from(await exportedBytes(page)));
  const values = file.tracks
    .flat()
    .flatMap((event) => (event.type === 'controller' && event.controllerType === 11 ? [event.value] : []));
  expect(values).toEqual([50]);
});

test('a session goes out as one file, and comes back whole beside itself', async ({ page }) => {
  await page.goto('/');
  await bringIn(page, [harbour()]);
  await settled(page);
  await page.keyboard.press('q');
  await expect(undo(page)).toContainText('Add quantize');
  await toParts(page);
  await page.getByRole('button', { name: 'New marker' }).click();
  await page.keyboard.press('Enter');
  const before = await exported(page);
  await page.getByRole('link', { name: 'Export', exact: true }).click();
  await page.getByRole('checkbox', { name: 'Standard MIDI File' }).click();
  await page.getByRole('checkbox', { name: 'Session file' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export', exact: true }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('harbour.ordle');
  const bytes = await bytesOf(download);
  await expect(page.getByText(/harbour\.ordle was written/)).toBeVisible();
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await bringIn(page, [{ name: 'harbour.ordle', bytes }]);
  await settled(page);
  await expect(page.getByRole('button', { name: /^Quantize/ })).toBeVisible();
  await toParts(page);
  await expect(sections(page)).toContainText('Open water');
  expect(await exported(page)).toEqual(before);
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await expect(page.getByRole('link', { name: 'harbour', exact: true })).toHaveCount(2);
  // Cut short it is refused with a sentence, and nothing else changes.
  await bringIn(page, [{ name: 'half.ordle', bytes: bytes.slice(0, bytes.length / 2) }]);
  await expect(page.getByText('This session file is damaged, or it was cut short.')).toBeVisible();
});
