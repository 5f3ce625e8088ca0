import {
  roundMarks,
  type ChartBin,
  type ChartKind,
  CHART_WORDS,
  alongMarks,
  binInWords,
  binMark,
  valueInWords,
} from '@ordle/core';
import {
  Bar,
  BarChart,
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  Tooltip,
  XAxis,
  YAxis,
  type TooltipContentProps,
} from 'recharts';
import { AXIS, MARGIN } from './chartWords';

interface DrawingProps {
  kind: ChartKind;
  bins: readonly ChartBin[];
  ink: number;
  width: number;
  height: number;
  /** Without words: a small picture beside others. */
  isSmall?: boolean;
}

/** A chart of a part: as played in outline or dashed, as cleaned filled or drawn through. */
export default function Drawing({ kind, bins, ink, width, height, isSmall = false }: DrawingProps) {
  const words = CHART_WORDS[kind];
  const rows = bins.map((bin, at) => ({
    at,
    mark: binMark(kind, bin),
    before: bin.before.value,
    after: bin.after.value,
  }));
  const values = rows.flatMap(({ before, after }) => [before, after]);
  const marks = isSmall ? undefined : roundMarks(values, words.digits === 0, words.fromZero);
  const domain: [AxisEnd, AxisEnd] = marks
    ? [marks[0], marks[marks.length - 1]]
    : words.fromZero
      ? [low, high]
      : ['auto', 'auto'];
  const shared = {
    width,
    height,
    data: rows,
    accessibilityLayer: false,
    margin: isSmall ? { top: 2, right: 0, bottom: 2, left: 0 } : MARGIN,
  };
  const inside = (
    <>
      {!isSmall && <CartesianGrid vertical={false} stroke="var(--rule)" />}
      <XAxis
        dataKey="mark"
        hide={isSmall}
        interval={0}
        ticks={isSmall ? undefined : alongMarks(kind, bins).map((at) => rows[at].mark)}
        tick={{ fill: 'var(--ink-2)', fontSize: 12 }}
        stroke="var(--rule-strong)"
        label={{
          value: words.along,
          position: 'insideBottom',
          offset: -12,
          fill: 'var(--ink-2)',
          fontSize: 12,
        }}
      />
      <YAxis
        hide={isSmall}
        width={AXIS}
        domain={domain}
        ticks={marks}
        interval={0}
        tickFormatter={(value: number) =>
          marks ? String(value).replace('-', '−') : valueInWords(kind, value)
        }
        allowDecimals={words.digits > 0}
        tick={{ fill: 'var(--ink-2)', fontSize: 12 }}
        stroke="var(--rule-strong)"
        label={{ value: words.of, angle: -90, position: 'insideLeft', fill: 'var(--ink-2)', fontSize: 12 }}
      />
      {words.fromZero && <ReferenceLine y={0} stroke="var(--ink-3)" />}
      {kind === 'off-the-lines' && <ReferenceLine x="0" stroke="var(--ink-3)" strokeDasharray="2 2" />}
      {!isSmall && (
        <Tooltip
          isAnimationActive={false}
          cursor={{ fill: 'var(--well)', stroke: 'var(--rule-strong)' }}
          content={(tip: TooltipContentProps) => (
            <Tip kind={kind} bins={bins} at={Number(tip.active ? (tip.activeIndex ?? NaN) : NaN)} />
          )}
        />
      )}
    </>
  );
  const colour = `var(--ink-part-${ink + 1})`;
  if (words.look === 'line')
    return (
      <LineChart {...shared}>
        {inside}
        <Line
          dataKey="before"
          stroke="var(--ink-3)"
          strokeDasharray="3 2"
          dot={false}
          isAnimationActive={false}
          connectNulls
        />
        <Line
          dataKey="after"
          stroke={colour}
          strokeWidth={1.75}
          dot={rows.length < 3}
          isAnimationActive={false}
          connectNulls
        />
      </LineChart>
    );
  return (
    <BarChart {...shared} barCategoryGap={rows.length > 24 ? 0 : '18%'}>
      {inside}
      {/* An axis of its own, or the two would stand side by side. */}
      <XAxis xAxisId="before" dataKey="mark" hide />
      <Bar dataKey="after" fill={colour} isAnimationActive={false} />
      <Bar xAxisId="before" dataKey="before" fill="none" stroke="var(--ink-3)" isAnimationActive={false} />
    </BarChart>
  );
}

const low = (least: number) => Math.min(0, least);
const high = (most: number) => Math.max(0, most);
type AxisEnd = number | 'auto' | typeof low;

function Tip({ kind, bins, at }: { kind: ChartKind; bins: readonly ChartBin[]; at: number }) {
  const bin = bins.at(at);
  if (!Number.isInteger(at) || !bin) return null;
  const { along, of } = CHART_WORDS[kind];
  return (
    <div className="border border-edge bg-sheet px-2 py-1">
      <p className="text-ink-2">
        {along}: {binInWords(kind, bins, at)}
      </p>
      <p>
        {of}: {valueInWords(kind, bin.after.value)}
        {bin.before.value !== bin.after.value && `, was ${valueInWords(kind, bin.before.value)}`}
      </p>
    </div>
  );
}
