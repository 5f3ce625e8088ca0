import { expect, type Page } from './test';
import { boxOf, type PeerNote } from './app';

// The demo has 480 ticks a quarter, in 4/4.
export const BAR = 1920;
/** How far ahead of a bar line a note belongs to it: 60 ms at 104 bpm, in ticks. */
export const AHEAD = 50;

export interface TakesHandle {
  placeOfCell(cell: { row: number; bar: number }): { x: number; y: number };
  placeOfSeam(index: number): { x: number; y: number };
}

export async function toTakes(page: Page) {
  await page.getByRole('link', { name: 'Takes', exact: true }).click();
  await expect(page.getByTestId('takes')).toHaveAttribute('aria-label', /: \d+ takes/);
  await expect(heads(page).first()).toBeVisible();
}

/** A cell on the page: take and bar count from 1. */
export async function cell(page: Page, take: number, bar: number) {
  const canvas = page.getByTestId('takes');
  const box = await boxOf(canvas);
  const { x, y } = await canvas.evaluate(
    (element, at) => (element as unknown as { ordleEditor: TakesHandle }).ordleEditor.placeOfCell(at),
    { row: take - 1, bar: bar - 1 },
  );
  return { x: box.x + x, y: box.y + y };
}

export async function choose(page: Page, take: number, bar: number) {
  const { x, y } = await cell(page, take, bar);
  await page.mouse.click(x, y);
}

export const heads = (page: Page) => page.getByRole('list', { name: 'Takes' }).getByRole('listitem');
export const plain = ({ start, pitch, velocity }: PeerNote) => [start, pitch, velocity];
export const inBars = (notes: PeerNote[], from: number, to: number) =>
  notes.filter(({ start }) => start >= (from - 1) * BAR - AHEAD && start < to * BAR - AHEAD).map(plain);
