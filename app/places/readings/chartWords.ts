import type { ChartBin, ChartKind } from '@ordle/core';

/** How a chart is named, drawn and written out. */
export interface ChartWords {
  name: string;
  /** What is seen, in one sentence. */
  tells: string;
  /** What the bins are along, and what stands in them, each with its unit. */
  along: string;
  of: string;
  look: 'bars' | 'line';
  /** Whether nothing is 0: where values stand for themselves the scale begins near the least. */
  fromZero: boolean;
  digits: number;
}

export const CHART_WORDS: Record<ChartKind, ChartWords> = {
  'off-the-lines': {
    name: 'Off the lines',
    tells: 'How many notes lie how far from their nearest line; early is left.',
    along: 'from the line, ms',
    of: 'notes',
    look: 'bars',
    fromZero: true,
    digits: 0,
  },
  'by-place': {
    name: 'By place in the bar',
    tells: 'How late the notes of each place in the bar are on average; early is below the line.',
    along: 'beat of the bar',
    of: 'late, ms',
    look: 'bars',
    fromZero: true,
    digits: 1,
  },
  'along-bars': {
    name: 'Along the bars',
    tells: 'How late the notes of each bar are on average; early is below the line.',
    along: 'bar',
    of: 'late, ms',
    look: 'line',
    fromZero: true,
    digits: 1,
  },
  tempo: {
    name: 'Tempo played',
    tells: 'The tempo the part itself goes at, by where its notes come to lie in each bar.',
    along: 'bar',
    of: 'quarters a minute',
    look: 'line',
    fromZero: false,
    digits: 2,
  },
  velocity: {
    name: 'Velocities',
    tells: 'How many notes are how loud.',
    along: 'velocity',
    of: 'notes',
    look: 'bars',
    fromZero: true,
    digits: 0,
  },
  'velocity-by-place': {
    name: 'Accents',
    tells: 'How loud the notes of each place in the bar are on average.',
    along: 'beat of the bar',
    of: 'velocity',
    look: 'bars',
    fromZero: true,
    digits: 1,
  },
  length: {
    name: 'Lengths',
    tells: 'How many notes are how long; every second bin is twice as long.',
    along: 'length, ms',
    of: 'notes',
    look: 'bars',
    fromZero: true,
    digits: 0,
  },
  'to-the-next': {
    name: 'To the next stroke',
    tells: 'From the end of each note to the next stroke: gaps are right, overlaps left.',
    along: 'gap, ms',
    of: 'notes',
    look: 'bars',
    fromZero: true,
    digits: 0,
  },
  density: {
    name: 'Density',
    tells: 'How many notes there are in a bar.',
    along: 'bar',
    of: 'notes a bar',
    look: 'bars',
    fromZero: true,
    digits: 1,
  },
  pedal: {
    name: 'Pedal',
    tells: 'How long after its stroke the pedal goes down; before it is left.',
    along: 'after the stroke, ms',
    of: 'presses',
    look: 'bars',
    fromZero: true,
    digits: 0,
  },
};

/** Kinds whose bins are single values, a bar or a place in it, rather than a stretch. */
const POINTS = new Set<ChartKind>(['by-place', 'velocity-by-place']);
const HISTOGRAMS = new Set<ChartKind>(['off-the-lines', 'to-the-next', 'pedal']);
const BARS = new Set<ChartKind>(['along-bars', 'tempo', 'density']);

const plain = (value: number) => String(Number(value.toFixed(2))).replace('-', '−');

/** A bin as it is read under a chart and in its table. */
export function binInWords(kind: ChartKind, bins: readonly ChartBin[], at: number): string {
  const { from, to } = bins[at];
  if (POINTS.has(kind)) return plain(from);
  if (BARS.has(kind)) return to - from === 1 ? String(from) : `${from} to ${to - 1}`;
  if (HISTOGRAMS.has(kind)) {
    if (at === 0) return `under ${plain(to)}`;
    return at === bins.length - 1 ? `${plain(from)} and more` : `${plain(from)} to ${plain(to)}`;
  }
  if (kind === 'velocity') return `${Math.max(1, from)} to ${to - 1}`;
  return to === Infinity ? `${plain(from)} and more` : `${plain(from)} to ${plain(to)}`;
}

/** Where a bin stands under a chart, in short. */
export function binMark(kind: ChartKind, { from, to }: ChartBin): string {
  if (HISTOGRAMS.has(kind)) return plain((from + to) / 2);
  return kind === 'length' ? plain(Math.round(from)) : plain(from);
}

/** A value of a chart with its digits; a dash where there is none. */
export function valueInWords(kind: ChartKind, value: number | null): string {
  return value === null ? '–' : value.toFixed(CHART_WORDS[kind].digits).replace('-', '−');
}
