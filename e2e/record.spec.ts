import { expect, test, type Page } from './support/test';
import { exportFile, openDemo, peerNotes, saved, typeValue } from './support/app';
import { exportedController } from './support/lanes';

/** Ticks of a bar of the demo. */
const BAR = 4 * 480;

const phase = (page: Page) => page.getByTestId('phase');
const plan = (page: Page) => page.getByTestId('plan');
const after = (page: Page) => page.getByRole('main').getByRole('status').filter({ hasText: 'Recorded' });

async function newSession(page: Page) {
  await page.goto('/');
  await page.getByRole('button', { name: 'New session', exact: true }).click();
  await expect(plan(page)).toHaveText('Playing adds a take of Part 1 from bar 1 until you stop.');
}

async function toRecord(page: Page) {
  await page.getByRole('link', { name: 'Record', exact: true }).click();
  await expect(phase(page)).toHaveText('Ready');
}

async function toExport(page: Page) {
  await page.getByRole('link', { name: 'Export', exact: true }).click();
  return exportFile(page);
}

/** Starts recording without counting in, and waits until it runs. */
async function record(page: Page) {
  await typeValue(page, 'Bars counted in', '0');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(phase(page)).toHaveText('Recording');
}

async function stop(page: Page) {
  await page.getByRole('button', { name: 'Stop recording' }).click();
  await expect(phase(page)).toHaveText('Ready');
}

/** Waits until the play line is at a place; looked for in each frame, so that it is not missed. */
const untilAt = (page: Page, place: RegExp) =>
  page.waitForFunction(
    (source) => new RegExp(source).test(document.querySelector('[data-testid=position]')?.textContent ?? ''),
    place.source,
  );

/** Presses keys of the computer as notes, one after the other. */
async function play(page: Page, keys: string) {
  for (const key of keys) {
    await page.keyboard.down(key);
    await page.waitForTimeout(60);
    await page.keyboard.up(key);
  }
}

const computerKeys = (page: Page) => page.getByText('Play with the computer’s keys').click();

test('played on the computer’s keys: heard, seen, kept as a take, undone, and found by an independent reader', async ({
  page,
}) => {
  await newSession(page);
  await computerKeys(page);
  await record(page);
  await play(page, 'zxcvb');
  await expect(page.getByTestId('monitor')).toContainText('Computer keys: G4 let go');
  // A key that is still down where it is stopped ends there.
  await page.keyboard.down('n');
  await page.waitForTimeout(60);
  await stop(page);
  await page.keyboard.up('n');
  await expect(after(page)).toContainText('6 notes');
  const notes = peerNotes(await toExport(page));
  expect(notes.map(({ pitch }) => pitch)).toEqual([60, 62, 64, 65, 67, 69]);
  expect(notes.every(({ start }, at) => at === 0 || start > notes[at - 1].start)).toBe(true);
  await toRecord(page);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByRole('button', { name: /^Redo/ })).toBeEnabled();
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await expect(page.getByTestId('roll')).toHaveAttribute('aria-label', /\b0 notes/);
});

test('the practice player is recorded where it plays, to the tick; what it does not come to stays', async ({
  page,
}) => {
  await openDemo(page);
  const before = peerNotes(await toExport(page));
  await toRecord(page);
  await page.getByRole('tab', { name: 'Practice player' }).click();
  for (const dial of ['Late on the whole', 'Unevenness', 'Wrong notes', 'Missed notes', 'Doubled notes'])
    await typeValue(page, dial, '0');
  await page.getByLabel('What the practice player plays').selectOption({ label: 'Marimba, as cleaned' });
  await page.getByText('Plays along when the music runs').click();
  await record(page);
  await expect(page.getByTestId('monitor')).toContainText('Practice player');
  // Bar 2 lies well behind.
  await expect
    .poll(async () => Number((await page.getByTestId('position').textContent())?.split('.')[0]))
    .toBeGreaterThan(2);
  await stop(page);
  await expect(after(page)).toContainText('Recorded Marimba, bars 1 to');
  // Faultless, it played what is written; what it did not come to is as it was.
  const now = peerNotes(await toExport(page));
  const [played, ahead] = [2 * BAR, 8 * BAR];
  const asText = (list: typeof now, from: number, to: number) =>
    list
      .filter(({ start }) => start >= from && start < to)
      .map(({ track, start, pitch }) => [track, pitch, start] as const);
  expect(asText(now, ahead, Infinity)).toEqual(asText(before, ahead, Infinity));
  const [is, was] = [now, before].map((list) =>
    asText(list, 0, played).sort((a, b) => a[0] - b[0] || a[1] - b[1] || a[2] - b[2]),
  );
  expect(is.map(([track, pitch]) => [track, pitch])).toEqual(was.map(([track, pitch]) => [track, pitch]));
  // A tick is 1.2 ms: what is played is written to the nearest.
  is.forEach(([, , start], at) => expect(Math.abs(start - was[at][2])).toBeLessThanOrEqual(1));
  await page.getByRole('link', { name: 'Takes', exact: true }).click();
  await expect(page.getByText('Take 4').first()).toBeVisible();
});

test('slowly: the music takes its time, and the take is at the session’s tempo', async ({ page }) => {
  await newSession(page);
  await typeValue(page, 'Speed, typed', '25');
  await page.getByRole('tab', { name: 'Practice player' }).click();
  for (const dial of ['Late on the whole', 'Unevenness', 'Wrong notes', 'Missed notes', 'Doubled notes'])
    await typeValue(page, dial, '0');
  await page.getByText('Plays along when the music runs').click();
  await record(page);
  /** What the clock tells in the moment it changes, so that a busy machine does not read an old figure. */
  const clock = () =>
    page.evaluate(
      () =>
        new Promise<{ music: number; page: number }>((resolve) => {
          const clock = document.querySelector('[role=timer] > :last-child');
          if (!clock) throw new Error('No clock is shown.');
          const watch = new MutationObserver(() => {
            watch.disconnect();
            const [minutes, seconds] = (clock.textContent ?? '').split(':').map(Number);
            resolve({ music: minutes * 60 + seconds, page: performance.now() / 1000 });
          });
          watch.observe(clock, { characterData: true, childList: true, subtree: true });
        }),
    );
  await expect.poll(async () => (await clock()).music).toBeGreaterThan(0.3);
  const first = await clock();
  await expect.poll(async () => (await clock()).music).toBeGreaterThan(first.music + 0.8);
  const last = await clock();
  // Beside a busy core the clock of the sound falls behind; it never runs ahead.
  const speed = (last.music - first.music) / (last.page - first.page);
  expect(speed).toBeLessThan(0.31);
  expect(speed).toBeGreaterThan(0.02);
  await stop(page);
  // The phrase is of eighths and quarters: 240 and 480 ticks.
  const starts = peerNotes(await toExport(page)).map(({ start }) => start);
  expect(starts.slice(0, 3)).toEqual([0, 240, 480]);
});

test('only controllers: wheels are laid over notes that do not change', async ({ page }) => {
  await openDemo(page);
  const before = peerNotes(await toExport(page));
  await toRecord(page);
  await page.getByLabel('Only controllers').check();
  await expect(plan(page)).toContainText('its notes untouched');
  await page.getByRole('tab', { name: 'Controls' }).click();
  await record(page);
  await page.getByRole('slider', { name: 'Modulation' }).focus();
  for (let press = 0; press < 12; press++) await page.keyboard.press('ArrowRight');
  await stop(page);
  await expect(after(page)).toContainText('Recorded Marimba');
  const bytes = await toExport(page);
  expect(peerNotes(bytes)).toEqual(before);
  expect((await exportedController(page, 1)).at(-1)).toEqual([expect.any(Number), 12]);
});

test('a tab that is lost while it records: the recording is offered by name and kept', async ({ page }) => {
  await newSession(page);
  const address = page.url();
  await computerKeys(page);
  await record(page);
  await play(page, 'zxcv');
  // Within a second all of it is stored.
  await page.waitForTimeout(1100);
  page.once('dialog', (dialog) => void dialog.accept());
  await page.goto('/health');
  await page.goto(address);
  const offer = page.getByRole('status').filter({ hasText: 'at Part 1 was broken off' });
  await offer.getByRole('button', { name: 'Keep it' }).click();
  await expect(offer).toHaveCount(0);
  await saved(page);
  expect(peerNotes(await toExport(page)).map(({ pitch }) => pitch)).toEqual([60, 62, 64, 65]);
});

test('what was just played is kept without having been recorded, also after a reload, and once', async ({
  page,
}) => {
  await newSession(page);
  await computerKeys(page);
  await play(page, 'zcb');
  await page.waitForTimeout(1100);
  await page.reload();
  await expect(plan(page)).toBeVisible();
  await page.getByRole('button', { name: 'Choose ...' }).click();
  await page.getByRole('dialog').getByText('3 notes').waitFor();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.getByRole('button', { name: 'Keep what I just played' }).click();
  await expect(page.getByText('That was kept already.')).toBeVisible();
  await saved(page);
  const notes = peerNotes(await toExport(page));
  expect(notes.map(({ pitch }) => pitch)).toEqual([60, 64, 67]);
  expect(notes[0].start).toBe(0);
});

test('what was played to a loop that only ran is kept in its passes, the newest chosen', async ({ page }) => {
  await newSession(page);
  await page.getByRole('radio', { name: 'Loop', exact: true }).click();
  await typeValue(page, 'Last bar', '1');
  await computerKeys(page);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  // Once each time round; the newer pass is chosen as far as something was played in it.
  await untilAt(page, /^1\.2/);
  await play(page, 'z');
  await untilAt(page, /^1\.4/);
  await untilAt(page, /^1\.3/);
  await play(page, 'b');
  await untilAt(page, /^1\.4/);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'Keep what I just played' }).click();
  await expect(
    page.getByRole('main').getByRole('status').filter({ hasText: 'Kept Part 1, bar 1' }),
  ).toContainText('in 2 passes');
  expect(peerNotes(await toExport(page)).map(({ pitch }) => pitch)).toEqual([67]);
});

test('a loop gives a pass each time round; one is thrown back, the others are layers', async ({ page }) => {
  await newSession(page);
  await page.getByRole('radio', { name: 'Loop', exact: true }).click();
  await typeValue(page, 'Last bar', '1');
  await page.getByLabel('Layer').check();
  await expect(plan(page)).toHaveText('Playing lays a layer over Part 1 each time round bar 1.');
  await computerKeys(page);
  await record(page);
  const passes = page.getByRole('list', { name: 'Passes' }).getByRole('listitem');
  for (let pass = 1; pass <= 3; pass++) {
    await untilAt(page, /^1\.2/);
    await play(page, 'zcb'[pass - 1]);
    await expect(passes).toHaveCount(pass);
    await untilAt(page, /^1\.4/);
  }
  // The newest stands on top.
  await passes.nth(1).getByRole('button', { name: 'Throw back' }).click();
  await stop(page);
  await expect(after(page)).toContainText('in 2 passes');
  expect(
    peerNotes(await toExport(page))
      .map(({ pitch }) => pitch)
      .sort(),
  ).toEqual([60, 67]);
});

/** A browser's instruments as the standard has them: two that are played, one that sounds; driven by the test. */
const plugIn = (page: Page) =>
  page.evaluate(() => {
    const port = (id: string, type: string) => ({
      id,
      type,
      name: id,
      state: 'connected',
      onmidimessage: null,
    });
    const sent: { bytes: number[]; at: number }[] = [];
    const [upper, lower] = [port('Upper manual', 'input'), port('Lower manual', 'input')];
    const box = {
      ...port('Sound box', 'output'),
      send: (bytes: number[], at = 0) => sent.push({ bytes, at }),
    };
    const access = {
      inputs: new Map([upper, lower].map((each) => [each.id, each])),
      outputs: new Map([[box.id, box]]),
      onstatechange: null as ((event: { port: unknown }) => void) | null,
    };
    Object.assign(navigator, { requestMIDIAccess: async () => access });
    Object.assign(window, {
      strike: (id: string, bytes: number[]) => {
        const input = access.inputs.get(id) as unknown as { onmidimessage(event: object): void };
        input.onmidimessage({ data: new Uint8Array(bytes), timeStamp: performance.now() });
      },
      pullOut: (id: string) => {
        const input = access.inputs.get(id);
        if (input) input.state = 'disconnected';
        access.onstatechange?.({ port: input });
      },
      sent: () => sent,
    });
  });

interface Plugged {
  strike(id: string, bytes: number[]): void;
  pullOut(id: string): void;
  sent(): { bytes: number[]; at: number }[];
}

test('two instruments go into two parts at once; pulled out, what is held ends; the music goes out to a third', async ({
  page,
}) => {
  await openDemo(page);
  await toRecord(page);
  await plugIn(page);
  await page.getByRole('tab', { name: 'Instruments' }).click();
  await page.getByRole('button', { name: 'Look for instruments' }).click();
  await page.getByLabel('Where what is played sounds').selectOption({ label: 'Sound box' });
  for (const [part, input] of [
    ['Upright bass', 'Lower manual'],
    ['Marimba', 'Upper manual'],
  ]) {
    await page.getByLabel('Part to record into').selectOption({ label: part });
    await page.getByRole('button', { name: 'Input ...' }).click();
    await page.getByLabel('Input', { exact: true }).selectOption({ label: input });
    await page.getByRole('button', { name: 'Close' }).click();
  }
  await page.getByText('Record other parts too').click();
  await page.getByText('Upright bass (').click();
  await expect(plan(page)).toContainText('of Marimba and Upright bass');
  await record(page);
  const strike = (id: string, ...bytes: number[]) =>
    page.evaluate(([to, message]) => (window as unknown as Plugged).strike(to, message), [
      id,
      bytes,
    ] as const);
  await strike('Upper manual', 0x95, 100, 90);
  await strike('Lower manual', 0x90, 20, 80);
  await strike('Upper manual', 0x85, 100, 64);
  await expect(page.getByTestId('monitor')).toContainText('Upper manual: E7 let go, channel 6');
  await page.evaluate(() => (window as unknown as Plugged).pullOut('Lower manual'));
  await expect(page.getByTestId('monitor')).toContainText('Lower manual: G#0 let go');
  await stop(page);
  await expect(after(page)).toContainText('Recorded Marimba and Upright bass');
  const notes = peerNotes(await toExport(page));
  expect(notes.filter(({ pitch }) => pitch === 100).map(({ track, channel }) => [track, channel])).toEqual([
    [1, 0],
  ]);
  expect(notes.filter(({ pitch }) => pitch === 20).map(({ track }) => track)).toEqual([2]);
  // What sounded went to the box: the keys as they came, the other parts ahead of their time.
  const sent = await page.evaluate(() => (window as unknown as Plugged).sent());
  expect(sent.some(({ bytes }) => bytes[0] === 0x90 && bytes[1] === 100)).toBe(true);
  const music = sent.filter(({ bytes, at }) => at > 0 && bytes[0] >> 4 === 9);
  expect(music.length).toBeGreaterThan(0);
});
