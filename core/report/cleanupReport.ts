import { drawnChart, type ReportedChart } from './drawnChart';
import { drawnNotes, type ReportedNotes } from './drawnNotes';
import { escaped, figure, pageOf, tableOf } from './page';
import type { ReportedFigures, ReportedFinding } from './readingsReport';

/** What a step did to the notes it got, counted; ms. */
export interface ReportedStep {
  name: string;
  where: string;
  isOn: boolean;
  /** Notes that are in any way others, those added and removed among them. */
  changed: number;
  added: number;
  removed: number;
  moved: number;
  /** How far, at half of the notes that moved, and at most; null where none did. */
  typicalMs: number | null;
  largestMs: number | null;
  velocities: number;
}

export interface ReportedCleanup {
  name: string;
  grid: string;
  before: ReportedFigures;
  after: ReportedFigures;
  steps: readonly ReportedStep[];
  notes: ReportedNotes | null;
  charts: readonly ReportedChart[];
}

export interface CleanupReport {
  session: string;
  tempo: string;
  parts: readonly ReportedCleanup[];
  findings: readonly ReportedFinding[];
}

/** What was done to each part, step by step, and what it came to, as a page of HTML that stands alone and prints. */
export function cleanupReport({ session, tempo, parts, findings }: CleanupReport): string {
  const sounding = parts.filter(({ before, after }) => before.notes + after.notes > 0);
  const silent = parts.filter((part) => !sounding.includes(part)).map(({ name }) => escaped(name));
  const isDone = ({ steps }: ReportedCleanup) => steps.some(({ isOn }) => isOn);
  const change = (before: string, after: string) =>
    before === after ? after : `${after} <span class="quiet">was ${before}</span>`;
  const summary = tableOf(
    ['part', 'grid', 'notes', 'spread, ms', 'late on the whole, ms', 'swing, %', 'steps'],
    sounding.map(({ name, grid, before, after, steps }) => [
      escaped(name),
      escaped(grid),
      change(String(before.notes), String(after.notes)),
      change(figure(before.spreadMs), figure(after.spreadMs)),
      change(figure(before.biasMs), figure(after.biasMs)),
      change(figure(before.swing), figure(after.swing)),
      String(steps.filter(({ isOn }) => isOn).length || 'none'),
    ]),
  );
  const untouched = sounding.filter((part) => !isDone(part)).map(({ name }) => escaped(name));
  const open =
    findings.length === 0
      ? '<p>Nothing.</p>'
      : tableOf(
          ['what', 'part', 'at', 'why'],
          findings.map(({ kind, part, place, reason }) => [kind, part, place, reason].map(escaped)),
        );
  return pageOf(
    `${session}: clean-up`,
    `<h1>${escaped(session)}</h1><p class="quiet">Clean-up report. ${escaped(tempo)}</p>
<section><h2>The parts</h2>${summary}
<p class="quiet">As cleaned, and what it was as played. Spread is the standard deviation about the mean lateness against each part's grid.${
      untouched.length > 0 ? ` Nothing was done to: ${untouched.join(', ')}.` : ''
    }${silent.length > 0 ? ` Without notes: ${silent.join(', ')}.` : ''}</p></section>
${sounding.map(partOf).join('\n')}
<section><h2>Still open</h2>${open}</section>`,
  );
}

function partOf({ name, steps, notes, charts }: ReportedCleanup): string {
  const did = tableOf(
    [
      'step',
      'where',
      'notes changed',
      'moved',
      'typically, ms',
      'at most, ms',
      'louder or softer',
      'added',
      'removed',
    ],
    steps.map((step) => [
      escaped(step.isOn ? step.name : `${step.name} (off)`),
      escaped(step.where),
      ...[step.changed, step.moved].map(String),
      figure(step.typicalMs),
      figure(step.largestMs),
      ...[step.velocities, step.added, step.removed].map(String),
    ]),
  );
  return `<section><h2>${escaped(name)}</h2>
${steps.length === 0 ? '<p>As it was played: no step was put on it.</p>' : did}
${notes ? drawnNotes(notes) : ''}
${charts.map(drawnChart).join('')}</section>`;
}
