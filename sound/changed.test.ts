import { bothWays, frequencyOf, loudnessOf, playback, scoreOf } from './testing/sound';
import type { Score } from './player';

const LONG: [number, number, number, number][] = [[0, 0.9, 69, 100], [1.1, 3, 69, 100]]; // prettier-ignore
type Events = [number, number, number, number][];

/** Organ, which sounds as long as a key is held. */
const ORGAN = 16;
const organ = (notes: [number, number, number, number?][], events: Events = [], more = {}) =>
  scoreOf(playback(notes, events), { program: ORGAN, ...more });

describe('a change while the music plays is heard as if one had started there', () => {
  it.each<[string, Score, Score]>([
    ['a step that made it soft is switched off', organ(LONG, [[0, 0xb0, 11, 20]]), organ(LONG, [[0, 0xb0, 11, 127]])],
    ['held to hear it as played', organ(LONG, [[0, 0xb0, 7, 30]]), organ(LONG)],
    ['a curve is drawn anew', organ(LONG, [[0, 0xb0, 11, 127]]), organ(LONG, [[0, 0xb0, 11, 127], [0.5, 0xb0, 11, 40]])],
    ['muted and heard again', organ(LONG, [[0.2, 0xb0, 11, 50]], { audible: false }), organ(LONG, [[0.2, 0xb0, 11, 50]])],
    ['the sound is another', organ(LONG, [], { program: 40 }), organ(LONG)],
  ])('%s: the level', async (_, first, next) => {
    const { changed, started } = await bothWays(first, next, 1.6, 2.4);
    expect(loudnessOf(started)).toBeGreaterThan(0.001);
    expect(loudnessOf(changed) / loudnessOf(started)).toBeGreaterThan(0.9);
    expect(loudnessOf(changed) / loudnessOf(started)).toBeLessThan(1.1);
  }); // prettier-ignore

  it('a bend is taken away: the pitch', async () => {
    const bent = organ(LONG, [[0, 0xe0, 127, 127]]);
    const { changed, started } = await bothWays(bent, organ(LONG), 1.6, 2.4);
    expect(Math.abs(frequencyOf(started, 440) - 440)).toBeLessThan(2);
    expect(Math.abs(frequencyOf(changed, 440) - frequencyOf(started, 440))).toBeLessThan(1);
  });

  it('a press of the pedal is deleted, or its part muted: what only it held is gone', async () => {
    const short: [number, number, number, number][] = [[0, 0.4, 69, 100]];
    const pressed = organ(short, [[0.1, 0xb0, 64, 127]]);
    for (const next of [organ(short), organ(short, [[0.1, 0xb0, 64, 127]], { audible: false })]) {
      const { changed, started } = await bothWays(pressed, next, 2, 2.6);
      expect(loudnessOf(changed)).toBeLessThan(1e-4);
      expect(loudnessOf(started)).toBeLessThan(1e-4);
    }
    // Left as it is, it sounds on.
    const { changed } = await bothWays(pressed, pressed, 2, 2.6);
    expect(loudnessOf(changed)).toBeGreaterThan(0.001);
  });

  it('a press is put in: what is let go from there on rings', async () => {
    const notes: [number, number, number, number][] = [[0.2, 1.5, 69, 100]];
    const { changed } = await bothWays(organ(notes), organ(notes, [[0.5, 0xb0, 64, 127]]), 2, 2.6);
    expect(loudnessOf(changed)).toBeGreaterThan(0.001);
  });
});
