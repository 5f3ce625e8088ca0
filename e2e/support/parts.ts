import { expect, type Page } from '@playwright/test';
import { boxOf, exportFile, peerNotes, type PeerNote } from './app';

/** Files here have 480 ticks a quarter, in 4/4. */
export const BAR = 1920;

interface PartsHandle {
  placeOf(row: number, tick: number): { x: number; y: number };
}

export async function toParts(page: Page) {
  await page.getByRole('link', { name: 'Parts', exact: true }).click();
  await expect(page.getByTestId('parts')).toHaveAttribute('data-read', 'true');
}

/** A place on the page: a part's row (1 is the first), at a bar (1 is the first, whole or between). */
export async function at(page: Page, row: number, bar: number) {
  const canvas = page.getByTestId('parts');
  const box = await boxOf(canvas);
  const { x, y } = await canvas.evaluate(
    (element, [part, tick]) =>
      (element as unknown as { ordleEditor: PartsHandle }).ordleEditor.placeOf(part, tick),
    [row - 1, (bar - 1) * BAR] as const,
  );
  return { x: box.x + x, y: box.y + y, top: box.y };
}

export async function clickBlock(page: Page, row: number, bar: number) {
  const { x, y } = await at(page, row, bar);
  await page.mouse.click(x, y);
}

export async function drag(page: Page, from: { x: number; y: number }, to: { x: number; y: number }) {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, to.y, { steps: 3 });
  await page.mouse.move(to.x, to.y, { steps: 3 });
  await page.mouse.up();
}

export const undo = (page: Page) => page.getByRole('button', { name: /^Undo/ });
export const head = (page: Page, name: string) =>
  page.getByRole('list', { name: 'Parts' }).getByRole('button', { name, exact: true });

export async function exported(page: Page): Promise<PeerNote[]> {
  await page.getByRole('link', { name: 'Export', exact: true }).click();
  const notes = peerNotes(await exportFile(page));
  await toParts(page);
  return notes;
}
