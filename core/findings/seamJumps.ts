import { latenessOf, median } from '../analysis';
import type { NoteTable } from '../model';
import { listOf, type Part } from '../session';
import { createStep, type Step } from '../steps';
import { barAt, firstAtOrAfter, secondsToTicks, type Timeline } from '../time';
import type { Finding } from './finding';

/** Notes on either side that are compared, at least and at most, and how far from the seam they may be, in bars. */
const [LEAST, MOST, BARS] = [5, 12, 2];
/** From here on two takes that meet are heard to be two: loudness by its velocity, time in ms. */
const [LOUDER, LATER] = [22, 30];
/** Lateness is told by lines as fine as most playing has. */
const GRID = '1/16';
/** Up to the end of any music. */
const LAST_BAR = 100_000;

/**
 * Seams of a part where the playing jumps: from soft to loud, or from early to late. Compared are the medians of the
 * notes on either side, so that an accent at a bar line is no jump.
 */
export function seamJumps(part: Part, notes: NoteTable, timeline: Timeline): Finding[] {
  const seams = seamsOf(part, timeline);
  if (seams.length === 0 || notes.length < 2 * LEAST) return [];
  const late = latenessOf(notes, [GRID], 50, timeline);
  const found: Finding[] = [];
  for (const tick of seams) {
    const reach = BARS * timeline.meter.barTicks[0];
    const row = firstAtOrAfter(notes.start, tick - 1e-6);
    const before = rowsOf(Math.max(0, row - MOST), row).filter((each) => notes.start[each] >= tick - reach);
    const after = rowsOf(row, Math.min(notes.length, row + MOST)).filter(
      (each) => notes.start[each] < tick + reach,
    );
    if (before.length < LEAST || after.length < LEAST) continue;
    const jump = (of: ArrayLike<number>) =>
      median(after.map((each) => of[each])) - median(before.map((each) => of[each]));
    const [louder, later] = [Math.round(jump(notes.velocity)), Math.round(jump(late))];
    const reasons = [
      ...(Math.abs(louder) >= LOUDER
        ? [`${louder > 0 ? 'louder' : 'softer'} by ${Math.abs(louder)} in velocity`]
        : []),
      ...(Math.abs(later) >= LATER ? [`${later > 0 ? 'later' : 'earlier'} by ${Math.abs(later)} ms`] : []),
    ];
    if (reasons.length === 0) continue;
    found.push({
      kind: 'seam-jump',
      tick,
      notes: [],
      reason: `What comes after this seam is ${reasons.join(' and ')} than what is before it.`,
      sure: 0.9,
      mend: evenedOut(tick, seams, louder, timeline),
    });
  }
  return found;
}

/**
 * What makes the stretch after a seam as loud as what is before it; null where only the time jumps, or the seam is at
 * no bar line.
 */
function evenedOut(tick: number, seams: readonly number[], louder: number, { meter }: Timeline): Step | null {
  const bar = barAt(meter, tick + 1e-6);
  if (Math.abs(louder) < LOUDER || Math.abs(bar.start - tick) > 1) return null;
  const next = seams.find((seam) => seam > tick);
  const until = next === undefined ? LAST_BAR : barAt(meter, next + 1e-6).number;
  return createStep('velocity', {
    add: -louder,
    where: { bars: [bar.number, Math.max(bar.number + 1, until)] },
  });
}

const rowsOf = (from: number, to: number) =>
  Array.from({ length: Math.max(0, to - from) }, (_, at) => from + at);

/** Where one piece of a layer follows another of a different source, in ticks. */
function seamsOf({ layers, lockedTo }: Part, { tempo }: Timeline): number[] {
  const seams = new Set<number>();
  for (const layer of listOf(layers)) {
    const pieces = [...listOf(layer.pieces)].sort((a, b) => a.at - b.at);
    for (let at = 1; at < pieces.length; at++) {
      const [one, other] = [pieces[at - 1], pieces[at]];
      if (one.number === other.number && JSON.stringify(one.source) === JSON.stringify(other.source))
        continue;
      seams.add(lockedTo === 'seconds' ? secondsToTicks(tempo, other.at) : other.at);
    }
  }
  return [...seams].sort((a, b) => a - b);
}
