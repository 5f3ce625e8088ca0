import { blendedPlayback, choose, type Part } from '@ordle/core';
import { studio } from '../core/testing/takesStudio';
import type { PlainNote } from '../core/testing/files';
import { createRenderer, BLOCK } from './renderer';
import { RATE, bank, scoreOf } from './testing/sound';

/** Claves: an attack at once, and silence before the next stroke. */
const CLAVES = 75;
const BAR_SECONDS = 2;

/** Two takes of two bars at 120 bpm, each with strokes of its own. */
const strokes = (beats: readonly number[]): PlainNote[] =>
  beats.map((beat) => [beat * 480, beat * 480 + 60, CLAVES, 120]);
const FIRST = [0, 1, 2, 3, 4, 5.5];
const SECOND = [0.25, 1.75, 3.25, 4.25, 6.5];

/** Seconds at which it is loud after silence. */
function onsetsOf(samples: Float32Array): number[] {
  const onsets: number[] = [];
  let quietSince = -RATE;
  for (let index = 0; index < samples.length; index++) {
    if (Math.abs(samples[index]) < 1e-4) continue;
    if (index - quietSince > 0.03 * RATE) onsets.push(index / RATE);
    quietSince = index;
  }
  return onsets;
}

describe('choosing a take while a bar is looped', () => {
  const quay = studio([{ notes: strokes(FIRST) }, { notes: strokes(SECOND) }]);
  const score = (part: Part) => {
    const { material } = quay.laid(part);
    const playback = blendedPlayback(material, material, 1, quay.timeline.tempo, []);
    return scoreOf(playback, { drums: true, program: 0 });
  };
  const chosen = choose(quay.part, quay.layer, { from: 0, to: 1920 }, quay.takes[1], quay.numbers);

  it('is heard at once: after it the strokes of the chosen take and no others, pass after pass', async () => {
    const { player, render } = await createRenderer(RATE, bank());
    player.setScore(score(quay.part));
    player.setLoop({ from: 0, to: BAR_SECONDS });
    player.play(0);
    const seconds = 3 * BAR_SECONDS;
    const out = new Float32Array(Math.ceil((seconds * RATE) / BLOCK) * BLOCK);
    // The take is chosen in the second pass, after its second beat.
    const at = Math.round(((BAR_SECONDS + 1.1 * 0.5) * RATE) / BLOCK);
    for (let block = 0; block * BLOCK < out.length; block++) {
      if (block === at) player.setScore(score(chosen));
      render(out.subarray(block * BLOCK, (block + 1) * BLOCK), new Float32Array(BLOCK));
    }
    const inBar = (beats: readonly number[]) => beats.filter((beat) => beat < 4).map((beat) => beat / 2);
    const expected = [
      ...inBar(FIRST),
      ...inBar(FIRST)
        .filter((time) => time < 0.55)
        .map((time) => time + BAR_SECONDS),
      ...inBar(SECOND)
        .filter((time) => time > 0.55)
        .map((time) => time + BAR_SECONDS),
      ...inBar(SECOND).map((time) => time + 2 * BAR_SECONDS),
    ];
    const onsets = onsetsOf(out);
    expect(onsets).toHaveLength(expected.length);
    onsets.forEach((onset, index) => expect(Math.abs(onset - expected[index]) * 1000).toBeLessThan(2));
  });

  it('leaves the bars around it what they were', async () => {
    const { player, render } = await createRenderer(RATE, bank());
    player.setScore(score(chosen));
    player.play(0);
    const out = new Float32Array(Math.ceil((2 * BAR_SECONDS * RATE) / BLOCK) * BLOCK);
    for (let block = 0; block * BLOCK < out.length; block++)
      render(out.subarray(block * BLOCK, (block + 1) * BLOCK), new Float32Array(BLOCK));
    const expected = [...SECOND.filter((beat) => beat < 4), ...FIRST.filter((beat) => beat >= 4)];
    const onsets = onsetsOf(out);
    expect(onsets).toHaveLength(expected.length);
    onsets.forEach((onset, index) => expect(Math.abs(onset - expected[index] / 2) * 1000).toBeLessThan(2));
  });
});
