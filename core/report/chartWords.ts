import type { ChartBin, ChartKind } from '../analysis';

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
    name: 'Off the grid',
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
    of: 'tempo, bpm',
    look: 'line',
    fromZero: false,
    digits: 2,
  },
  velocity: {
    name: 'Velocities',
    tells: 'Number of notes at each velocity.',
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
    tells: 'Number of notes of each length; every second bar stands for twice the length.',
    along: 'length, ms',
    of: 'notes',
    look: 'bars',
    fromZero: true,
    digits: 0,
  },
  'to-the-next': {
    name: 'Gap to the next note',
    tells: 'From the end of each note to the start of the next: gaps are right, overlaps left.',
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
    tells: 'Pedal press after the note (before it: left)',
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

/** Distances between what stands under a chart, and how many of them there is room for. */
const STEPS = [1, 2, 4, 5, 8, 10, 16, 20, 25, 32, 50, 64, 100, 200, 500];
const MOST_MARKS = 9;

/**
 * The bins that something stands under: round values, 0 among them, or whole beats; each as `binMark` has it.
 */
export function alongMarks(kind: ChartKind, bins: readonly ChartBin[], most = MOST_MARKS): number[] {
  const values = bins.map(({ from, to }) => (HISTOGRAMS.has(kind) ? (from + to) / 2 : from));
  // Lengths double from bin to bin: no step is round in them.
  if (kind === 'length') {
    const every = Math.ceil(bins.length / most);
    return values.flatMap((_, at) => (at % every === 0 ? [at] : []));
  }
  const round = (step: number) => values.flatMap((value, at) => (Number.isInteger(value / step) ? [at] : []));
  const step = STEPS.find((each) => round(each).length <= most) ?? STEPS[STEPS.length - 1];
  return round(step);
}
