import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, type Download, type Locator, type Page } from '@playwright/test';
import { parseMidi } from 'midi-file';

/** Opens the demo from an empty shelf. */
export async function openDemo(page: Page) {
  await page.goto('/');
  await page.getByRole('button', { name: 'Open the demo' }).click();
  await page.getByRole('button', { name: 'Leave the tour' }).click();
  await settled(page);
}

/**
 * Waits until the editor shows what was last asked for. This is looked for in each frame; what is expected is looked
 * for more and more seldom, and most of an opening would be waiting.
 */
export async function settled(page: Page) {
  await page.waitForFunction(() => {
    // What was just imported is shown with what would be done to it; the Bench is a click away.
    if (document.querySelector('[data-testid=clean-up]'))
      for (const link of document.querySelectorAll<HTMLElement>('nav a'))
        if (link.textContent === 'Bench') link.click();
    const roll = document.querySelector('[data-testid=roll]');
    return roll?.getAttribute('data-busy') === 'false' && /\d+ notes/.test(roll.ariaLabel ?? '');
  });
}

/** Waits until the work is in the browser's storage. */
export async function saved(page: Page) {
  await page.waitForFunction(() => document.querySelector('[data-testid=saving][data-state=saved]'));
}

export const stops = (page: Page) => page.locator('[data-stop]');
export const strength = (page: Page) => page.getByRole('slider', { name: 'Strength', exact: true });

/** Where something stands on the page, once it has stopped moving: at one place for two frames. */
export async function boxOf(target: Locator) {
  return target.evaluate(
    (element) =>
      new Promise<{ x: number; y: number; width: number; height: number }>((resolve) => {
        let before = '';
        const look = () => {
          const { x, y, width, height } = element.getBoundingClientRect();
          const now = [x, y, width, height].join();
          if (now === before) return resolve({ x, y, width, height });
          before = now;
          requestAnimationFrame(look);
        };
        look();
      }),
  );
}

/** Drags a slider's thumb by pixels, in steps, as a hand would. */
export async function dragThumb(page: Page, name: string, by: number, during?: () => Promise<void>) {
  const box = await boxOf(page.getByRole('slider', { name, exact: true }));
  if (!box) throw new Error(`no slider ${name}`);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + by / 2, y, { steps: 6 });
  await page.mouse.move(x + by, y, { steps: 6 });
  await during?.();
  await page.mouse.up();
}

/** Bytes of a download. */
export async function bytesOf(download: Download): Promise<Uint8Array> {
  return new Uint8Array(readFileSync(await download.path()));
}

/** A note as the independent reader midi-file sees it. */
export interface PeerNote {
  track: number;
  start: number;
  pitch: number;
  velocity: number;
  channel: number;
}

/** The note-ons of a file, read by midi-file, in order of time. */
export function peerNotes(bytes: Uint8Array): PeerNote[] {
  return parseMidi(bytes)
    .tracks.flatMap((events, track) => {
      let tick = 0;
      return events.flatMap((event): PeerNote[] => {
        tick += event.deltaTime;
        return event.type === 'noteOn' && event.velocity > 0
          ? [
              {
                track,
                start: tick,
                pitch: event.noteNumber,
                velocity: event.velocity,
                channel: event.channel,
              },
            ]
          : [];
      });
    })
    .sort((a, b) => a.start - b.start || a.track - b.track || a.pitch - b.pitch);
}

/** Names of the tracks as midi-file reads them. */
export function peerTrackNames(bytes: Uint8Array): string[] {
  return parseMidi(bytes).tracks.map(
    (events) => events.flatMap((event) => (event.type === 'trackName' ? [event.text] : []))[0] ?? '',
  );
}

/** Puts files onto the hidden picker of the app. */
export async function bringIn(page: Page, files: { name: string; bytes: Uint8Array }[]) {
  await page.setInputFiles(
    'input[type=file]',
    files.map(({ name, bytes }) => ({ name, mimeType: 'audio/midi', buffer: Buffer.from(bytes) })),
  );
}

export async function exportFile(page: Page): Promise<Uint8Array> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export', exact: true }).click(),
  ]);
  return bytesOf(download);
}

/** The export of the open session; back on the Bench afterwards. */
export async function exportedBytes(page: Page): Promise<Buffer> {
  await page.getByRole('link', { name: 'Export' }).click();
  const bytes = Buffer.from(await exportFile(page));
  await page.getByRole('link', { name: 'Bench' }).click();
  await settled(page);
  return bytes;
}

/** The notes of the export, read by midi-file; back on the Bench afterwards. */
export async function exportedNotes(page: Page): Promise<PeerNote[]> {
  return peerNotes(await exportedBytes(page));
}

/** A file written by support/writeFiles.ts. */
export function madeFile(name: string): { name: string; bytes: Uint8Array } {
  return {
    name,
    bytes: new Uint8Array(readFileSync(path.resolve(import.meta.dirname, '../../.cache/e2e', name))),
  };
}

export const ROOT = path.resolve(import.meta.dirname, '../..');

/** A demo file as it lies in the project. */
export const demoPath = (name: string): string => path.join(ROOT, 'app/public/demo', name);

/** What the command line makes of a demo file by some steps. */
export function cleanedByCommandLine(name: string, steps: object[]): Buffer {
  const folder = mkdtempSync(path.join(tmpdir(), 'ordle-e2e-'));
  try {
    const recipe = path.join(folder, 'recipe.json');
    writeFileSync(recipe, JSON.stringify({ ordle: 'recipe', version: 1, name: 'x', steps }));
    const options = ['--recipe', recipe, '--out', path.join(folder, 'out')];
    execFileSync(process.execPath, ['cli/bin/ordle.mjs', 'clean', demoPath(name), ...options], { cwd: ROOT });
    return readFileSync(path.join(folder, 'out', name));
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** Adds a step after the current stop, from the menu. */
export async function addStep(page: Page, kind: string) {
  await page.getByRole('button', { name: 'Add a step' }).click();
  await page
    .getByRole('menuitem', { name: new RegExp(`^${kind}`) })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: kind })).toBeVisible();
  await settled(page);
}

/** Types a value into the field of a setting. */
export async function typeValue(page: Page, label: string, value: string) {
  await page.getByLabel(label, { exact: true }).fill(value);
  await page.keyboard.press('Enter');
}

/** Brings one of the demo's files in as a session of its own. */
export async function openDemoFile(page: Page, name: string) {
  await page.goto('/');
  await bringIn(page, [{ name, bytes: new Uint8Array(readFileSync(demoPath(name))) }]);
  await settled(page);
}

/** The export of the open session is, byte for byte, what the command line makes of a file with some steps. */
export async function expectSameAsCommandLine(page: Page, name: string, steps: object[]) {
  const exported = await exportedBytes(page);
  const fromCommandLine = cleanedByCommandLine(name, steps);
  expect(peerNotes(exported)).toEqual(peerNotes(fromCommandLine));
  expect(exported.equals(fromCommandLine)).toBe(true);
}
