import { COMPARED_KINDS, type ComparedKind } from '../analysis';
import { escaped, figure, pageOf, tableOf } from './page';

/** A difference as it is told: where, which note, and how. */
export interface ReportedDifference {
  kind: ComparedKind;
  place: string;
  note: string;
  laterMs: number;
  louder: number;
  longerMs: number;
}

export interface ComparisonReport {
  one: string;
  other: string;
  made: string;
  counts: Record<ComparedKind, number>;
  slidMs: number;
  laterMs: { mean: number; deviation: number };
  differences: readonly ReportedDifference[];
}

/** Kinds as they are told. */
export const COMPARED_WORDS: Record<ComparedKind, string> = {
  same: 'the same',
  moved: 'moved',
  changed: 'played otherwise',
  missing: 'missing',
  extra: 'extra',
};

/** How one performance differs from another, note by note, as a page of HTML that stands alone. */
export function comparisonReport(report: ComparisonReport): string {
  const { one, other, made, counts, slidMs, laterMs, differences } = report;
  const slid =
    Math.abs(slidMs) < 0.5
      ? ''
      : ` ${escaped(other)} was slid ${figure(Math.abs(slidMs), 0)} ms ${slidMs > 0 ? 'later' : 'earlier'} to lie along it.`;
  const changed = (value: number, digits: number) => (value === 0 ? '' : figure(value, digits));
  return pageOf(
    `${one} and ${other}`,
    `<h1>${escaped(one)}</h1><p>beside ${escaped(other)}</p><p class="quiet">${escaped(made)}</p>
<section><h2>In all</h2>${tableOf(
      ['notes', 'how many'],
      COMPARED_KINDS.map((kind) => [COMPARED_WORDS[kind], String(counts[kind])]),
    )}
<p>Of the notes in both, ${escaped(one)} is ${figure(Math.abs(laterMs.mean))} ms ${laterMs.mean >= 0 ? 'later' : 'earlier'} on average, ${figure(laterMs.deviation)} ms about that.${slid}</p></section>
<section><h2>Note by note</h2>${tableOf(
      ['at', 'note', 'what', 'later, ms', 'louder', 'longer, ms'],
      differences.map(({ place, note, kind, laterMs: later, louder, longerMs }) => [
        escaped(place),
        escaped(note),
        COMPARED_WORDS[kind],
        changed(later, 1),
        changed(louder, 0),
        changed(longerMs, 0),
      ]),
    )}</section>`,
  );
}
