import {
  itemOf,
  kindOf,
  listOf,
  nameOfNoteValue,
  readingsReport,
  type Session,
  type Timeline,
  type Where,
  SMALL_CHARTS,
  type ReadingsOfParts,
  CHART_WORDS,
  alongMarks,
  binMark,
  FINDING_NAMES,
} from '@ordle/core';
import { placeInWords } from '@/panels/notes/noteColumns';
import { barsInWords } from '@/words/counts';
import type { PartFinding } from '@/edits/mendFindings';

/**
 * The readings of a session as a page of HTML: every part before and after, the steps between, and what is still
 * open.
 */
export function reportOfSession(
  session: Session,
  readings: ReadingsOfParts,
  { open, where, timeline }: { open: readonly PartFinding[]; where: Where; timeline: Timeline },
): string {
  const { bars, ...others } = where;
  const limits = Object.keys(others).length > 0 ? ', some of their notes' : '';
  return readingsReport({
    session: session.name,
    made: `Made on ${new Date().toLocaleDateString('en-GB', { dateStyle: 'long' })}.`,
    where: `${bars ? barsInWords(bars[0], bars[1] - 1) : 'whole parts'}${limits}`,
    parts: readings.parts.flatMap((reading) => {
      const part = itemOf(session.parts, reading.partId);
      if (!part) return [];
      return [
        {
          name: part.name,
          grid: `${nameOfNoteValue(reading.grid)}${reading.swing === 50 ? '' : `, swing ${reading.swing} %`}`,
          before: reading.played,
          after: reading.cleaned,
          charts: SMALL_CHARTS.map((chart) => ({
            caption: `${CHART_WORDS[chart].name} (${CHART_WORDS[chart].of}; ${CHART_WORDS[chart].along})`,
            bins: reading.charts[chart],
            marks: alongMarks(chart, reading.charts[chart], 5).map((bin) => ({
              bin,
              mark: binMark(chart, reading.charts[chart][bin]),
            })),
            isCounted: CHART_WORDS[chart].digits === 0,
          })),
          steps: listOf(part.steps)
            .filter(({ step }) => step.on)
            .map(({ step }) => `${kindOf(step.kind).title} ${kindOf(step.kind).describe(step)}`.trim()),
        },
      ];
    }),
    findings: open.map(({ kind, partId, tick, reason }) => ({
      kind: FINDING_NAMES[kind],
      part: itemOf(session.parts, partId)?.name ?? '',
      place: placeInWords(tick, { timeline, time: 'bars' }),
      reason,
    })),
  });
}
