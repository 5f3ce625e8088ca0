import type { NoteTable } from '../model';
import { escaped } from './page';

const [WIDTH, HEIGHT] = [860, 110];
/** Room at the left for the names of pitches, and under the drawing for the numbers of bars. */
const [LEFT, BELOW, ABOVE] = [34, 14, 4];

/** Notes as they are drawn: as played in outline, cleaned filled, with the bars they lie in. */
export interface ReportedNotes {
  caption: string;
  before: NoteTable;
  after: NoteTable;
  /** From where to where, in ticks, and the lines of the bars with their numbers. */
  from: number;
  to: number;
  bars: readonly { tick: number; number: number }[];
  lowest: string;
  highest: string;
}

/** Some bars of a part as a small drawing with its caption. */
export function drawnNotes(picture: ReportedNotes): string {
  const { caption, before, after, from, to, bars } = picture;
  const within = ({ start, end, length, pitch }: NoteTable) =>
    Array.from({ length }, (_, row) => row).filter(
      (row) => end[row] > from && start[row] < to && pitch[row] >= 0,
    );
  const rows = [within(before), within(after)];
  const pitches = [...rows[0].map((row) => before.pitch[row]), ...rows[1].map((row) => after.pitch[row])];
  const low = pitches.reduce((least, pitch) => Math.min(least, pitch), 127);
  const high = pitches.reduce((most, pitch) => Math.max(most, pitch), 0);
  const tall = HEIGHT / Math.max(6, high - low + 1);
  const x = (tick: number) => LEFT + ((Math.min(to, Math.max(from, tick)) - from) / (to - from)) * WIDTH;
  const bar = ({ start, end, pitch }: NoteTable, row: number, look: string) =>
    `<rect x="${x(start[row]).toFixed(1)}" y="${(ABOVE + (high - pitch[row]) * tall).toFixed(1)}" width="${Math.max(
      1,
      x(end[row]) - x(start[row]) - 0.5,
    ).toFixed(1)}" height="${Math.max(1, tall - 0.5).toFixed(1)}" ${look}/>`;
  const words = (at: number, y: number, text: string, anchor: string) =>
    `<text x="${at.toFixed(1)}" y="${y}" text-anchor="${anchor}" font-size="10" fill="#5f5648">${escaped(text)}</text>`;
  const lines = bars.map(
    ({ tick, number }) =>
      `<line x1="${x(tick).toFixed(1)}" x2="${x(tick).toFixed(1)}" y1="${ABOVE}" y2="${ABOVE + HEIGHT}" stroke="#dccfb8"/>${words(x(tick), ABOVE + HEIGHT + 11, String(number), 'start')}`,
  );
  return `<figure style="display:block"><svg viewBox="0 0 ${LEFT + WIDTH + 8} ${ABOVE + HEIGHT + BELOW}" style="width:100%;max-width:${LEFT + WIDTH + 8}px" role="img" aria-label="${escaped(caption)}">${lines.join('')}${rows[1]
    .map((row) => bar(after, row, 'fill="#2f4487"'))
    .join('')}${rows[0]
    .map((row) => bar(before, row, 'fill="none" stroke="#7d7261"'))
    .join(
      '',
    )}${words(LEFT - 4, ABOVE + 8, picture.highest, 'end')}${words(LEFT - 4, ABOVE + HEIGHT, picture.lowest, 'end')}</svg><figcaption>${escaped(caption)}</figcaption></figure>`;
}
