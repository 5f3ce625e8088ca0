import { expect, test } from './support/test';
import { addStep, openDemo, openDemoFile, saved, settled, stops, typeValue } from './support/app';
import { canvasLayout } from './support/canvas';
import { addLane, exportedController, placeInLane, playLineTo, strokeIn } from './support/lanes';

const ORGAN = 'ferry-reed-organ.mid';

test('a curve is drawn, kept over a reload, thinned and deleted again; an independent reader finds each in the export', async ({
  page,
}) => {
  await openDemoFile(page, ORGAN);
  const before = await exportedController(page, 11);
  await addLane(page, 'expression');
  await expect(page.getByTestId('points-cc11')).toHaveText(`${before.length} points`);
  // A straight line over bars 1 and 2, from the bottom to the top.
  await page.keyboard.press('d');
  await strokeIn(
    page,
    'cc11',
    [
      [100, 1],
      [3700, 0],
    ],
    ['Shift'],
  );
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('Draw a line in expression (11)');
  await saved(page);
  await page.reload();
  await settled(page);
  const drawn = await exportedController(page, 11);
  const line = drawn.filter(([tick]) => tick >= 90 && tick <= 3710).map(([, value]) => value);
  // Behind the line what held there holds on.
  expect(line.pop()).toBe(before.filter(([tick]) => tick <= 3710).at(-1)?.[1]);
  expect(line[0]).toBeLessThan(6);
  expect(line.at(-1)).toBeGreaterThan(121);
  line.slice(1).forEach((value, at) => expect(value).toBeGreaterThanOrEqual(line[at]));
  expect(drawn.filter(([tick]) => tick > 3800)).toEqual(before.filter(([tick]) => tick > 3800));

  // Thinned by a step, which says how many points it saved and how far it is off.
  await addStep(page, 'Curve');
  await page.getByLabel('Action', { exact: true }).selectOption('thin');
  await typeValue(page, 'At most off by, typed', '2');
  await expect(page.getByTestId('points-saved')).toContainText(/\d+ of \d+/);
  const error = Number.parseFloat((await page.getByTestId('largest-error').textContent()) ?? 'NaN');
  expect(error).toBeLessThanOrEqual(2);
  const thin = await exportedController(page, 11);
  expect(thin.length).toBeLessThan(drawn.length / 2);
  // Held as played the lane shows what was played, and what is cleaned again afterwards.
  const points = page.getByTestId('points-cc11');
  await expect(points).toHaveText(`${thin.length} points`);
  await page.getByTestId('roll').focus();
  await page.keyboard.down('b');
  await expect(points).toHaveText(`${before.length} points`);
  await page.keyboard.up('b');
  await expect(points).toHaveText(`${thin.length} points`);

  // Only the controllers of bars 1 to 2 go; the notes stay.
  await page.locator('[data-stop=cleaned]').click();
  const layout = await canvasLayout(page);
  const ruler = {
    y: layout.top + layout.overview + layout.ruler / 2,
    x: (tick: number) => layout.left + layout.gutter + (tick - layout.tick) / layout.ticksPerPixel,
  };
  await page.mouse.move(ruler.x(50), ruler.y);
  await page.mouse.down();
  await page.mouse.move(ruler.x(3700), ruler.y, { steps: 5 });
  await page.mouse.up();
  await page.keyboard.press('Shift+Delete');
  await page
    .getByRole('dialog')
    .getByRole('checkbox', { name: /^sustain pedal/ })
    .click();
  await page.getByRole('dialog').getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText(
    'Delete expression (11) in bars 1 to 2',
  );
  const left = await exportedController(page, 11);
  expect(left.filter(([tick]) => tick < 3840)).toEqual([]);
  // What held at the end of the stretch holds on from there.
  const held = thin.findLast(([tick]) => tick < 3840)?.[1];
  expect(left.filter(([tick]) => tick >= 3840)).toEqual([
    [3840, held],
    ...thin.filter(([tick]) => tick >= 3840),
  ]);
  await expect(page.getByTestId('roll')).toHaveAttribute('aria-label', /120 notes/);
});

test('lines drawn by hand are shaped further, whichever was drawn last, also after a reload and after others', async ({
  page,
}) => {
  await openDemoFile(page, ORGAN);
  await addLane(page, 'expression');
  await page.keyboard.press('d');
  const ramp = (from: number, to: number) =>
    strokeIn(page, 'cc11', [[from, 1], [to, 0]], ['Shift']); // prettier-ignore
  await ramp(100, 1700);
  await ramp(2000, 3600);
  await saved(page);
  await page.reload();
  await settled(page);
  await page.keyboard.press('s');
  const at = async (tick: number) =>
    (await exportedController(page, 11)).findLast(([each]) => each <= tick)?.[1] ?? -1;
  const straight = await at(900);
  expect(Math.abs(straight - 64)).toBeLessThan(6);
  // The one drawn first is bent by its middle.
  await strokeIn(page, 'cc11', [
    [900, 0.5],
    [900, 0.2],
  ]);
  const undo = page.getByRole('button', { name: /^Undo/ });
  await expect(undo).toContainText('Bend a line in expression (11)');
  expect(Math.abs((await at(900)) - 101)).toBeLessThan(6);
  expect(Math.abs((await at(2800)) - 64)).toBeLessThan(6);
  // And the end of the other is taken back: what it ends with holds on to where it ended.
  await strokeIn(page, 'cc11', [
    [3600, 0],
    [3000, 0.4],
  ]);
  await expect(undo).toContainText('Move the end of a line in expression (11)');
  const end = await at(3050);
  expect(Math.abs(end - 76)).toBeLessThan(6);
  expect(await at(3550)).toBe(end);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  expect(await at(900)).toBe(straight);
});

test('a line is put and shaped by keys alone, and bent by a finger', async ({ page, browser }) => {
  await openDemoFile(page, ORGAN);
  await addLane(page, 'expression');
  await playLineTo(page, 0);
  await page.getByTestId('lane-cc11').focus();
  await page.keyboard.press('ContextMenu');
  const put = page.getByRole('menuitem', { name: 'Put a line at the play line' });
  await put.focus();
  await page.keyboard.press('Enter');
  await settled(page);
  const undo = page.getByRole('button', { name: /^Undo/ });
  await expect(undo).toContainText('Draw a line in expression (11)');
  const type = async (field: string, text: string) => {
    await page.getByLabel(field).focus();
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
    await expect(undo).toContainText('Shape a line in expression (11)');
    await settled(page);
  };
  await type('Start of line 1, value', '10');
  await type('End of line 1, value', '90');
  await type('Half-way of line 1, value', '20');
  await type('End of line 1, place', '3.1');
  const at = async (tick: number) =>
    (await exportedController(page, 11)).findLast(([each]) => each <= tick)?.[1] ?? -1;
  expect(await at(0)).toBe(10);
  expect(Math.abs((await at(1920)) - 20)).toBeLessThan(2);
  expect(await at(3840)).toBe(90);

  // The same line under a finger, in a page that has nothing else.
  await saved(page);
  const context = await browser.newContext({
    hasTouch: true,
    viewport: { width: 1280, height: 800 },
    storageState: await page.context().storageState({ indexedDB: true }),
  });
  const touched = await context.newPage();
  await touched.goto(page.url());
  await settled(touched);
  const from = await placeInLane(touched, 'cc11', 1920, 1 - 20 / 127);
  const to = await placeInLane(touched, 'cc11', 1920, 0.3);
  const session = await context.newCDPSession(touched);
  const touch = (type: string, points: { x: number; y: number }[]) =>
    session.send('Input.dispatchTouchEvent', { type: type as 'touchStart', touchPoints: points });
  // A finger is not a needle: it comes down beside the ring.
  await touch('touchStart', [{ x: from.x + 12, y: from.y - 10 }]);
  for (const share of [0.3, 0.6, 1])
    await touch('touchMove', [{ x: to.x, y: from.y + share * (to.y - from.y) }]);
  await touch('touchEnd', []);
  await expect(touched.getByRole('button', { name: /^Undo/ })).toContainText(
    'Bend a line in expression (11)',
  );
  await context.close();
});

test('presses of the pedal are drawn, moved and erased as bars, and renewed from the harmony by a step', async ({
  page,
}) => {
  await openDemoFile(page, ORGAN);
  await addLane(page, 'sustain');
  const before = await exportedController(page, 64);
  await page.keyboard.press('e');
  const [first] = before.filter(([, value]) => value >= 64);
  await strokeIn(page, 'cc64', [
    [first[0] + 300, 0.5],
    [first[0] + 320, 0.5],
  ]);
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('Erase a press of the pedal');
  await page.keyboard.press('d');
  await page.keyboard.press('n');
  await strokeIn(page, 'cc64', [
    [240, 0],
    [960, 0],
  ]);
  const drawn = (await exportedController(page, 64)).filter(([tick]) => tick < 1500);
  expect(drawn.map(([, value]) => value)).toEqual([127, 0]);
  expect(Math.abs(drawn[0][0] - 240)).toBeLessThan(15);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await addStep(page, 'Pedal');
  await page.getByLabel('Action', { exact: true }).selectOption('repedal');
  await settled(page);
  await expect(stops(page).nth(1)).toContainText('re-pedal at chord changes');
});

test('lanes are added by number or name, folded, made higher and closed', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: /^Tin whistle/ }).click();
  await settled(page);
  await page.getByRole('button', { name: /add a lane/ }).click();
  await expect(page.getByRole('option', { name: /pitch bend 894 points/ })).toBeVisible();
  await page.keyboard.press('Escape');
  // As long as the list stands, keys are for it.
  await expect(page.getByPlaceholder('Number or name')).toBeHidden();
  await addLane(page, 'bend');
  await addLane(page, '74');
  const lane = page.getByRole('region', { name: 'Lane brightness (74)' });
  await expect(lane).toBeVisible();
  const separator = lane.getByRole('separator');
  await separator.focus();
  await page.keyboard.press('ArrowDown');
  await expect(separator).toHaveAttribute('aria-valuenow', '108');
  await lane.getByRole('button', { name: 'Fold brightness (74)' }).click();
  await expect(page.getByTestId('lane-cc74')).toHaveCount(0);
  await lane.getByRole('button', { name: 'Close brightness (74)' }).click();
  await expect(lane).toHaveCount(0);
  // More lanes than there is room for are scrolled by the wheel.
  for (const name of ['7', '10', '2']) await addLane(page, name);
  await page.getByTestId('lane-bend').hover();
  await page.mouse.wheel(0, 120);
  const stack = page.getByRole('region', { name: 'Lanes', exact: true }).locator('> div');
  await expect.poll(() => stack.evaluate((element) => element.scrollTop)).toBeGreaterThan(50);
  for (const name of ['volume (7)', 'pan (10)', 'breath (2)'])
    await page.getByRole('button', { name: `Close ${name}` }).click();

  // The velocity lane is as high as its upper edge is dragged, stays so, and comes back from the list of lanes.
  const before = await canvasLayout(page);
  await page.mouse.move(before.left + 300, before.top + before.height - before.velocities);
  await page.mouse.down();
  await page.mouse.move(before.left + 300, before.top + before.height - before.velocities - 40, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await canvasLayout(page)).velocities).toBe(before.velocities + 40);
  await page.keyboard.press('v');
  await expect.poll(async () => (await canvasLayout(page)).velocities).toBe(0);
  await addLane(page, 'velocity');
  await expect.poll(async () => (await canvasLayout(page)).velocities).toBe(before.velocities + 40);
});

test('dynamic marks and a hairpin make a curve through an editable table, and stay editable', async ({
  page,
}) => {
  await openDemoFile(page, ORGAN);
  await addLane(page, 'expression');
  await addStep(page, 'Curve');
  await page.getByLabel('Action', { exact: true }).selectOption('marks');
  await page.getByRole('button', { name: 'Add a mark at the play line' }).click();
  await page.getByLabel('Mark 1', { exact: true }).selectOption('p');
  await page.keyboard.press('Home');
  await typeValue(page, 'Bar of mark 1', '3');
  await page.getByRole('button', { name: 'Add a mark at the play line' }).click();
  await page.getByLabel('Mark 1', { exact: true }).selectOption('f');
  await page.getByRole('checkbox', { name: 'hairpin' }).click();
  await page.getByText('what the marks stand for').click();
  await typeValue(page, 'Value of p', '40');
  await settled(page);
  await expect(stops(page).nth(1)).toContainText('expression (11): dynamic marks f to p');
  const values = await exportedController(page, 11);
  const fade = values.filter(([tick]) => tick < 3840).map(([, value]) => value);
  expect(fade).toEqual(Array.from({ length: 57 }, (_, step) => 96 - step));
  expect(values.at(-1)).toEqual([3840, 40]);
});
