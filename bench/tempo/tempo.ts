import { createTimeline, findBeats, steadyLine } from '@ordle/core';
import { METERS, TEMPOS, TEXTURES, perform, type PerformanceOptions } from './performances';
import { fAtAnyLevel, fMeasure } from './score';

const tempo = createTimeline({ kind: 'metrical', ticksPerQuarter: 960 }, [], []).tempo;
const BPMS = [62, 76, 92, 108, 126, 150, 176];

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

export function scoreTempo() {
  const rows = corpus().map((options) => {
    const { notes, beats, downbeats, bpm } = perform(options);
    const found = findBeats(notes, tempo);
    const line = steadyLine(found.beats);
    return {
      options,
      beat: fMeasure(found.beats, beats),
      level: fAtAnyLevel(found.beats, beats),
      downbeat: fMeasure(
        found.downbeats.map((beat) => found.beats[beat]),
        downbeats,
      ),
      steady: Math.abs(60 / line.period / bpm - 1),
      found: found.bpm,
    };
  });
  return rows;
}

export { mean };
