import { readFileSync } from 'node:fs';
import { expect, separate, test } from './support/test';
import { boxOf, bringIn, demoPath, exportedNotes, openDemo, peerNotes, saved, settled } from './support/app';
import { undo } from './support/parts';
import { note, smallFile } from './support/smallFiles';
import { AHEAD, BAR, cell, choose, heads, inBars, plain, toTakes } from './support/takes';

const takeFile = (take: number) => peerNotes(readFileSync(demoPath(`ferry-marimba-take-${take}.mid`)));

test('a part is put together from its takes by mouse and keys; an independent reader finds the chosen notes in the export', async ({
  page,
}) => {
  await openDemo(page);
  await toTakes(page);
  await expect(page.getByTestId('takes-summary')).toHaveText('3 takes, 24 bars; 2 seams');
  // One click, and one drag over three bars.
  await choose(page, 2, 3);
  await expect(undo(page)).toContainText('Choose Take 2 for bar 3');
  const [from, to] = [await cell(page, 3, 5), await cell(page, 3, 7)];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
  await expect(undo(page)).toContainText('Choose Take 3 for bars 5 to 7');
  await expect(page.getByTestId('takes-summary')).toHaveText('3 takes, 24 bars; 6 seams');
  // By key: down to the next take and on by a bar, two bars at once.
  await choose(page, 1, 1);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Enter');
  await expect(undo(page)).toContainText('Choose Take 2 for bars 1 to 2');
  // What is in sight stays so over another place and a reload.
  await page.getByRole('button', { name: 'Show fewer bars' }).click();
  const seen = await cell(page, 2, 4);
  await page.getByRole('link', { name: 'Parts', exact: true }).click();
  await toTakes(page);
  expect(await cell(page, 2, 4)).toEqual(seen);
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('takes-summary')).toHaveText('3 takes, 24 bars; 5 seams');
  await expect.poll(() => cell(page, 2, 4)).toEqual(seen);
  const notes = (await exportedNotes(page)).filter(({ track }) => track === 1);
  expect(inBars(notes, 1, 3)).toEqual(inBars(takeFile(2), 1, 3));
  expect(inBars(notes, 4, 4)).toEqual(inBars(takeFile(1), 4, 4));
  expect(inBars(notes, 5, 7)).toEqual(inBars(takeFile(3), 5, 7));
  expect(inBars(notes, 8, 8)).toEqual(inBars(takeFile(1), 8, 8));
  expect(inBars(notes, 9, 16)).toEqual(inBars(takeFile(2), 9, 16));
  // All of it is taken back.
  for (let action = 0; action < 3; action++) await page.keyboard.press('Control+z');
  await expect(undo(page)).toBeDisabled();
  const before = (await exportedNotes(page)).filter(({ track }) => track === 1);
  expect(inBars(before, 1, 8)).toEqual(inBars(takeFile(1), 1, 8));
});

separate('a take that is chosen while its bar is looped is what sounds at once', async ({ page }) => {
  // What goes to the audio thread is kept; what it makes of it is tested by rendered sound.
  await page.addInitScript(() => {
    const scores: { program: number; starts: number[]; pitches: number[] }[][] = [];
    Object.assign(globalThis, { scoresSent: scores });
    const send = MessagePort.prototype.postMessage as (...args: unknown[]) => void;
    MessagePort.prototype.postMessage = function (this: MessagePort, ...args: unknown[]) {
      const message = args[0] as {
        type?: string;
        score?: {
          parts: { program: number; playback: { noteStart: Float64Array; notePitch: Uint8Array } }[];
        };
      } | null;
      if (message?.type === 'score' && message.score)
        scores.push(
          message.score.parts.map(({ program, playback }) => ({
            program,
            starts: [...playback.noteStart],
            pitches: [...playback.notePitch],
          })),
        );
      send.apply(this, args);
    };
  });
  await openDemo(page);
  await toTakes(page);
  const box = await boxOf(page.getByTestId('takes'));
  const [from, to] = [await cell(page, 1, 3), await cell(page, 1, 4)];
  await page.mouse.move(from.x, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(to.x, box.y + 12, { steps: 3 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const secondsPerTick = 60 / 104 / 480;
  const heard = () =>
    page.evaluate(() => {
      const all = (
        globalThis as unknown as { scoresSent: { program: number; starts: number[]; pitches: number[] }[][] }
      ).scoresSent;
      // The marimba of General MIDI.
      return all.at(-1)?.find(({ program }) => program === 12) ?? { starts: [], pitches: [] };
    });
  const inBarThree = async () => {
    const { starts, pitches } = await heard();
    return starts
      .map((second, row) => [Math.round(second / secondsPerTick), pitches[row]])
      .filter(([tick]) => tick >= 2 * BAR - AHEAD && tick < 3 * BAR - AHEAD);
  };
  const takeInBarThree = (take: number) =>
    takeFile(take)
      .filter(({ start }) => start >= 2 * BAR - AHEAD && start < 3 * BAR - AHEAD)
      .map(({ start, pitch }) => [start, pitch]);
  await expect.poll(inBarThree).toEqual(takeInBarThree(1));
  await choose(page, 2, 3);
  await expect.poll(inBarThree).toEqual(takeInBarThree(2));
  await page.getByRole('button', { name: 'Stop' }).click();
});

test('a proposal is seen, heard and changed before it is accepted', async ({ page }) => {
  await openDemo(page);
  await toTakes(page);
  await page.getByTestId('takes').focus();
  await page.keyboard.press('p');
  const proposal = page.getByTestId('proposal');
  await expect(proposal).toContainText(
    /Changes \d+ bars of 24, in dashed frames: ±\d+ ms instead of ±\d+ ms/,
  );
  await expect(undo(page)).toBeDisabled();
  const changes = Number(/Changes (\d+)/.exec((await proposal.textContent()) ?? '')?.[1]);
  // Another take for one bar: nothing is chosen yet.
  await choose(page, 3, 2);
  await expect(proposal).toContainText(`Changes ${changes + 1} bars`);
  await expect(undo(page)).toBeDisabled();
  await page.getByRole('button', { name: 'Hear it' }).click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await page.keyboard.press('Space');
  await page.getByRole('button', { name: 'Accept' }).click();
  await expect(undo(page)).toContainText(`Accept the tightest takes, ${changes + 1} bars`);
  const notes = (await exportedNotes(page)).filter(({ track }) => track === 1);
  expect(inBars(notes, 2, 2)).toEqual(inBars(takeFile(3), 2, 2));
});

test('takes come from files, are layered with doubles dropped, slid to match and split into passes', async ({
  page,
}) => {
  await page.goto('/');
  const first = [0, 480, 960, 1440, 1920, 2400].flatMap((at) => note(at, at + 200, 60, 50));
  const late = [100, 580, 1060, 1540, 2020, 2500].flatMap((at) => note(at, at + 200, 60, 90));
  const loop = [0, 1, 2, 3].flatMap((pass) =>
    [0, 500, 2900].flatMap((at, index) =>
      note(at + pass * 3840, at + pass * 3840 + 200, 64 + index, 40 + pass),
    ),
  );
  await bringIn(page, [smallFile('quay.mid', { bell: first })]);
  await settled(page);
  await toTakes(page);
  const files = [smallFile('late.mid', { bell: late }), smallFile('loop.mid', { bell: loop })];
  await page
    .getByLabel('Files with takes')
    .setInputFiles(
      files.map(({ name, bytes }) => ({ name, mimeType: 'audio/midi', buffer: Buffer.from(bytes) })),
    );
  await expect(page.getByText('2 takes added, lined up.')).toBeVisible();
  await expect(heads(page)).toHaveCount(3);
  // It was lined up as it came.
  await expect(page.getByLabel('Slide of late')).toHaveValue('-104.2');

  // The late take is slid to where the first is: 100 ticks at 120 bpm are 104.2 ms.
  await page.getByRole('button', { name: 'More for late' }).click();
  await page.getByRole('menuitem', { name: 'Slide or line up' }).click();
  await page.getByLabel('Slide to match').selectOption({ label: 'bell' });
  await expect(page.getByRole('status').filter({ hasText: '100 % of its notes match' })).toBeVisible();
  await expect(page.getByLabel('Slide in milliseconds')).toHaveValue('-104.2');
  await page.getByLabel('Slide in beats').fill('-0.25');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Slide in milliseconds')).toHaveValue('-125');
  await page.getByLabel('Slide in milliseconds').fill('-104.1667');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByLabel('Slide of late')).toHaveValue('-104.2');

  // Layered over bar 1; the louder of each double stays.
  await page.getByRole('radio', { name: 'layer' }).click();
  await choose(page, 2, 1);
  await expect(page.getByTestId('takes-summary')).toContainText('2 layers');
  await page.getByRole('radio', { name: 'louder' }).click();
  await expect(page.getByTestId('assembled')).toContainText('4 doubles dropped');
  const layered = (await exportedNotes(page)).map(plain);
  expect(layered).toEqual([0, 480, 960, 1440, 1920, 2400].map((at) => [at, 60, at < BAR ? 90 : 50]));

  // The loop played on and on becomes four takes of two bars.
  await toTakes(page);
  await page.getByRole('button', { name: 'More for loop' }).click();
  await page.getByRole('menuitem', { name: 'Split into passes' }).click();
  await expect(page.getByText('It repeats after 2 bars.')).toBeVisible();
  await page.getByRole('radio', { name: 'by length' }).click();
  await page.getByLabel('Seconds of a pass').fill('2');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Make 8 takes' })).toBeVisible();
  await page.getByRole('radio', { name: 'by bars' }).click();
  await page.getByRole('button', { name: 'Make 4 takes' }).click();
  await expect(heads(page)).toHaveCount(6);
  await choose(page, 5, 1);
  await choose(page, 5, 2);
  const chosen = (await exportedNotes(page)).map(plain);
  // What is layered over it stays.
  expect(chosen).toEqual([
    [0, 60, 90],
    [0, 64, 42],
    [480, 60, 90],
    [500, 65, 42],
    [960, 60, 90],
    [1440, 60, 90],
    [2900, 66, 42],
  ]);
});
