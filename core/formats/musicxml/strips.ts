import { barInWords, type WrittenPart } from '../../notation';
import { writeMusicXml } from './writeMusicXml';

/** Some bars of a score, small enough to be engraved while one looks. */
export interface ScoreStrip {
  /** The first bar, and the first one behind; counted from 1. */
  from: number;
  to: number;
  xml: string;
  /** What stands in each bar of each part, in words. */
  words: string[];
}

/** What strips are of: bars from the first up to, without, the second, so many in each. */
export interface StripsOptions {
  title: string;
  bars: readonly [number, number];
  barsAStrip: number;
}

/** A score in strips of bars, each a document of its own that goes on from the one before. */
export function stripsOf(
  parts: readonly WrittenPart[],
  { title, bars: [first, end], barsAStrip }: StripsOptions,
): ScoreStrip[] {
  const last = Math.min(end - 1, Math.max(0, ...parts.map(({ bars }) => bars.length)));
  const strips: ScoreStrip[] = [];
  for (let from = first; from <= last; from += barsAStrip) {
    const to = Math.min(last + 1, from + barsAStrip);
    const words = Array.from({ length: to - from }, (_, index) =>
      parts.flatMap((part) => {
        const bar = part.bars[from + index - 1];
        return bar ? [barInWords(part, bar)] : [];
      }),
    ).flat();
    strips.push({
      from,
      to,
      xml: writeMusicXml(parts, { title, bars: [from, to], goesOn: from > first }),
      words,
    });
  }
  return strips;
}
