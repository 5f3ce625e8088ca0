import { expect, test } from './support/test';
import {
  addStep,
  expectSameAsCommandLine,
  openDemo,
  openDemoFile,
  settled,
  stops,
  typeValue,
} from './support/app';
import { besideKeys, canvasLayout, dragOver, onBars, onRoll, onRuler, onStrip } from './support/canvas';

const BASS = 'ferry-upright-bass.mid';
/** A place inside a bar of 4/4 at 480 ticks a quarter. */
const inBar = (bar: number, beats = 2) => (bar - 1) * 1920 + beats * 480;

test('a where is dragged under the ruler and beside the keys, taken by its ends, split at the play line, and lights its notes', async ({
  page,
}) => {
  await openDemoFile(page, BASS);
  await addStep(page, 'Quantize');
  await typeValue(page, 'Strength, typed', '100');
  // Bars 2 to 3 in one drag, then its end on to bar 4.
  await dragOver(page, [onStrip(inBar(2)), onStrip(inBar(3))]);
  await expect(page.getByLabel('First bar')).toHaveValue('2');
  await expect(page.getByLabel('Last bar')).toHaveValue('3');
  await dragOver(page, [onStrip(inBar(4, 0)), onStrip(inBar(4))]);
  await expect(page.getByLabel('Last bar')).toHaveValue('4');
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('Where: bars 2 to 4');
  // Given up half-way it is as if it had not been.
  await dragOver(page, [onStrip(inBar(3)), onStrip(inBar(4))], [], false);
  await expect(page.getByLabel('Last bar')).toHaveValue('5');
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(page.getByLabel('Last bar')).toHaveValue('4');
  // Alt does the same on the ruler itself, where a plain drag makes a loop.
  await dragOver(page, [onRuler(inBar(1)), onRuler(inBar(4))], ['Alt']);
  await expect(page.getByLabel('First bar')).toHaveValue('1');
  await dragOver(page, [besideKeys(40), besideKeys(45)]);
  await expect(page.getByLabel('pitches, from')).toHaveValue('40');
  await expect(page.getByLabel('pitches, to')).toHaveValue('45');
  await page.getByRole('checkbox', { name: 'pitches' }).click();

  // The play line goes to bar 3, and the step is split there: the second half gets its own strength.
  const layout = await canvasLayout(page);
  const bar3 = onRuler(inBar(3, 0.02))(layout);
  await page.mouse.click(bar3.x, bar3.y);
  await page.getByRole('button', { name: 'Split at the play line' }).click();
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('Split quantize at bar 3');
  await expect(stops(page)).toHaveCount(4);
  await expect(page.getByLabel('First bar')).toHaveValue('3');
  await typeValue(page, 'Strength, typed', '40');
  await settled(page);
  // Pointing at the first half's span names it; a click stands there.
  const first = onStrip(inBar(1))(await canvasLayout(page));
  await page.mouse.move(first.x, first.y);
  await expect(page.getByTestId('span-tip')).toContainText('Quantize 1/8, 100 %, bars 1 to 2');
  await page.mouse.click(first.x, first.y);
  await expect(page.getByLabel('Last bar')).toHaveValue('2');
  await expectSameAsCommandLine(page, BASS, [
    { kind: 'quantize', grid: '1/8', strength: 100, where: { bars: [1, 3] } },
    { kind: 'quantize', grid: '1/8', strength: 40, where: { bars: [3, 5] } },
  ]);
});

test('bars are moved along the harmony in their lane, and a key is offered that the notes suggest', async ({
  page,
}) => {
  await openDemoFile(page, BASS);
  await addStep(page, 'Transpose');
  await dragOver(page, [onBars(inBar(2)), onBars(inBar(2), 25), onBars(inBar(3), 25)]);
  await expect(stops(page).nth(1)).toContainText('1 section');
  await expect(page.getByLabel('Semitones of the section')).toHaveValue('5');
  await dragOver(page, [onBars(inBar(3), 0), onBars(inBar(3), -35)]);
  await expect(page.getByRole('button', { name: /^Undo/ })).toContainText('Move bar 3 by second down');
  await page.getByRole('checkbox', { name: 'degrees of a key' }).click();
  await expect(page.getByLabel('Key', { exact: true })).toHaveValue('D minor');
  await page.getByLabel('Key', { exact: true }).selectOption('C major');
  await expect(page.getByText('The notes suggest D minor')).toBeVisible();
  await page.getByRole('button', { name: 'take it' }).click();
  await settled(page);
  await expectSameAsCommandLine(page, BASS, [
    {
      kind: 'transpose',
      degrees: 2,
      key: 'D minor',
      sections: [
        { bars: [2, 3], semitones: 5 },
        { bars: [3, 4], semitones: -2 },
      ],
    },
  ]);
});

test('selected notes are stretched by the grip at their end and by keys; half after double changes nothing', async ({
  page,
}) => {
  await openDemoFile(page, BASS);
  // The first two notes of the part, by key.
  await page.keyboard.press('.');
  await page.keyboard.press('Shift+.');
  await expect(page.getByTestId('selected')).toContainText('2 notes');
  const span = await page.getByTestId('roll').evaluate((canvas) => {
    const { ordleEditor } = canvas as unknown as {
      ordleEditor: { selectionSpan(): { from: number; to: number } };
    };
    return ordleEditor.selectionSpan();
  });
  const grip = (tick: number) => (layout: Awaited<ReturnType<typeof canvasLayout>>) => ({
    x: onRoll(tick, 0)(layout).x,
    y: layout.top + layout.overview + layout.ruler + layout.spans + 8,
  });
  await dragOver(page, [grip(span.to), grip(span.from + 2 * (span.to - span.from))], ['Alt']);
  await expect(page.getByRole('heading', { name: 'Stretch' })).toBeVisible();
  const factor = Number(await page.getByLabel('Factor').inputValue());
  expect(Math.abs(factor - 2)).toBeLessThan(0.05);
  await page.keyboard.press('Alt+Shift+ArrowLeft');
  await expect(page.getByLabel('Factor')).toHaveValue(String(Number((factor / 2).toFixed(6))));
  await typeValue(page, 'Factor', '1');
  await settled(page);
  await expect(stops(page)).toHaveCount(3);
  await expectSameAsCommandLine(page, BASS, []);
  await page.keyboard.press('Control+a');
  await page.locator('[data-stop=cleaned]').click();
  await page.keyboard.press('Alt+Shift+ArrowRight');
  await page.keyboard.press('Alt+Shift+ArrowRight');
  await settled(page);
  await expectSameAsCommandLine(page, BASS, [{ kind: 'stretch', factor: 4 }]);
  await page.keyboard.press('Alt+Shift+ArrowLeft');
  await page.keyboard.press('Alt+Shift+ArrowLeft');
  await settled(page);
  await expectSameAsCommandLine(page, BASS, []);
});

test('pointing at a stop lights its notes and veils the others', async ({ page }) => {
  await openDemo(page);
  await addStep(page, 'Quantize');
  await page.getByText('Only some notes').click();
  await page.getByRole('radio', { name: 'lowest' }).click();
  await settled(page);
  const lit = () =>
    page.getByTestId('roll').evaluate((canvas) => {
      const { ordleEditor } = canvas as unknown as { ordleEditor: { litRows(): number | null } };
      return ordleEditor.litRows();
    });
  expect(await lit()).toBeNull();
  await stops(page).nth(1).hover();
  await expect.poll(lit).toBeGreaterThan(50);
  expect(await lit()).toBeLessThan(325);
  await page.getByTestId('roll').hover();
  await expect.poll(lit).toBeNull();
});
