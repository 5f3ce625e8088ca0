import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { readMidi, takesOfFile, writeMidi } from '@ordle/core';
import { fileOfNotes, type PlainNote } from '../../core/testing/files';
import type { BenchRow } from '../core';
import { BASE, ms, notesShown, quantile } from './page';

const FOLDER = path.resolve('.cache/bench');
/** So fine that a tick (0.05 ms at 120 bpm) adds nothing to what is measured. */
const DIVISION = 9600;
const SECOND = 2 * DIVISION;

/** The instrument of a browser as the standard has it, played by the benchmark. */
interface Instrument {
  send(bytes: number[], stamp?: number): void;
  longest: number;
  sent: number;
  times: number[];
}
type Played = typeof window & { instrument: Instrument };

const newSession = async (page: Page) => {
  await page.goto(BASE);
  await page.getByRole('button', { name: 'New session', exact: true }).click();
  await page.getByTestId('plan').waitFor();
};

const plugIn = async (page: Page) => {
  await page.evaluate(() => {
    const input = {
      id: 'keys',
      type: 'input',
      name: 'Keys',
      state: 'connected',
      onmidimessage: null as ((event: object) => void) | null,
    };
    const access = { inputs: new Map([['keys', input]]), outputs: new Map(), onstatechange: null };
    Object.assign(navigator, { requestMIDIAccess: async () => access });
    const instrument: Instrument = {
      sent: 0,
      longest: 0,
      times: [],
      send(bytes, stamp = performance.now()) {
        const begun = performance.now();
        input.onmidimessage?.({ data: new Uint8Array(bytes), timeStamp: stamp });
        instrument.times.push(performance.now() - begun);
        instrument.sent++;
      },
    };
    Object.assign(window, { instrument });
    new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries())
        instrument.longest = Math.max(instrument.longest, duration);
    }).observe({ entryTypes: ['longtask'] });
  });
  await page.getByRole('tab', { name: 'Instruments' }).click();
  await page.getByRole('button', { name: 'Look for instruments' }).click();
};

const setNumber = async (page: Page, label: string, value: number) => {
  await page.getByRole('spinbutton', { name: label, exact: true }).fill(String(value));
  await page.keyboard.press('Enter');
};

const begin = async (page: Page) => {
  await setNumber(page, 'Bars counted in', 0);
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await page.getByTestId('phase').getByText('Recording').waitFor();
};

const end = async (page: Page) => {
  await page.getByRole('button', { name: 'Stop recording' }).click();
  await page.getByTestId('phase').getByText('Ready').waitFor({ timeout: 60_000 });
};

/** The tracks of the export, as takes. */
async function exported(page: Page) {
  await page.getByRole('link', { name: 'Export', exact: true }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page
      .getByRole('button', { name: /^Export/ })
      .first()
      .click(),
  ]);
  const { file } = readMidi(new Uint8Array(readFileSync(await download.path())));
  return { takes: takesOfFile(file, (_, place) => String(place)), division: file.division };
}

/** Five thousand notes in a minute, chords of ten, each of its own pitches. */
function denseNotes(count: number): PlainNote[] {
  return Array.from({ length: count }, (_, row): PlainNote => {
    const chord = Math.floor(row / 10);
    const start = Math.round(chord * 0.12 * SECOND) + (chord % 7) * 11;
    return [start, start + Math.round(0.08 * SECOND), 30 + (row % 10) * 7 + (chord % 5), 80];
  });
}

/** The practice player's schedule against the take, with the page idle or busy. */
async function accuracy(page: Page, count: number, isBusy: boolean): Promise<BenchRow> {
  mkdirSync(FOLDER, { recursive: true });
  const name = path.join(FOLDER, 'written.mid');
  const notes = denseNotes(count);
  writeFileSync(
    name,
    writeMidi({ ...fileOfNotes(notes), division: { kind: 'metrical', ticksPerQuarter: DIVISION } }),
  );
  await page.goto(BASE);
  await page.setInputFiles('input[type=file]', name);
  await notesShown(page, new RegExp(`: ${count} notes`));
  await page.getByRole('link', { name: 'Record', exact: true }).click();
  await page.getByRole('tab', { name: 'Practice player' }).click();
  for (const dial of [
    'Late on the whole',
    'Spread',
    'Wrong notes',
    'Missed notes',
    'Doubled notes',
    'Unevenness of velocity',
  ])
    await setNumber(page, dial, 0);
  const select = page.getByLabel('What the practice player plays');
  await select.selectOption({ index: 1 });
  await page.getByText('Plays along when the music runs').click();
  await page.waitForTimeout(1000);
  await begin(page);
  const until = Date.now() + ((notes.at(-1)?.[0] ?? 0) / SECOND) * 1000 + 1500;
  for (let turn = 0; Date.now() < until; turn++) {
    if (isBusy) await page.mouse.move(100 + (turn % 40) * 20, 300 + (turn % 7) * 20);
    if (isBusy) await page.mouse.wheel(0, turn % 2 === 0 ? 200 : -200);
    await page.waitForTimeout(isBusy ? 15 : 200);
  }
  await end(page);
  const { takes } = await exported(page);
  const made = takes.at(-1)?.notes;
  const [starts, all] = [new Map<number, number[]>(), made?.length ?? 0];
  for (let row = 0; row < all; row++) {
    const pitch = made?.pitch[row] ?? 0;
    starts.set(pitch, [...(starts.get(pitch) ?? []), made?.start[row] ?? 0]);
  }
  const offs = notes.map(([start, , pitch]) => {
    const own = starts.get(pitch) ?? [];
    const nearest = own.reduce(
      (best, each) => (Math.abs(each - start) < Math.abs(best - start) ? each : best),
      Infinity,
    );
    return ((nearest - start) / SECOND) * 1000;
  });
  const bias = offs.reduce((sum, off) => sum + off, 0) / offs.length;
  const spread = Math.sqrt(offs.reduce((sum, off) => sum + (off - bias) ** 2, 0) / offs.length);
  const worst = offs.reduce((most, off) => Math.max(most, Math.abs(off)), 0);
  return {
    work: `record ${count} notes of the practice player, page ${isBusy ? 'busy' : 'idle'}`,
    ours: `${bias.toFixed(2)}, ${spread.toFixed(2)}, ${worst.toFixed(2)}`,
    peer: `${all} recorded`,
    reach: 'bias, spread under 1 ms, worst 3 ms',
    met: all === count && Math.abs(bias) < 1 && spread < 1 && worst < 3,
  };
}

/** Two thousand controller messages a second: none lost, none out of order, no long task; and the time of a handler. */
async function flood(page: Page, seconds: number): Promise<BenchRow[]> {
  await newSession(page);
  await plugIn(page);
  await begin(page);
  await page.evaluate(() => {
    const { instrument } = window as Played;
    instrument.longest = 0;
    instrument.times.length = 0;
  });
  const values = await page.evaluate(
    (lasting) =>
      new Promise<number[]>((resolve) => {
        const { instrument } = window as Played;
        const sent: number[] = [];
        const begun = performance.now();
        const turn = setInterval(() => {
          const due = Math.floor((performance.now() - begun) * 2);
          while (sent.length < due) {
            const value = (sent.length * 7) % 128;
            instrument.send([0xb0, 1, value], begun + sent.length / 2);
            sent.push(value);
          }
          if (performance.now() - begun < lasting * 1000) return;
          clearInterval(turn);
          resolve(sent);
        }, 5);
      }),
    seconds,
  );
  const { longest, times } = await page.evaluate(() => {
    const { instrument } = window as Played;
    return { longest: instrument.longest, times: instrument.times };
  });
  await end(page);
  const { takes } = await exported(page);
  const events = takes.at(-1)?.events;
  const kept = Array.from(events?.data2 ?? []).filter((_, row) => events?.status[row] === 0xb0);
  const isSame = kept.length === values.length && kept.every((value, at) => value === values[at]);
  return [
    {
      work: `2,000 controller messages a second for ${seconds} s`,
      ours: isSame ? 'all, in order' : `${kept.length} of ${values.length}`,
      peer: `longest task ${ms(longest)}`,
      reach: 'none lost, none out of order, no task over 50 ms',
      met: isSame && longest <= 50,
    },
    {
      work: 'message to the audio thread, in the handler’s own task, p95',
      ours: `${quantile(times, 0.95).toFixed(2)} ms`,
      peer: `median ${quantile(times, 0.5).toFixed(2)} ms`,
      reach: '1 ms',
      met: quantile(times, 0.95) <= 1,
    },
  ];
}

/** A tab that is lost while it records, and how much the document grows by what is played. */
export async function lostTab(page: Page): Promise<BenchRow[]> {
  await newSession(page);
  await plugIn(page);
  const sizeOf = () =>
    page.evaluate(
      () =>
        new Promise<number>((resolve) => {
          const asked = indexedDB.open('ordle');
          asked.onsuccess = () => {
            const all = asked.result.transaction('sessions').objectStore('sessions').getAll();
            all.onsuccess = () => {
              const own = all.result.find(({ document }) => document.name === 'New session');
              resolve(JSON.stringify(own.document).length);
            };
          };
        }),
    );
  const before = await sizeOf();
  await begin(page);
  const strike = (pitch: number) =>
    page.evaluate((key) => {
      const { instrument } = window as Played;
      instrument.send([0x90, key, 80]);
      instrument.send([0x80, key, 64]);
    }, pitch);
  for (let note = 0; note < 200; note++) {
    await strike(40 + (note % 40));
    await page.waitForTimeout(5);
  }
  await end(page);
  await page.locator('[data-testid=saving][data-state=saved]').waitFor();
  await page.waitForTimeout(1500);
  const grown = (await sizeOf()) - before;
  await begin(page);
  const times: number[] = [];
  const until = Date.now() + 4000;
  while (Date.now() < until) {
    times.push(Date.now());
    await strike(60);
    await page.waitForTimeout(20);
  }
  const address = page.url();
  const lost = Date.now();
  const context = page.context();
  const devtools = await context.newCDPSession(page);
  // Never answered: what would answer is gone.
  void devtools.send('Page.crash').catch(() => undefined);
  await page.waitForEvent('crash');
  const next = await context.newPage();
  await next.goto(address);
  await next.getByRole('button', { name: 'Keep it' }).click();
  await next.locator('[data-testid=saving][data-state=saved]').waitFor();
  const { takes } = await exported(next);
  const notes = takes.at(-1)?.notes;
  const kept = Array.from(notes?.pitch ?? []).filter(
    (pitch, row) => pitch === 60 && (notes?.velocity[row] ?? 0) === 80,
  ).length;
  const lastKept = times[Math.min(times.length, kept) - 1] ?? 0;
  return [
    {
      work: 'document grown by a recording of 200 notes',
      ours: `${grown} B`,
      peer: '',
      reach: '2 kB, however long it is',
      met: grown < 2000,
    },
    {
      work: 'a tab that crashes while it records loses',
      ours: ms(lost - lastKept),
      peer: `${kept} of ${times.length} notes kept`,
      reach: '1 s',
      met: lost - lastKept <= 1000,
    },
  ];
}

/** The practice player's schedule against the take, with the page idle and busy. */
export const practiceAgainstTake = async (page: Page): Promise<BenchRow[]> => [
  await accuracy(page, 5000, false),
  await accuracy(page, 5000, true),
];

export const controllerFlood = (page: Page): Promise<BenchRow[]> => flood(page, 60);
