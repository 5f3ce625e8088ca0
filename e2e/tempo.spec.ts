import { expect, test, type Page } from './support/test';
import { parseMidi } from 'midi-file';
import { boxOf, bringIn, bytesOf, settled } from './support/app';
import { undo } from './support/parts';
import { note, smallFile } from './support/smallFiles';

interface TempoHandle {
  placeOfBeat(beat: number): { x: number; y: number };
  placeOf(ms: number): { x: number; y: number };
}

/** A bass note and, in another part, a chord on each beat at 90 bpm, in a file that says 120: a second is 960 ticks. */
const BEAT = 60 / 90;
const free = () =>
  smallFile('fog.mid', {
    keys: beats.flatMap((at, beat) => [
      ...note(at, at + 500, 64 + (Math.floor(beat / 4) % 3), 74),
      ...note(at + 320, at + 500, 72, 55),
    ]),
    bass: beats.flatMap((at, beat) =>
      beat % 4 === 0 ? note(at, at + 560, 36 + ((beat / 4) % 3) * 5, 100, 1) : note(at, at + 560, 48, 72, 1),
    ),
  });
const beats = Array.from({ length: 48 }, (_, beat) => Math.round((0.9 + beat * BEAT) * 960));

async function toTempo(page: Page) {
  await page.getByRole('link', { name: 'Tempo', exact: true }).click();
  await expect(page.getByTestId('tempo')).toHaveAttribute('data-read', 'true');
}

/** The place of a beat's post on the page. */
async function post(page: Page, beat: number) {
  const canvas = page.getByTestId('tempo');
  const box = await boxOf(canvas);
  const { x, y } = await canvas.evaluate(
    (element, at) => (element as unknown as { ordleEditor: TempoHandle }).ordleEditor.placeOfBeat(at),
    beat,
  );
  return { x: box.x + x, y: box.y + y };
}

/** The free performance on Tempo, its beats found. */
async function openFree(page: Page) {
  await page.goto('/');
  await bringIn(page, [free()]);
  await settled(page);
  await toTempo(page);
  await expect.poll(() => bpm(page)).toBeCloseTo(90, 0);
}

const bpm = async (page: Page) => Number(await page.getByTestId('bpm').textContent());

test('the beats of a free performance are found, corrected and settled; the export plays as it was played, under its tempo', async ({
  page,
}) => {
  await openFree(page);
  // Another level, and back.
  await page.getByRole('button', { name: 'halve' }).click();
  await expect.poll(() => bpm(page)).toBeCloseTo(45, 0);
  await expect(undo(page)).toContainText('Half as many beats');
  await page.getByRole('button', { name: 'double' }).click();
  await expect.poll(() => bpm(page)).toBeCloseTo(90, 0);
  // Half a beat on, and pressed back.
  const first = (await post(page, 6)).x;
  await page.getByRole('button', { name: 'move half a beat' }).click();
  await expect.poll(async () => (await post(page, 6)).x).toBeGreaterThan(first + 10);
  await page.getByRole('button', { name: 'move half a beat' }).click();
  await expect.poll(async () => (await post(page, 6)).x).toBeCloseTo(first, 3);
  await page.getByRole('button', { name: 'Find all again' }).click();
  await expect.poll(() => bpm(page)).toBeCloseTo(90, 0);
  // A beat is picked up and put 40 ms later, freely.
  const at = await post(page, 6);
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  await page.keyboard.down('Shift');
  await page.mouse.move(at.x + 3, at.y, { steps: 3 });
  await page.mouse.move(at.x + 5, at.y);
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect(undo(page)).toContainText('Move a beat');
  await expect(page.getByText('1, told by a ring.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('No beats set yet. Drag a beat onto a note')).toBeVisible();

  await page.getByRole('radio', { name: 'never' }).click();
  await expect(page.getByRole('radio', { name: 'never' })).toBeChecked();
  // The parts of one file were recorded together, and go together.
  await expect(page.getByTestId('recorded-together')).toContainText('keys and bass were recorded together');
  await page.getByRole('button', { name: 'Set the tempo map from the performance' }).click();
  await expect(undo(page)).toContainText('Tempo map from keys and bass');
  await expect(page.getByTestId('tempo-summary')).toContainText('keeps its real time');

  await page.getByRole('link', { name: 'Export', exact: true }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export', exact: true }).click(),
  ]);
  const file = parseMidi(Buffer.from(await bytesOf(download)));
  const all = file.tracks.flatMap((track) => {
    let tick = 0;
    return track.map((event) => ({ tick: (tick += event.deltaTime), event }));
  });
  const tempos = all.flatMap(({ tick, event }) =>
    event.type === 'setTempo' ? [{ tick, us: event.microsecondsPerBeat }] : [],
  );
  tempos.sort((a, b) => a.tick - b.tick);
  const last = tempos[tempos.length - 1];
  const ticksPerQuarter = file.header.ticksPerBeat ?? 480;
  expect(60e6 / last.us).toBeCloseTo(90, 0);
  const seconds = (tick: number) => {
    let [sum, from, us] = [0, 0, 500000];
    for (const change of tempos) {
      if (change.tick > tick) break;
      sum += ((change.tick - from) * us) / (ticksPerQuarter * 1e6);
      [from, us] = [change.tick, change.us];
    }
    return sum + ((tick - from) * us) / (ticksPerQuarter * 1e6);
  };
  const strokes = all
    .flatMap(({ tick, event }) =>
      event.type === 'noteOn' && event.velocity > 0 && event.noteNumber !== 72 ? [seconds(tick)] : [],
    )
    .sort((a, b) => a - b);
  expect(strokes).toHaveLength(96);
  strokes.forEach((at, row) => expect(Math.abs(at - (0.9 + (row >> 1) * BEAT))).toBeLessThan(0.003));
});

test('where the tempo may be meant otherwise, each reading is heard by a click and taken by another', async ({
  page,
}) => {
  await page.goto('/');
  // Strokes each 0.37 s: 162 a minute, or half of that.
  await bringIn(page, [
    smallFile('swift.mid', {
      keys: Array.from({ length: 48 }, (_, at) => [
        ...note(480 + at * 355, 480 + at * 355 + 300, at % 4 === 0 ? 40 : 52, at % 4 === 0 ? 100 : 70),
        ...note(480 + at * 355, 480 + at * 355 + 250, 64 + (Math.floor(at / 4) % 3), 70),
      ]).flat(),
    }),
  ]);
  await settled(page);
  await toTempo(page);
  await expect.poll(() => bpm(page)).toBeCloseTo(162, -1);
  const other = page.getByRole('group', { name: 'It could also be' });
  await expect(other).toContainText('half as fast, 81 bpm');
  await other.getByRole('button', { name: 'Hear' }).click();
  await expect.poll(() => bpm(page)).toBeCloseTo(81, -1);
  await expect(page.getByRole('checkbox', { name: 'hear the beats' })).toBeChecked();
  await other.getByRole('button', { name: 'Back' }).click();
  await expect.poll(() => bpm(page)).toBeCloseTo(162, -1);
  await other.getByRole('button', { name: 'Use' }).click();
  await expect.poll(() => bpm(page)).toBeCloseTo(81, -1);
  await expect(undo(page)).toContainText('Half as many beats');
});

test('or the playing goes to the grid, by a step that can be set and taken back', async ({ page }) => {
  await openFree(page);
  await page.getByRole('button', { name: "Move the notes onto the session's beats" }).click();
  await expect(undo(page)).toContainText('keys and bass follow the grid');
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await settled(page);
  await expect(page.getByRole('button', { name: /^Pulse/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Pulse/ })).toHaveCount(0);
});

/** Plays, and waits until the music moves: what is tapped before is no tap. */
async function playUntilHeard(page: Page) {
  const position = page.getByTestId('position');
  const before = await position.textContent();
  await page.keyboard.press('Space');
  await expect(position).not.toHaveText(before ?? '');
}

test('a note is said to be a beat of a bar, a beat is taken out, some are kept, and the ruler loops', async ({
  page,
}) => {
  await openFree(page);
  const canvas = page.getByTestId('tempo');
  const box = await boxOf(canvas);
  // The highest note of the second beat is pointed at a little after it has begun: it lies at the top of the notes.
  const { x } = await canvas.evaluate(
    (element, ms) => (element as unknown as { ordleEditor: TempoHandle }).ordleEditor.placeOf(ms),
    (0.9 + BEAT + 320 / 960 + 0.05) * 1000,
  );
  for (let y = 36; y < 60; y += 4) {
    await page.mouse.click(box.x + x, box.y + y);
    if (await page.getByRole('heading', { name: 'This note' }).isVisible()) break;
  }
  await expect(page.getByRole('heading', { name: 'This note' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'What was pointed at' })).toContainText('at 1.900 s');
  // A beat is pointed at, and is the third of its bar from now on.
  const at = await post(page, 4);
  await page.mouse.click(at.x, at.y);
  const pointed = page.getByRole('region', { name: 'What was pointed at' });
  await expect(pointed).toContainText('This beat');
  await page.getByLabel('Beat of its bar').fill('3');
  await page.keyboard.press('Enter');
  await expect(undo(page)).toContainText('This is beat 3');
  const again = await post(page, 4);
  await page.mouse.click(again.x, again.y);
  await expect(pointed).toContainText('beat 3 of bar');
  await page.getByLabel('Number of its bar').fill('5');
  await page.keyboard.press('Enter');
  await expect(undo(page)).toContainText('This is beat 3');
  await page.mouse.click(again.x, again.y);
  await expect(pointed).toContainText('beat 3 of bar 5');
  // Taken out: the two beside it become one, half as fast for a beat.
  const beats = async () =>
    Number(/(\d+) beats/.exec((await page.getByTestId('tempo-summary').textContent()) ?? '')?.[1]);
  const before = await beats();
  await pointed.getByRole('button', { name: 'Delete this beat' }).click();
  await expect.poll(beats).toBe(before - 1);
  await expect(undo(page)).toContainText('Take a beat');
  await page.keyboard.press('Control+z');
  await expect.poll(beats).toBe(before);
  await page.getByRole('button', { name: 'Fix the beats shown' }).click();
  await expect(page.getByText(/\d+, told by a ring/)).toBeVisible();
  // Tapped along with the playing: laid together when it stops.
  await page.keyboard.press('Control+z');
  await page.getByTestId('tempo').focus();
  await playUntilHeard(page);
  for (let tap = 0; tap < 5; tap++) {
    await page.waitForTimeout(600);
    await page.keyboard.press('t');
    await expect(page.getByTestId('tempo-summary')).toContainText(`${tap + 1} tap`);
  }
  await page.keyboard.press('Space');
  await expect(undo(page)).toContainText('Tap 5 beats');
  await expect(page.getByText(/^5, told by a ring/)).toBeVisible();
  // Taps gathered when the place is left are laid too.
  await canvas.focus();
  await playUntilHeard(page);
  await page.keyboard.press('t');
  await expect(page.getByTestId('tempo-summary')).toContainText('1 tap');
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await expect(undo(page)).toContainText('Tap 1 beat');
  await page.keyboard.press('Space');
  await toTempo(page);
  // The ruler is dragged over: what is played is held there.
  await page.mouse.move(box.x + 120, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + 420, box.y + 8, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('checkbox', { name: /^Loop/ })).toBeChecked();
});
