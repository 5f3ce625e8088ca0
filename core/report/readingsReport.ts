import { drawnChart, type ReportedChart } from './drawnChart';
import { escaped, figure, pageOf, tableOf } from './page';

/** Figures of a part at one stage; ms, late above 0, null where there is nothing to tell. */
export interface ReportedFigures {
  notes: number;
  biasMs: number | null;
  spreadMs: number | null;
  swing: number | null;
  velocity: number | null;
}

export interface ReportedPart {
  name: string;
  /** The grid it is told by, by its name. */
  grid: string;
  before: ReportedFigures;
  after: ReportedFigures;
  charts: ReportedChart[];
  /** The steps of its line, in words. */
  steps: readonly string[];
}

export interface ReportedFinding {
  part: string;
  place: string;
  kind: string;
  reason: string;
}

export interface ReadingsReport {
  session: string;
  /** When it was made, and what of the parts was measured, in words. */
  made: string;
  where: string;
  parts: readonly ReportedPart[];
  findings: readonly ReportedFinding[];
}

/** What was done to the parts and what it came to, before and after, as a page of HTML that stands alone. */
export function readingsReport({ session, made, where, parts: all, findings }: ReadingsReport): string {
  const isEmpty = ({ before, after }: ReportedPart) => before.notes + after.notes === 0;
  const parts = all.filter((part) => !isEmpty(part));
  const silent = all.filter(isEmpty).map(({ name }) => escaped(name));
  const change = (before: string, after: string) =>
    before === after ? after : `${after} <span class="quiet">was ${before}</span>`;
  const both = (part: ReportedPart, tell: (figures: ReportedFigures) => string) =>
    change(tell(part.before), tell(part.after));
  const figures = tableOf(
    ['part', 'grid', 'notes', 'uneven, ms', 'late on average, ms', 'swing, %', 'velocity'],
    parts.map((part) => [
      escaped(part.name),
      escaped(part.grid),
      both(part, ({ notes }) => String(notes)),
      both(part, ({ spreadMs }) => figure(spreadMs)),
      both(part, ({ biasMs }) => figure(biasMs)),
      both(part, ({ swing }) => figure(swing)),
      both(part, ({ velocity }) => figure(velocity, 0)),
    ]),
  );
  const each = parts.map(
    ({ name, charts, steps }) => `<section><h2>${escaped(name)}</h2>
<p>${steps.length === 0 ? 'As it was played: no step was put on it.' : steps.map(escaped).join('; ')}</p>
${charts.map(drawnChart).join('')}</section>`,
  );
  const open =
    findings.length === 0
      ? '<p>None.</p>'
      : tableOf(
          ['finding', 'part', 'at', 'why'],
          findings.map(({ kind, part, place, reason }) => [kind, part, place, reason].map(escaped)),
        );
  return pageOf(
    `${session}: readings`,
    `<h1>${escaped(session)}</h1><p class="quiet">Readings before and after, ${escaped(where)}. ${escaped(made)}</p>
<section><h2>The parts</h2>${figures}
<p class="quiet">As cleaned, and what it was as played. Uneven is the standard deviation about the mean lateness against each part's grid. In the drawings as played is the outline.${silent.length > 0 ? ` Without notes: ${silent.join(', ')}.` : ''}</p></section>
${each.join('\n')}
<section><h2>Still open</h2>${open}</section>`,
  );
}
