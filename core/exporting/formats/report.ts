import { strToU8 } from 'fflate';
import { z } from 'zod';
import { readChanges } from '../../analysis';
import type { Evaluation } from '../../evaluate';
import { FINDING_NAMES, nameOfFinding } from '../../findings';
import { drumName, pitchName } from '../../midi';
import { indexIds, type Material } from '../../model';
import { SMALL_CHARTS, findingsByScore, readingsOfParts, type Read } from '../../readings';
import {
  CHART_WORDS,
  alongMarks,
  binMark,
  cleanupReport,
  type ReportedCleanup,
  type ReportedNotes,
  type ReportedStep,
} from '../../report';
import { itemOf, listOf, type Part } from '../../session';
import { describeWhere, kindOf } from '../../steps';
import {
  barAt,
  barNumbered,
  bpmOf,
  nameOfNoteValue,
  positionAt,
  ticksToSeconds,
  type Timeline,
} from '../../time';
import type { FormatKind, Portion } from '../formatKind';
import { countOf } from './midi';

export const reportOptions = z.strictObject({});
export type ReportOptions = z.infer<typeof reportOptions>;

/** The grid of parts that name none. */
const USUAL_GRID = '1/16';
/** Bars that are drawn of a part, from the first with a note on. */
const BARS_DRAWN = 8;

/** What was done, before and after, as a page that prints. */
export const report: FormatKind<ReportOptions> = {
  id: 'report',
  title: 'Clean-up report',
  tells: 'what was done, to read and to print',
  options: reportOptions,
  isCut: false,
  cannotHold: () => ['It tells of the whole parts, as played and as cleaned.'],
  files: (portion) => [
    {
      part: '',
      what: 'clean-up',
      extension: 'html',
      words: countOf(portion.chosen.parts.length),
      *chunks() {
        yield strToU8(cleanupReport(contentOf(portion)));
      },
    },
  ],
};

function contentOf({ chosen, source }: Portion): Parameters<typeof cleanupReport>[0] {
  const { session, timeline } = chosen;
  const read = chosen.parts.map(({ part }): Read => ({
    part,
    evaluation: source.evaluator.evaluate(part, session, timeline),
  }));
  const readings = readingsOfParts(read, { shown: USUAL_GRID, timeline, where: {} }, (part) =>
    findingsByScore(part, session, source.evaluator, timeline),
  );
  const letBe = new Map(chosen.parts.map(({ part }) => [part.id, new Set(part.dismissed)]));
  return {
    session: session.name,
    tempo: tempoInWords(timeline),
    parts: read.map(({ part, evaluation }, at): ReportedCleanup => {
      const { grid, swing, played, cleaned, charts } = readings.parts[at];
      return {
        name: part.name,
        grid: `${nameOfNoteValue(grid)}${swing === 50 ? '' : `, swing ${swing} %`}`,
        before: played,
        after: cleaned,
        steps: stepsOf(part, evaluation, timeline),
        notes: notesOf(part, evaluation, timeline),
        charts: SMALL_CHARTS.map((chart) => ({
          caption: `${CHART_WORDS[chart].name} (${CHART_WORDS[chart].of}; ${CHART_WORDS[chart].along})`,
          bins: charts[chart],
          marks: alongMarks(chart, charts[chart], 5).map((bin) => ({
            bin,
            mark: binMark(chart, charts[chart][bin]),
          })),
          isCounted: CHART_WORDS[chart].digits === 0,
        })),
      };
    }),
    findings: readings.findings
      .filter((finding) => !letBe.get(finding.partId)?.has(nameOfFinding(finding)))
      .map(({ kind, partId, tick, reason }) => ({
        kind: FINDING_NAMES[kind],
        part: itemOf(session.parts, partId)?.name ?? '',
        place: placeOf(tick, timeline),
        reason,
      })),
  };
}

const placeOf = (at: number, { meter }: Timeline): string => {
  const { bar, beat, tick } = positionAt(meter, at);
  return `${bar}.${beat}.${String(tick).padStart(3, '0')}`;
};

function tempoInWords({ tempo, meter }: Timeline): string {
  const all = Array.from(tempo.microsecondsPerQuarter, bpmOf);
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const meters = [
    ...new Set(Array.from(meter.numerator, (count, row) => `${count}/${meter.denominator[row]}`)),
  ];
  const told = high - low < 0.05 ? low.toFixed(1) : `${low.toFixed(1)} to ${high.toFixed(1)}`;
  return `${told} bpm, ${meters.join(', ')}.`;
}

function stepsOf(part: Part, { stages }: Evaluation, timeline: Timeline): ReportedStep[] {
  return listOf(part.steps).map(({ step }, at) => {
    const [before, after] = [stages[at], stages[at + 1]];
    const { notes, added, removed, moved, velocities } = readChanges(before, after);
    const kind = kindOf(step.kind);
    return {
      name: `${kind.title} ${kind.describe(step)}`.trim(),
      where: describeWhere(step.where),
      isOn: step.on,
      changed: notes,
      added,
      removed,
      moved,
      velocities,
      ...movesBetween(before, after, timeline),
    };
  });
}

/** How far notes were moved, in ms either way: the median of those that were, and the farthest. */
function movesBetween(before: Material, after: Material, { tempo }: Timeline) {
  const was = indexIds(before.notes.id);
  const moves: number[] = [];
  for (let row = 0; row < after.notes.length; row++) {
    const from = was.rowOf(after.notes.id[row]);
    if (from < 0 || before.notes.start[from] === after.notes.start[row]) continue;
    const [one, other] = [before.notes.start[from], after.notes.start[row]];
    moves.push(1000 * Math.abs(ticksToSeconds(tempo, other) - ticksToSeconds(tempo, one)));
  }
  moves.sort((a, b) => a - b);
  return moves.length === 0
    ? { typicalMs: null, largestMs: null }
    : { typicalMs: moves[moves.length >> 1], largestMs: moves[moves.length - 1] };
}

function notesOf(part: Part, { stages }: Evaluation, { meter }: Timeline): ReportedNotes | null {
  const [before, after] = [stages[0].notes, stages[stages.length - 1].notes];
  if (before.length + after.length === 0) return null;
  const first = barAt(meter, Math.max(0, Math.min(before.start[0] ?? Infinity, after.start[0] ?? Infinity)));
  const bars = Array.from({ length: BARS_DRAWN }, (_, at) => barNumbered(meter, first.number + at));
  const to = bars[bars.length - 1].end;
  const shown = [before, after].flatMap(({ pitch, start }) =>
    Array.from(pitch).filter((_, row) => start[row] >= first.start && start[row] < to),
  );
  const nameOf = (pitch: number) => (part.sound.drums ? drumName(pitch) : null) ?? pitchName(pitch);
  return {
    caption: `Bars ${first.number} to ${first.number + BARS_DRAWN - 1}: as played in outline, cleaned filled`,
    before,
    after,
    from: first.start,
    to,
    bars: bars.map(({ start, number }) => ({ tick: start, number })),
    lowest: part.sound.drums ? '' : nameOf(shown.reduce((least, pitch) => Math.min(least, pitch), 127)),
    highest: part.sound.drums ? '' : nameOf(shown.reduce((most, pitch) => Math.max(most, pitch), 0)),
  };
}
