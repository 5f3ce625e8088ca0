import {
  itemOf,
  nameOfNoteValue,
  type ChartBin,
  type ChartKind,
  type Part,
  type Session,
  SMALL_CHARTS,
  type LieOfPart,
  type PartReadings,
  type ReadingsOfParts,
  CHART_WORDS,
} from '@ordle/core';
import { lazy, Suspense } from 'react';
import { counted, figures, msInWords } from '@/words/counts';

/** The charts are a large package: they come when the first of them is shown. */
const Drawing = lazy(() => import('./Drawing'));

interface PartsTableProps {
  session: Session;
  readings: ReadingsOfParts;
  chosen: string | undefined;
  onChoose(partId: string): void;
  /** Opens one of the small charts of a part. */
  onOpen(partId: string, chart: ChartKind): void;
}

/** Not shown where there is little room: they stand in the report and the charts as well. */
const WIDE = 'max-xl:hidden';
/** Beside the figures; one chart of the chosen part stands below in any case. */
const CHART = 'narrow:hidden';
const HEADS = [
  'notes',
  'uneven, ms',
  'on the whole',
  'swing',
  'off the grid, ±80 ms',
  'by place in the bar',
  'along the bars',
];
const CHARTED = new Set(HEADS.slice(4));
const WIDTHS: Record<(typeof SMALL_CHARTS)[number], number> = {
  'off-the-lines': 136,
  'by-place': 108,
  'along-bars': 124,
};

const spread = ({ spreadMs }: LieOfPart) => (spreadMs === null ? '–' : msInWords(spreadMs));
const swing = ({ swing: percent }: LieOfPart) => (percent === null ? '–' : `${percent.toFixed(1)} %`);
const lie = ({ biasMs }: LieOfPart) =>
  biasMs === null
    ? '–'
    : Math.abs(biasMs) < 0.05
      ? 'on the line'
      : `${biasMs > 0 ? 'late' : 'early'} ${msInWords(Math.abs(biasMs))} ms`;
const count = ({ notes }: LieOfPart) => figures(notes);

/** Every part as cleaned, and as it was played, against its grid; those without notes are folded away. */
export function PartsTable({ session, readings, chosen, onChoose, onOpen }: PartsTableProps) {
  const isEmpty = ({ played, cleaned }: PartReadings) => played.notes + cleaned.notes === 0;
  const without = readings.parts.filter(isEmpty);
  const withNotes = readings.parts.filter((reading) => !isEmpty(reading));
  return (
    <table className="w-full border-collapse text-left" data-testid="readings-table">
      <thead>
        <tr className="border-b border-rule-strong text-ink-2">
          <th scope="col" className="py-1.5 pl-4 font-normal">
            part
          </th>
          {HEADS.map((head) => (
            <th
              key={head}
              scope="col"
              className={`px-2 py-1.5 font-normal whitespace-nowrap ${head === 'notes' || head === 'swing' ? WIDE : CHARTED.has(head) ? CHART : ''}`}
            >
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {withNotes.map((reading) => (
          <PartLine
            key={reading.partId}
            part={itemOf(session.parts, reading.partId)}
            {...{ reading, onChoose, onOpen }}
            isChosen={reading.partId === chosen}
          />
        ))}
        {without.length > 0 && (
          <tr className="border-b border-rule">
            <td colSpan={HEADS.length + 1} className="py-1 pl-4 text-ink-2">
              <details>
                <summary className="cursor-pointer">{counted(without.length, 'part')} without notes</summary>
                <ul className="mt-1 ml-4">
                  {without.map(({ partId }) => (
                    <li key={partId}>
                      <button type="button" className="hover:text-ink" onClick={() => onChoose(partId)}>
                        {itemOf(session.parts, partId)?.name}
                      </button>
                    </li>
                  ))}
                </ul>
              </details>
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

interface PartLineProps {
  part: Part | undefined;
  reading: PartReadings;
  isChosen: boolean;
  onChoose(partId: string): void;
  onOpen(partId: string, chart: ChartKind): void;
}

/** One part: its figures and its small charts. */
function PartLine({ part, reading, isChosen, onChoose, onOpen }: PartLineProps) {
  if (!part) return null;
  return (
    <tr className={`border-b border-rule ${isChosen ? 'bg-well' : 'hover:bg-well'}`}>
      <th scope="row" className="max-w-44 py-0.5 pl-4 font-normal max-xl:max-w-32">
        <button
          type="button"
          aria-pressed={isChosen}
          className="flex w-full items-center gap-2 text-left"
          onClick={() => onChoose(part.id)}
        >
          <span className="h-8 w-1.5 shrink-0" style={{ background: `var(--ink-part-${part.ink + 1})` }} />
          <span className="min-w-0">
            <span className="block truncate font-semibold">{part.name}</span>
            <span className="block text-ink-2">
              {nameOfNoteValue(reading.grid)}
              {reading.swing !== 50 && `, swing ${reading.swing} %`}
            </span>
          </span>
        </button>
      </th>
      <Pair reading={reading} value={count} isWide />
      <Pair reading={reading} value={spread} isLarge />
      <Pair reading={reading} value={lie} />
      <Pair reading={reading} value={swing} isWide />
      {SMALL_CHARTS.map((chart) => (
        <td key={chart} className={`px-2 py-0.5 ${CHART}`}>
          <button
            type="button"
            aria-label={`${CHART_WORDS[chart].name} of ${part.name}`}
            className="relative block cursor-pointer"
            onClick={() => onOpen(part.id, chart)}
          >
            <span className="absolute top-0 right-0 z-10 bg-sheet px-0.5 text-quiet leading-none text-ink-2">
              {scaleInWords(chart, reading.charts[chart])}
            </span>
            <Suspense fallback={<span className="block h-11" style={{ width: WIDTHS[chart] }} />}>
              <Drawing
                kind={chart}
                bins={reading.charts[chart]}
                ink={part.ink}
                width={WIDTHS[chart]}
                height={44}
                isSmall
              />
            </Suspense>
          </button>
        </td>
      ))}
    </tr>
  );
}

/** How far a small chart reaches, with its unit. */
function scaleInWords(kind: ChartKind, bins: readonly ChartBin[]): string {
  const most = bins.reduce(
    (farthest, { before, after }) =>
      Math.max(farthest, Math.abs(before.value ?? 0), Math.abs(after.value ?? 0)),
    0,
  );
  return most === 0 ? '' : CHART_WORDS[kind].digits === 0 ? `${most}` : `±${Math.round(most)} ms`;
}

interface PairProps {
  reading: PartReadings;
  value(lie: LieOfPart): string;
  isLarge?: boolean;
  isWide?: boolean;
}

/** A figure as cleaned, and under it, where it was another, as played. */
function Pair({ reading, value, isLarge, isWide }: PairProps) {
  const [now, was] = [value(reading.cleaned), value(reading.played)];
  return (
    <td className={`px-2 py-0.5 whitespace-nowrap ${isWide ? WIDE : ''}`}>
      <span className={`block ${isLarge ? 'text-[1.15rem] leading-tight' : ''}`}>{now}</span>
      {now !== was && <span className="block text-ink-2">was {was}</span>}
    </td>
  );
}
