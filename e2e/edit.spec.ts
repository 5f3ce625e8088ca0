import { writeMidi, type MidiEvent } from 'midi-file';
import { expect, test, type Page } from './support/test';
import { boxOf, bringIn, exportedNotes, madeFile, saved, settled, stops } from './support/app';
import { canvasLayout, dragOver, onRoll } from './support/canvas';

/** Where a tick and a pitch are on the page. */
const placeOf = async (page: Page, tick: number, pitch: number) =>
  onRoll(tick, pitch)(await canvasLayout(page));

const drag = (page: Page, from: [number, number], to: [number, number], keys: string[] = []) =>
  dragOver(page, [onRoll(...from), onRoll(...to)], keys);

async function exported(page: Page) {
  const notes = await exportedNotes(page);
  return notes.map(({ start, pitch, velocity }) => [start, pitch, velocity]);
}

/** Four notes at 480 ticks a quarter: C4 at 0, E4 at 480, G4 at 960, C5 at 1440, each a quarter but a bit. */
async function openFour(page: Page) {
  await page.goto('/');
  await bringIn(page, [madeFile('four-notes.mid')]);
  await settled(page);
}

const undoButton = (page: Page) => page.getByRole('button', { name: /^Undo/ });

test('drags, copies, trims, draws and erases notes on the canvas; an independent reader finds each edit', async ({
  page,
}) => {
  await openFour(page);
  await drag(page, [100, 60], [100 + 240, 62]);
  await expect(undoButton(page)).toContainText('Move 1 note');
  await drag(page, [600, 64], [600 + 120, 64], ['Control']);
  await expect(undoButton(page)).toContainText('Copy 1 note');
  // Draw an A4 in the second bar, erase the G4.
  await page.keyboard.press('d');
  await drag(page, [1920 + 20, 69], [1920 + 460, 69]);
  await page.keyboard.press('e');
  const { x, y } = await placeOf(page, 1100, 67);
  await page.mouse.click(x, y);
  await settled(page);
  await page.keyboard.press('s');
  expect(await exported(page)).toEqual([
    [240, 62, 90],
    [480, 64, 80],
    [600, 64, 80],
    [1440, 72, 60],
    [1920, 69, 90],
  ]);
  await expect(stops(page)).toHaveCount(3);
  await expect(stops(page).nth(1)).toContainText('1 changed, 2 added, 1 deleted');

  // Everything can be taken back, and lies in the history by name.
  await page.keyboard.press('h');
  await page.getByRole('button', { name: 'When first opened' }).click();
  await page.keyboard.press('Escape');
  await expect(stops(page)).toHaveCount(2);
  expect(await exported(page)).toEqual([
    [0, 60, 90],
    [480, 64, 80],
    [960, 67, 70],
    [1440, 72, 60],
  ]);
});

test('trims ends, selects by marquee, sets velocities in the lane, and keeps it all over a reload', async ({
  page,
}) => {
  await openFour(page);
  const end = await placeOf(page, 400, 60);
  await page.mouse.move(end.x - 2, end.y);
  await page.mouse.down();
  await page.mouse.move((await placeOf(page, 720, 60)).x, end.y, { steps: 6 });
  await page.mouse.up();
  await settled(page);
  await expect(undoButton(page)).toContainText('Trim 1 note');
  await expect(page.getByLabel('Length')).toHaveValue('720');

  await drag(page, [-20, 70], [1300, 58]);
  await expect(page.getByTestId('selected')).toContainText('3 notes');
  await expect(page.getByLabel('Pitch', { exact: true })).toHaveAttribute('placeholder', 'mixed');
  const box = await boxOf(page.getByTestId('roll'));
  // A ramp across the lane: Shift and drag from the top left to the middle right.
  const left = (await placeOf(page, -10, 60)).x;
  const right = (await placeOf(page, 970, 60)).x;
  await page.keyboard.down('Shift');
  await page.mouse.move(left, box.y + box.height - 84);
  await page.mouse.down();
  await page.mouse.move(right, box.y + box.height - 46, { steps: 8 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await settled(page);
  await expect(undoButton(page)).toContainText('Velocity of 3 notes');
  const notes = await exported(page);
  expect(notes[0][2]).toBeGreaterThan(notes[1][2]);
  expect(notes[1][2]).toBeGreaterThan(notes[2][2]);
  expect(notes[3]).toEqual([1440, 72, 60]);
  await saved(page);
  await page.reload();
  await settled(page);
  expect(await exported(page)).toEqual(notes);
});

test('walks, moves, types, splits, joins, copies and pastes by keyboard alone, and says what is selected', async ({
  page,
}) => {
  await openFour(page);
  await page.keyboard.press('.');
  await expect(page.getByTestId('announced')).toHaveText(/^C4, 1\.1\.000, velocity 90/);
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Shift+ArrowRight');
  await settled(page);
  await page.keyboard.press('Control+ArrowUp');
  await settled(page);
  await page.keyboard.press('.');
  await expect(page.getByTestId('announced')).toHaveText(/^E4/);
  await page.keyboard.press('Enter');
  await page.getByLabel('Start', { exact: true }).fill('1.2.060');
  await page.keyboard.press('Enter');
  await page.getByLabel('Velocity', { exact: true }).fill('-15');
  await page.keyboard.press('Enter');
  await settled(page);
  await page.getByTestId('roll').focus();
  await page.keyboard.press('.');
  await page.keyboard.press('Delete');
  await settled(page);
  await page.keyboard.press('Control+a');
  await expect(page.getByTestId('selected')).toContainText('3 notes');
  expect(await exported(page)).toEqual([
    [1, 61, 95],
    [540, 64, 65],
    [1440, 72, 60],
  ]);

  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+d');
  await settled(page);
  expect((await exported(page)).length).toBe(6);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Shift+f');
  await page.getByLabel('Pitch, from').fill('C5');
  await expect(page.getByTestId('found')).toHaveText('1 note found');
  await page.getByRole('button', { name: /^Select [0-9,]+ notes?$/ }).click();
  await page.getByTestId('roll').focus();
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Control+v');
  await settled(page);
  expect(await exported(page)).toEqual([
    [0, 72, 60],
    [1, 61, 95],
    [540, 64, 65],
    [1440, 72, 60],
  ]);
});

test('the note list is the same notes: sorted, edited in place, selected together', async ({ page }) => {
  await openFour(page);
  await page.keyboard.press('k');
  const list = page.getByRole('grid', { name: 'Notes' });
  await expect(list.getByRole('row')).toHaveCount(5);
  await list.getByRole('columnheader', { name: 'velocity' }).click();
  await expect(list.getByRole('row').nth(1)).toContainText('C5');
  await list.getByRole('row').nth(1).getByRole('gridcell').nth(2).dblclick();
  await page.getByLabel('velocity of this note').fill('101');
  await page.keyboard.press('Enter');
  await settled(page);
  await expect(list.getByRole('row').nth(4)).toContainText('101');
  await list.getByRole('row').nth(4).click();
  await expect(page.getByTestId('selected')).toContainText('1 note');
  await expect(page.getByLabel('Pitch', { exact: true })).toHaveValue('C5');
  await expect(list.getByRole('row').nth(4)).toContainText('Hand edits');
  expect((await exported(page))[3]).toEqual([1440, 72, 101]);
});

test('edits made at an earlier stop land there and say so; a note tells its way', async ({ page }) => {
  await openFour(page);
  await page.getByRole('button', { name: 'Add quantize' }).click();
  await page.getByRole('button', { name: 'Add a step' }).click();
  await page.getByRole('menuitem', { name: /Quantize/ }).click();
  await stops(page).nth(1).click();
  await settled(page);
  await drag(page, [100, 60], [100 + 480, 60]);
  await expect(page.getByText('Hand edits stand after Quantize and before Quantize.')).toBeVisible();
  await expect(stops(page)).toHaveCount(5);
  await expect(stops(page).nth(2)).toContainText('Hand edits');
  await page.keyboard.press('w');
  // Beside the music, not over it: the note stays in sight.
  const why = page.getByRole('region', { name: 'Why is this note here?' });
  await expect(why).toContainText('As played');
  await expect(why).toContainText(/Hand edits.*start \+500 ms/s);
  await page.keyboard.press('w');
  await expect(why).toBeHidden();
  // Off again, and the edit is as if it had not been.
  await page.getByRole('checkbox', { name: 'on', exact: true }).click();
  expect((await exported(page))[0]).toEqual([0, 60, 90]);
});

test('actions are found by name, shortcuts can be changed and conflicts are told', async ({ page }) => {
  await openFour(page);
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('Find an action').last().fill('select all notes');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('selected')).toContainText('4 notes');
  await page.keyboard.press('?');
  await page.getByRole('button', { name: 'Shortcut for Select none' }).click();
  await page.keyboard.press('y');
  await page.getByRole('button', { name: 'Shortcut for Loop on or off' }).click();
  await page.keyboard.press('q');
  await expect(page.getByRole('alert')).toContainText('Q already does “Add quantize”');
  await page.getByRole('button', { name: 'Leave it' }).click();
  await page.getByRole('dialog').press('Escape');
  await page.keyboard.press('y');
  await expect(page.getByText('nothing selected')).toBeVisible();
  await page.reload();
  await settled(page);
  await page.keyboard.press('Control+a');
  await page.keyboard.press('y');
  await expect(page.getByText('nothing selected')).toBeVisible();
});

/** A file of so many notes a sixteenth apart on four pitches, written by another library. */
function fileOfMany(count: number): { name: string; bytes: Uint8Array } {
  const track: MidiEvent[] = Array.from({ length: count }, (_, at): MidiEvent[] => [
    { deltaTime: 20, type: 'noteOn', channel: 0, noteNumber: 60 + (at % 4), velocity: 80 },
    { deltaTime: 100, type: 'noteOff', channel: 0, noteNumber: 60 + (at % 4), velocity: 64 },
  ]).flat();
  const tracks = [[...track, { deltaTime: 0, meta: true, type: 'endOfTrack' } as MidiEvent]];
  return {
    name: 'many.mid',
    bytes: Uint8Array.from(writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: 480 }, tracks })),
  };
}

/** The pitches at which the first note is painted from now on, one painting after the other. */
async function pitchesPainted(page: Page): Promise<() => Promise<number[]>> {
  await page.getByTestId('roll').evaluate((canvas) => {
    const { ordleEditor } = canvas as unknown as {
      ordleEditor: { onPainted(listener: () => void): void; firstNote(): { pitch: number } };
    };
    const pitches: number[] = [ordleEditor.firstNote().pitch];
    ordleEditor.onPainted(() => pitches.push(ordleEditor.firstNote().pitch));
    Object.assign(window, { pitches });
  });
  return () => page.evaluate(() => (window as unknown as { pitches: number[] }).pitches);
}

test('edits of thousands of notes last through a reload, take single edits on top, and are undone', async ({
  page,
}) => {
  await page.goto('/');
  await bringIn(page, [fileOfMany(3000)]);
  await settled(page);
  const played = await exported(page);
  await page.getByTestId('roll').focus();
  const painted = await pitchesPainted(page);
  await page.keyboard.press('Control+a');
  await page.keyboard.press('ArrowUp');
  await expect(undoButton(page)).toContainText('Up: 3,000 notes');
  await page.keyboard.press('Shift+ArrowUp');
  await expect.poll(async () => (await painted()).at(-1)).toBe(played[0][1] + 13);
  await settled(page);
  // Each is seen at once and stays where it was put while it is worked out.
  const steps = (await painted()).filter((pitch, at, all) => pitch !== all[at - 1]);
  expect(steps).toEqual([0, 1, 13].map((by) => played[0][1] + by));
  // And one more of a single note.
  await page.keyboard.press('Escape');
  await page.keyboard.press('.');
  await page.keyboard.press('Mod+ArrowUp'.replace('Mod', 'Control'));
  await settled(page);
  const expected = played.map(([start, pitch, velocity], at) => [start, pitch + 13, at === 0 ? velocity + 5 : velocity]); // prettier-ignore
  expect(await exported(page)).toEqual(expected);
  await saved(page);
  await page.reload();
  await settled(page);
  expect(await exported(page)).toEqual(expected);
  await page.locator('[data-stop]').nth(1).click();
  await expect(page.getByRole('definition').filter({ hasText: /^select3,000$/ })).toBeVisible();
  await expect(page.locator('[data-stop]').nth(1)).toContainText('3000 changed at once, 1 changed');
  for (let count = 0; count < 3; count++) await page.keyboard.press('Control+z');
  await settled(page);
  expect(await exported(page)).toEqual(played);
  await page.keyboard.press('Control+Shift+z');
  await settled(page);
  expect((await exported(page)).map(([, pitch]) => pitch)).toEqual(played.map(([, pitch]) => pitch + 1));
});
