import { expect, test } from './support/test';
import { writeMidi } from 'midi-file';
import {
  addStep,
  bringIn,
  expectSameAsCommandLine,
  openDemo,
  openDemoFile,
  settled,
  stops,
} from './support/app';
import { addLane, exportedController, placeInLane, playLineTo } from './support/lanes';

const ORGAN = 'ferry-reed-organ.mid';
const undoWords = 'button[aria-label^=Undo], button:has-text("Undo")';

test('presses are split and copied to the play line and deleted whole; long notes become pedal and back', async ({
  page,
}) => {
  await openDemoFile(page, ORGAN);
  await addLane(page, 'sustain');
  const before = await exportedController(page, 64);
  const down = before.find(([, value]) => value >= 64) ?? [0, 0];
  const up = before.find(([tick, value]) => tick > down[0] && value < 64) ?? [0, 0];
  await playLineTo(page, (down[0] + up[0]) / 2);
  await page.getByTestId('lane-cc64').focus();
  await page.keyboard.press('x');
  await settled(page);
  await expect(page.locator(undoWords).first()).toContainText('Split a press of the pedal');
  const split = (await exportedController(page, 64)).filter(([tick]) => tick >= down[0] && tick <= up[0]);
  expect(split.map(([, value]) => value >= 64)).toEqual([true, false, true, false]);
  await page.keyboard.press('Control+z');
  await settled(page);

  const middle = await placeInLane(page, 'cc64', (down[0] + up[0]) / 2, 0.6);
  await page.mouse.click(middle.x, middle.y);
  await page.getByTestId('lane-cc64').focus();
  await page.keyboard.press('Control+x');
  await settled(page);
  const without = await exportedController(page, 64);
  expect(without).toEqual(before.filter(([tick]) => tick < down[0] || tick > up[0]));
  await playLineTo(page, down[0] + 200);
  await page.getByTestId('lane-cc64').focus();
  await page.keyboard.press('Control+v');
  await settled(page);
  const put = (await exportedController(page, 64)).slice(0, 2);
  expect(put[1][0] - put[0][0]).toBe(up[0] - down[0]);
  expect(put.map(([, value]) => value)).toEqual([down[1], up[1]]);

  await openDemoFile(page, ORGAN);
  await addStep(page, 'Length');
  await page.getByRole('checkbox', { name: /pedal/ }).click();
  await settled(page);
  await addStep(page, 'Pedal');
  await page.getByLabel('Action', { exact: true }).selectOption('fromLengths');
  await settled(page);
  await expect(stops(page).nth(2)).toContainText('turn long notes into pedal');
  await expectSameAsCommandLine(page, ORGAN, [
    { kind: 'length', hold: 'fromPedal' },
    { kind: 'pedal', op: 'fromLengths' },
  ]);
});

test('dynamic marks are put, moved and joined in the lane itself; they can drive velocities too', async ({
  page,
}) => {
  await openDemoFile(page, ORGAN);
  await addStep(page, 'Curve');
  await page.getByLabel('Action', { exact: true }).selectOption('marks');
  await settled(page);
  // The lane of the step is there while it is stood at.
  await expect(page.getByRole('region', { name: 'Lane expression (11)' })).toBeVisible();
  await page.keyboard.press('d');
  for (const [tick, value] of [
    [480, 49],
    [2880, 80],
  ]) {
    // prettier-ignore
    const place = await placeInLane(page, 'cc11', tick, 1 - value / 127);
    await page.mouse.click(place.x, place.y);
    await settled(page);
  }
  await page.keyboard.press('s');
  const letters = await placeInLane(page, 'cc11', 2880, 1 - 80 / 127);
  await page.mouse.move(letters.x + 8, letters.y - 9);
  await page.mouse.down();
  const louder = await placeInLane(page, 'cc11', 3360, 1 - 96 / 127);
  await page.mouse.move(louder.x + 8, louder.y - 9, { steps: 6 });
  await page.mouse.up();
  const between = await placeInLane(page, 'cc11', 1500, 0.5);
  await page.mouse.dblclick(between.x, between.y);
  await settled(page);
  await expect(page.locator(undoWords).first()).toContainText('Hairpin from p to f');
  const marks = [
    { at: 480, mark: 'p', hairpin: true },
    { at: 3360, mark: 'f' },
  ];
  await expectSameAsCommandLine(page, ORGAN, [{ kind: 'curve', op: 'marks', marks }]);
  // With the drawing tool too a double click is for the hairpin, and leaves no mark.
  await page.keyboard.press('d');
  await page.mouse.dblclick(between.x, between.y);
  await settled(page);
  await expect(page.locator(undoWords).first()).toContainText('No hairpin after p');
  await expect(page.getByRole('list', { name: 'Dynamic marks' }).getByRole('listitem')).toHaveCount(2);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('s');
  await settled(page);
  await page.getByLabel('Lane', { exact: true }).selectOption('velocity');
  await settled(page);
  await expect(stops(page).nth(1)).toContainText('velocity: dynamic marks p to f');
  await expectSameAsCommandLine(page, ORGAN, [{ kind: 'curve', op: 'marks', lane: 'velocity', marks }]);
});

test('a stroke is heard while it is drawn, and given up leaves nothing', async ({ page }) => {
  await openDemoFile(page, ORGAN);
  await addLane(page, 'expression');
  const before = await exportedController(page, 11);
  await page.keyboard.press('d');
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible({ timeout: 20000 });
  const [from, to] = [await placeInLane(page, 'cc11', 900, 0.2), await placeInLane(page, 'cc11', 2400, 0.9)];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 12 });
  await page.waitForTimeout(150);
  await page.mouse.move(to.x + 2, to.y, { steps: 2 });
  // Under way already, so that the engine plays it.
  await expect(page.locator(undoWords).first()).toContainText('Draw in expression (11)');
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await page.keyboard.press(' ');
  await settled(page);
  await expect(page.locator(undoWords).first()).not.toContainText('Draw');
  expect(await exportedController(page, 11)).toEqual(before);
});

test('copied notes bring their controllers to another part; a curve is copied to others as a step', async ({
  page,
}) => {
  await openDemo(page);
  await page.getByRole('button', { name: /^Reed organ/ }).click();
  await settled(page);
  await addLane(page, 'expression');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+c');
  await page.getByRole('button', { name: /^Marimba/ }).click();
  await settled(page);
  await expect(page.getByTestId('points-cc11')).toHaveText('0 points');
  await page.keyboard.press('Home');
  await page.getByTestId('roll').focus();
  await page.keyboard.press('Control+v');
  await settled(page);
  await expect(page.getByTestId('points-cc11')).toHaveText(/^[5-9]\d\d points$/);
  await page.keyboard.press('Control+z');
  await settled(page);

  await page.getByRole('button', { name: /^Reed organ/ }).click();
  await settled(page);
  await page.getByRole('button', { name: 'More for expression (11)' }).click();
  await page.getByRole('menuitem', { name: /Copy this curve/ }).click();
  await page
    .getByRole('dialog')
    .getByRole('checkbox', { name: /^Tin whistle/ })
    .click();
  const count = Number.parseInt((await page.getByTestId('points-cc11').textContent()) ?? '', 10);
  await page.getByRole('dialog').getByRole('button', { name: 'Copy', exact: true }).click();
  await page.getByRole('button', { name: /^Tin whistle/ }).click();
  await settled(page);
  // And one behind its end, where the lane, which had held nothing there, is at rest.
  await expect(page.getByTestId('points-cc11')).toHaveText(`${count + 1} points`);
});

test('programs and the pressure of single keys are lanes; pressure goes with its note', async ({ page }) => {
  const track = [
    { deltaTime: 0, type: 'programChange', channel: 0, programNumber: 11 },
    { deltaTime: 0, type: 'noteOn', channel: 0, noteNumber: 60, velocity: 80 },
    { deltaTime: 240, type: 'noteAftertouch', channel: 0, noteNumber: 60, amount: 90 },
    { deltaTime: 240, type: 'noteOff', channel: 0, noteNumber: 60, velocity: 0 },
    { deltaTime: 0, type: 'endOfTrack' },
  ];
  const header = { format: 0, numTracks: 1, ticksPerBeat: 480 } as const;
  const bytes = new Uint8Array(writeMidi({ header, tracks: [track] } as Parameters<typeof writeMidi>[0]));
  await page.goto('/');
  await bringIn(page, [{ name: 'quay-chimes.mid', bytes }]);
  await settled(page);
  await addLane(page, 'key60');
  await expect(page.getByTestId('points-key60')).toHaveText('1 point');
  await addLane(page, 'program');
  await expect(page.getByTestId('points-program')).toHaveText('1 point');
  await page.keyboard.press('Control+a');
  await page.getByTestId('roll').focus();
  await page.keyboard.press('ArrowUp');
  await settled(page);
  await expect(page.getByTestId('points-key60')).toHaveText('0 points');
  await addLane(page, 'key61');
  await expect(page.getByTestId('points-key61')).toHaveText('1 point');
  await page.getByTestId('roll').focus();
  await page.keyboard.press('Control+d');
  await expect(page.getByTestId('points-key61')).toHaveText('2 points');
});
