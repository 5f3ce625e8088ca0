import { createTimeline, findBeats } from '@ordle/core';
import { bentPieces } from './tempo/others';
import { METERS, TEMPOS, perform } from './tempo/performances';
import { fAtAnyLevel, fMeasure } from './tempo/score';
const tempo = createTimeline({ kind: 'metrical', ticksPerQuarter: 960 }, [], []).tempo;
const BPMS = [62, 76, 92, 108, 126, 150, 176];
let seed = 1;
const by: Record<string, number[]> = {};
for (const kind of TEMPOS)
  for (const meter of METERS)
    for (const bpm of BPMS)
      for (const drums of [false, true]) {
        const { notes, beats } = perform({
          texture: 'chorale' as any,
          tempo: kind,
          meter,
          bpm,
          drums,
          seed: seed++,
          seconds: 45,
        });
        const f = findBeats(notes, tempo);
        const s = fMeasure(f.beats, beats);
        (by[`${bpm} ${drums}`] ??= []).push(s);
        (by[`meter ${JSON.stringify(meter)}`] ??= []).push(s);
        if (s < 0.8 && kind === 'steady')
          console.log(
            bpm,
            JSON.stringify(meter),
            drums,
            s.toFixed(2),
            f.bpm.toFixed(1),
            f.division,
            fAtAnyLevel(f.beats, beats).toFixed(2),
          );
      }
for (const [k, v] of Object.entries(by)) console.log(k, (v.reduce((a, b) => a + b, 0) / v.length).toFixed(3));
for (const p of bentPieces()) {
  const f = findBeats(p.notes, tempo);
  const s = fMeasure(f.beats, p.beats);
  const med = (b: Float64Array) => {
    const g = [...b.subarray(1)].map((x, i) => x - b[i]).sort((x, y) => x - y);
    return 60 / g[g.length >> 1];
  };
  if (s < 0.8)
    console.log(
      p.name.split('/').pop(),
      'F',
      s.toFixed(2),
      'level',
      fAtAnyLevel(f.beats, p.beats).toFixed(2),
      'true',
      med(p.beats).toFixed(0),
      'found',
      f.bpm.toFixed(0),
      f.division,
    );
}
