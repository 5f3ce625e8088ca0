import { expect, test, type Page } from './support/test';
import { parseMidi } from 'midi-file';
import { boxOf, bringIn, exportFile, saved, settled, typeValue } from './support/app';
import { undo } from './support/parts';
import { note, smallFile } from './support/smallFiles';

const QUARTER = 480;
/** A quarter of a note on every beat of eight bars, from beat 3 of bar 2 on, at 120 bpm. */
const pier = () =>
  smallFile('pier.mid', {
    keys: Array.from({ length: 32 }, (_, beat) => {
      const at = (6 + beat) * QUARTER;
      return note(at, at + 400, 60 + (beat % 8), 80);
    }).flat(),
  });

async function toMap(page: Page) {
  await page.getByRole('link', { name: 'Tempo', exact: true }).click();
  await page.getByRole('radio', { name: 'tempo and meter' }).click();
  await expect(page.getByTestId('tempo-map')).toHaveAttribute('data-read', 'true');
}

/** What the export says of tempo and meter, and where its notes start, in ticks; read by midi-file. */
async function exported(page: Page) {
  await page.getByRole('link', { name: 'Export', exact: true }).click();
  const { header, tracks } = parseMidi(await exportFile(page));
  const tempos: [tick: number, bpm: number][] = [];
  const meters: [tick: number, meter: string][] = [];
  const starts: number[] = [];
  for (const track of tracks) {
    let tick = 0;
    for (const event of track) {
      tick += event.deltaTime;
      if (event.type === 'setTempo')
        tempos.push([tick, Number((60e6 / event.microsecondsPerBeat).toFixed(2))]);
      if (event.type === 'timeSignature') meters.push([tick, `${event.numerator}/${event.denominator}`]);
      if (event.type === 'noteOn' && event.velocity > 0) starts.push(tick);
    }
  }
  return { tempos, meters, starts, ticksPerQuarter: header.ticksPerBeat ?? 0 };
}

test('tempo and meter are set by table and by hand, and the export has them', async ({ page }) => {
  await page.goto('/');
  await bringIn(page, [pier()]);
  await settled(page);
  await toMap(page);
  // One tempo more, a bar after the last, typed and moved by its place.
  await page.getByRole('button', { name: 'Add a change' }).click();
  await typeValue(page, 'Tempo at 2.1', '90');
  await typeValue(page, 'Place of the tempo at 2.1', '3.3');
  await expect(page.getByLabel('Tempo at 3.3', { exact: true })).toHaveValue('90');
  await page.getByLabel('Bar of a new meter').fill('5');
  await page.keyboard.press('Enter');
  await page.getByRole('region', { name: 'Meter changes' }).getByRole('button', { name: 'Add' }).click();
  await typeValue(page, 'Beats a bar from bar 5', '3');
  await saved(page);
  const { tempos, meters, starts } = await exported(page);
  expect(tempos).toEqual([
    [0, 120],
    [10 * QUARTER, 90],
  ]);
  expect(meters).toEqual([
    [0, '4/4'],
    [16 * QUARTER, '3/4'],
  ]);
  // The part lies by its beats and goes along.
  expect(starts[0]).toBe(6 * QUARTER);
  // A stretch is lifted by the mouse: what is seen while it is dragged is what is set.
  await toMap(page);
  const curve = page.getByTestId('tempo-curve');
  const box = await boxOf(curve);
  const circle = await boxOf(curve.locator('circle').nth(1));
  const [x, y] = [circle.x + circle.width / 2 + 60, circle.y + circle.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x, y - 20, { steps: 4 });
  const seen = /, ([\d.]+) bpm/.exec((await curve.textContent()) ?? '')?.[1];
  await page.mouse.up();
  await expect(undo(page)).toContainText('Change a tempo');
  await expect(page.getByLabel('Tempo at 3.3', { exact: true })).toHaveValue(String(Number(seen)));
  expect(Number(seen)).toBeGreaterThan(90);
  // A double click adds one; Delete takes it out.
  await page.mouse.dblclick(box.x + box.width - 60, box.y + 60);
  await expect(curve.locator('circle')).toHaveCount(3);
  await curve.press('Delete');
  await expect(curve.locator('circle')).toHaveCount(2);
  // All of it slower, and back.
  await page.getByLabel('Tempo in percent').fill('50');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Scale' }).click();
  await expect(page.getByLabel('Tempo at the start', { exact: true })).toHaveValue('60');
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Tempo at the start', { exact: true })).toHaveValue('120');
});

test('a part locked to real time stays there under a ramp and the map of another file, what was done by hand included', async ({
  page,
}) => {
  await page.goto('/');
  await bringIn(page, [pier()]);
  await settled(page);
  // The first note is moved by hand to bar 1: it starts at 0 s.
  await page.keyboard.press('.');
  await typeValue(page, 'Start', '1.2');
  await toMap(page);
  await page.getByText('Parts that keep their real time: 0 of 1').click();
  await page.getByRole('radio', { name: 'real time', exact: true }).click();
  await page.getByLabel('Tempo the ramp begins with').fill('120');
  await page.keyboard.press('Enter');
  await page.getByLabel('Tempo the ramp ends with').fill('60');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Make a ramp' }).click();
  await expect(undo(page)).toContainText('A ramp');
  // It is one entry, that can be changed: slowly first it comes to 50 and back to 60.
  await expect(page.getByRole('row')).toHaveCount(1);
  await page.getByLabel('How the ramp at the start goes').selectOption({ label: 'slowly first' });
  const end = page.getByLabel('Tempo the ramp at the start comes to');
  await end.fill('50');
  await page.keyboard.press('Enter');
  await expect(undo(page)).toContainText('Change a ramp');
  await expect(end).toHaveValue('50');
  // The value is written, and the keys are the music's again.
  await page.keyboard.press('Control+z');
  await expect(end).toHaveValue('60');
  await expect(page.getByLabel('How the ramp at the start goes')).toHaveValue('slowStart');
  // A file with a tempo of 100 bpm is dropped on the place: its map is taken.
  const other = smallFile('other.mid', { keys: note(0, 10, 60) }, [
    { tick: 0, meta: true, type: 'setTempo', microsecondsPerBeat: 600000 },
    {
      tick: 0,
      meta: true,
      type: 'timeSignature',
      numerator: 3,
      denominator: 4,
      metronome: 24,
      thirtyseconds: 8,
    },
  ]);
  await page
    .getByLabel('File to take the tempo from')
    .setInputFiles([{ name: other.name, mimeType: 'audio/midi', buffer: Buffer.from(other.bytes) }]);
  await expect(page.getByLabel('Tempo at the start', { exact: true })).toHaveValue('100');
  await expect(undo(page)).toContainText('Tempo and meter of other.mid');
  const { tempos, meters, starts, ticksPerQuarter } = await exported(page);
  expect(tempos.at(-1)?.[1]).toBe(100);
  expect(meters).toEqual([[0, '3/4']]);
  // At 120 bpm notes began at 0.5, 3.5, 4, ... seconds; at 100 a quarter is 0.6 s, in ticks of a millisecond at most.
  expect(ticksPerQuarter).toBe(960);
  expect(
    starts.slice(0, 3).map((tick) => Math.round(((tick * 0.6) / ticksPerQuarter) * 1000) / 1000),
  ).toEqual([0.5, 3.5, 4]);
});
