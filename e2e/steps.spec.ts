import { readFileSync } from 'node:fs';
import { expect, test } from './support/test';
import {
  addStep,
  openDemo,
  settled,
  stops,
  expectSameAsCommandLine,
  openDemoFile,
  typeValue,
} from './support/app';

test("steps of every kind for timing, pitch, velocity and length stack up, and the export is the command line's byte for byte", async ({
  page,
}) => {
  const name = 'ferry-upright-bass.mid';
  await openDemoFile(page, name);
  await addStep(page, 'Nudge');
  await typeValue(page, 'Milliseconds, typed', '-24');
  await addStep(page, 'Groove');
  await page.getByRole('radio', { name: 'sixteenth swing', exact: true }).click();
  await addStep(page, 'Humanize');
  await addStep(page, 'Transpose');
  await page.getByRole('button', { name: 'Octave up' }).click();
  await addStep(page, 'Velocity');
  await page.getByRole('checkbox', { name: 'even out, by ratio' }).click();
  await typeValue(page, 'even out, by ratio, typed', '1.5');
  await typeValue(page, 'Around', '76');
  await page.getByRole('checkbox', { name: 'ramp' }).click();
  await addStep(page, 'Length');
  await page.getByRole('checkbox', { name: 'scale' }).click();
  await typeValue(page, 'scale, typed', '80');
  await addStep(page, 'Stretch');
  await page.getByRole('button', { name: 'Double' }).click();
  await addStep(page, 'Remove');
  await page.getByRole('checkbox', { name: 'softer than' }).click();
  await settled(page);
  await expect(stops(page)).toHaveCount(10);
  await expectSameAsCommandLine(page, name, [
    { kind: 'nudge', ms: -24 },
    { kind: 'groove', groove: 'sixteenth swing', straighten: 100 },
    { kind: 'humanize', timingMs: 6, velocity: 4, drift: 50 },
    { kind: 'transpose', semitones: 12 },
    { kind: 'velocity', compress: { ratio: 1.5, around: 76 }, ramp: { from: 60, to: 96 } },
    { kind: 'length', scale: 80 },
    { kind: 'stretch', factor: 2, anchor: 'bar' },
    { kind: 'remove', softerThan: 15, doublesWithinMs: 40 },
  ]);
});

test("stretches of a part are laid along the bars and its beats moved, and the export is the command line's byte for byte", async ({
  page,
}) => {
  const name = 'ferry-upright-bass.mid';
  await openDemoFile(page, name);
  await addStep(page, 'Layout');
  await typeValue(page, 'Bar after the last of stretch 1', '3');
  await typeValue(page, 'Times of stretch 1', '2');
  await page.getByRole('button', { name: 'Add a stretch' }).click();
  await typeValue(page, 'First bar of stretch 2', '5');
  await typeValue(page, 'Factor of stretch 2', '2');
  await page.getByLabel('Held notes of stretch 2').selectOption('cut');
  // It touches the whole part, and a part has one.
  await expect(page.getByRole('button', { name: 'Split' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Add a step' }).click();
  await expect(page.getByRole('menuitem', { name: /^Layout/ })).toHaveCount(0);
  await page.keyboard.press('Escape');
  await addStep(page, 'Pulse');
  await typeValue(page, 'Beat 2 move to', '50');
  await typeValue(page, 'Beat 2 was played at', '40');
  await typeValue(page, 'Strength, typed', '60');
  await settled(page);
  const block = { from: 0, to: 8, at: 0, times: 2 };
  await expectSameAsCommandLine(page, name, [
    {
      kind: 'layout',
      blocks: [block, { ...block, from: 16, to: 24, at: 16, times: 1, stretch: 2, held: 'cut' }],
    },
    {
      kind: 'pulse',
      beats: [
        [0, 0],
        [40, 50],
      ],
      strength: 60,
    },
  ]);
});

test('a list of steps is saved as a recipe, applied to several parts as one action, and comes back from its file', async ({
  page,
}) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Add quantize' }).click();
  await typeValue(page, 'Strength, typed', '66');
  await addStep(page, 'Transpose');
  await page.getByRole('button', { name: 'Octave up' }).click();
  await page.keyboard.press('r');
  await page.getByLabel('Name of the recipe').fill('quay');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export quay' }).click(),
  ]);
  const text = readFileSync(await download.path(), 'utf8');
  expect(JSON.parse(text)).toMatchObject({
    ordle: 'recipe',
    version: 1,
    name: 'quay',
    steps: [
      { kind: 'quantize', strength: 66 },
      { kind: 'transpose', semitones: 12 },
    ],
  });
  await page.getByRole('button', { name: 'Delete quay' }).click();
  await page.setInputFiles('input[aria-label="Recipes to import"]', {
    name: 'quay.json',
    mimeType: 'application/json',
    buffer: Buffer.from(text),
  });
  await page.getByRole('checkbox', { name: 'Marimba' }).click();
  await page.getByRole('checkbox', { name: 'Upright bass' }).click();
  await page.getByRole('checkbox', { name: 'Reed organ' }).click();
  await page.getByRole('button', { name: 'Apply quay', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('Apply quay to 2 parts');
  await page.getByRole('button', { name: /^Upright bass/ }).click();
  await expect(stops(page)).toHaveCount(4);
  await expect(stops(page).nth(1)).toContainText('66 %');
  await page.keyboard.press('Control+z');
  await expect(stops(page)).toHaveCount(2);
});

test('the groove of a part is taken, named, kept for other sessions and carried as a file', async ({
  page,
}) => {
  await openDemo(page);
  await addStep(page, 'Groove');
  await page.getByLabel('Part to take the groove of').selectOption({ label: 'Brush kit' });
  await page.getByRole('button', { name: 'Take', exact: true }).click();
  await expect(page.getByLabel('Name of the groove')).toHaveValue('groove of Brush kit');
  await page.getByLabel('Name of the groove').fill('brushes');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByLabel('Settings').getByRole('button', { name: 'Export' }).click(),
  ]);
  const groove = JSON.parse(readFileSync(await download.path(), 'utf8'));
  expect(groove).toMatchObject({ name: 'brushes', grid: '1/16', beats: 4 });
  expect(groove.points).toHaveLength(16);
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await page.getByRole('link', { name: 'Tide table' }).click();
  await settled(page);
  await addStep(page, 'Groove');
  await page.getByRole('radio', { name: 'brushes' }).click();
  await settled(page);
  await expect(stops(page).nth(1)).toContainText('brushes');
});
