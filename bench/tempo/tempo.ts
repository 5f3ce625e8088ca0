import { createTimeline, findBeats, steadyLine } from '@ordle/core';
import { medianTime, type BenchRow } from '../core';
import { benchByHand } from './byHand';
import { benchMending } from './mending';
import { bentPieces } from './others';
import { METERS, TEMPOS, TEXTURES, perform, type PerformanceOptions } from './performances';
import { fAtAnyLevel, fMeasure } from './score';

const tempo = createTimeline({ kind: 'metrical', ticksPerQuarter: 960 }, [], []).tempo;
const BPMS = [62, 76, 92, 108, 126, 150, 176];
/** Least F-measure of beats by how the tempo goes. */
const REACH = { steady: 0.97, drifting: 0.97, rubato: 0.95 };

const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;

/** Every texture, tempo, meter and speed once, with drums every other time. */
function corpus(): PerformanceOptions[] {
  const all: PerformanceOptions[] = [];
  let seed = 1;
  for (const texture of TEXTURES)
    for (const kind of TEMPOS)
      for (const meter of METERS)
        for (const bpm of BPMS)
          all.push({ texture, tempo: kind, meter, bpm, drums: seed % 2 === 0, seed: seed++, seconds: 45 });
  return all;
}

/** How well beats are found in made performances and in pieces by others, and how fast. */
export function benchTempo(): BenchRow[] {
  const rows = corpus().map((options) => {
    const { notes, beats, downbeats, bpm } = perform(options);
    const found = findBeats(notes, tempo);
    const bars = found.downbeats.map((beat) => found.beats[beat]);
    return {
      options,
      beat: fMeasure(found.beats, beats),
      level: fAtAnyLevel(found.beats, beats),
      downbeat: fMeasure(bars, downbeats),
      off: Math.abs(60 / steadyLine(found.beats).period / bpm - 1),
    };
  });
  const scoreRow = (work: string, values: readonly number[], reach: number): BenchRow => ({
    work: `${work}, ${values.length} performances`,
    ours: mean(values).toFixed(3),
    peer: 'F, window 70 ms',
    reach: `at least ${reach}`,
    met: mean(values) >= reach,
  });
  const steady = rows.filter(({ options, beat }) => options.tempo === 'steady' && beat > 0.9);
  const withBars = rows.filter(({ options }) => options.meter !== '2/4');
  const { pieces: others, missing } = bentPieces();
  const pieces = others.map(({ notes, beats }) => {
    const found = findBeats(notes, tempo);
    return { beat: fMeasure(found.beats, beats), level: fAtAnyLevel(found.beats, beats) };
  });
  const worst = steady.reduce((most, { off }) => Math.max(most, off), 0);
  return [
    ...TEMPOS.map((kind) =>
      scoreRow(
        `beats, ${kind}`,
        rows.filter(({ options }) => options.tempo === kind).map(({ beat }) => beat),
        REACH[kind],
      ),
    ),
    ...TEXTURES.map((texture) =>
      scoreRow(
        `beats, ${texture}`,
        rows.filter(({ options }) => options.texture === texture).map(({ beat }) => beat),
        0.92,
      ),
    ),
    scoreRow(
      'beats at an allowed level',
      rows.map(({ level }) => level),
      0.96,
    ),
    scoreRow(
      'downbeats, meters but 2/4 (2 against 4 cannot be told)',
      withBars.map(({ downbeat }) => downbeat),
      0.92,
    ),
    {
      work: `tempo of ${steady.length} steady performances, largest error`,
      ours: `${(100 * worst).toFixed(2)} %`,
      peer: '',
      reach: '0.5 %',
      met: worst <= 0.005,
    },
    scoreRow(
      `beats, pieces by others, bent${missing.length > 0 ? ` (${missing.length} of those named are not installed)` : ''}`,
      pieces.map(({ beat }) => beat),
      0.8,
    ),
    scoreRow(
      'the same at an allowed level',
      pieces.map(({ level }) => level),
      0.92,
    ),
    tenMinutes(),
    ...benchByHand(corpus().map(perform), 'performances'),
    ...benchByHand(others, 'pieces by others'),
    benchMending(corpus().map(perform), tempo, 'performances'),
    benchMending(others, tempo, 'pieces by others'),
  ];
}

function tenMinutes(): BenchRow {
  const { notes } = perform({
    texture: 'broken chords',
    tempo: 'rubato',
    meter: '4/4',
    bpm: 108,
    drums: true,
    seed: 5,
    seconds: 600,
  });
  const took = medianTime(5, () => findBeats(notes, tempo));
  return {
    work: `tempo of ten minutes, ${notes.length} notes`,
    ours: `${took.toFixed(0)} ms`,
    peer: '',
    reach: '1000 ms',
    met: took < 1000,
  };
}
