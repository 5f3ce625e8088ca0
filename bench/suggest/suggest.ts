import {
  applyStep,
  createGrid,
  createTimeline,
  createEventBuilder,
  nearestLines,
  suggestionFor,
  type Material,
} from '@ordle/core';
import type { BenchRow } from '../core';
import { KINDS, make, type Made } from './made';

export const SEEDS = 9;

interface Score {
  /** Strokes on their written line after it, of those that were nearest to it or within a third of a step. */
  onLine: number;
  biasMs: number;
  /** The narrowest of the rolls, as a share of what it was. */
  roll: number;
  swing: number;
  /** Nothing was suggested. */
  isLeft: boolean;
}

/** What the suggestion makes of a performance whose written places are known. */
export function scoreOf(made: Made): Score & { reasons: string[] } {
  const { notes, written, bpm, isDrums } = made;
  const timeline = createTimeline(
    { kind: 'metrical', ticksPerQuarter: 960 },
    [{ tick: 0, microsecondsPerQuarter: Math.round(60e6 / bpm) }],
    [],
  );
  const material: Material = { notes, events: createEventBuilder(0).build() };
  const suggestion = suggestionFor(material, [], { timeline, isDrums });
  const steps = suggestion?.steps ?? [];
  const after = steps.reduce((input, step) => applyStep(input, step, { timeline, isDrums }), material).notes;
  const place = new Map(Array.from(after.id, (id, row) => [id, after.start[row]]));
  const perMs = (bpm * 960) / 60_000;
  const bias = median(
    written.flatMap(({ at, isAnchor }, id) => (isAnchor ? [(notes.start[id] - at * 960) / perMs] : [])),
  );
  let [was, is] = [0, 0];
  const late: number[] = [];
  written.forEach(({ at, step, isAnchor }, id) => {
    const to = place.get(id);
    if (!isAnchor || to === undefined) return;
    const [meant, width] = [at * 960, step * 960];
    const off = notes.start[id] - meant - bias * perMs;
    const lines = new Float64Array(1);
    nearestLines(
      createGrid(timeline.meter, [made.swing === 50 ? nameOf(step) : '1/8'], made.swing),
      Float64Array.of(notes.start[id]),
      lines,
    );
    if (Math.abs(lines[0] - meant) > 1 && Math.abs(off) > width / 3) return;
    was++;
    if (Math.abs(to - meant) <= width / 5) is++;
    late.push((to - meant) / perMs);
  });
  const rolls = widthsOf(made, (id) => notes.start[id]).map((width, chord) => {
    const now = widthsOf(made, (id) => place.get(id) ?? 0)[chord];
    return width < 1 ? 1 : now / width;
  });
  return {
    onLine: is / Math.max(1, was),
    biasMs: Math.abs(late.reduce((sum, each) => sum + each, 0) / Math.max(1, late.length)),
    isLeft: steps.length === 0,
    roll: Math.min(1, ...rolls),
    swing: Math.abs(swingAfter(made, (id) => place.get(id) ?? 0) - made.swing),
    reasons: suggestion?.reasons ?? [],
  };
}

const nameOf = (step: number) => (Math.abs(step - 1 / 3) < 1e-6 ? '1/8T' : step === 0.25 ? '1/16' : '1/8');

function widthsOf({ written }: Made, start: (id: number) => number): number[] {
  const spans = new Map<number, [number, number]>();
  written.forEach(({ chord }, id) => {
    if (chord === undefined) return;
    const [low, high] = spans.get(chord) ?? [Infinity, -Infinity];
    spans.set(chord, [Math.min(low, start(id)), Math.max(high, start(id))]);
  });
  return [...spans.values()].map(([low, high]) => high - low);
}

/** Where the second of each pair of eighths is, in percent of the pair. */
function swingAfter({ written, kind }: Made, start: (id: number) => number): number {
  if (kind !== 'swung bass and chords') return 50;
  const offs = written.flatMap(({ at }, id) => {
    const within = at % 1;
    return within > 0.3 && within < 0.8 ? [100 * (start(id) / 960 - Math.floor(at))] : [];
  });
  return median(offs);
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1] ?? 0;
}

/** Suggestions by the score they may be judged by: what they do to what was meant. */
export function benchSuggest(): BenchRow[] {
  return KINDS.flatMap((kind) => {
    const scores = Array.from({ length: SEEDS }, (_, seed) => scoreOf(make(kind, seed)));
    const row = (work: string, value: number, reach: string, met: boolean): BenchRow => ({
      work: `suggested: ${kind}, ${work}`,
      ours: value.toFixed(3),
      peer: `${SEEDS} performances`,
      reach,
      met,
    });
    const onLine = scores.reduce((sum, each) => sum + each.onLine, 0) / SEEDS;
    const done = scores.filter(({ isLeft }) => !isLeft);
    const biases = done.map(({ biasMs }) => biasMs);
    const bias = biases.reduce((sum, each) => sum + each, 0) / Math.max(1, biases.length);
    const roll = Math.min(...scores.map((each) => each.roll));
    const swing = Math.max(...scores.map((each) => each.swing));
    return [
      row('strokes on their written line', onLine, 'at least 0.995', onLine >= 0.995),
      row(`bias left, mean, ms (most ${Math.max(0, ...biases).toFixed(1)})`, bias, 'under 2', bias < 2),
      row('narrowest roll, of itself', roll, 'at least 0.7', roll >= 0.7),
      row('swing, percent points off', swing, 'at most 1.5', swing <= 1.5),
    ];
  });
}
