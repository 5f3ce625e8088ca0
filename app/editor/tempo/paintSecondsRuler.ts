import { RULER, tickOfX, xOfTick } from '../bars/barsGeometry';
import type { TempoScene } from './tempoScene';

/** Pixels between two words at least. */
const NEAREST = 64;
/** Round distances between marks, in ms. */
const STEPS = [100, 200, 500, 1000, 2000, 5000, 10_000, 30_000, 60_000, 300_000];

/** A ruler of minutes and seconds, with the numbers of the bars that beats begin. */
export function paintSecondsRuler(context: CanvasRenderingContext2D, scene: TempoScene) {
  const { layout, window, colours, beats, downbeats } = scene;
  context.fillStyle = colours.sheet;
  context.fillRect(0, 0, layout.width, RULER);
  const step = STEPS.find((each) => each / window.ticksPerPixel >= NEAREST) ?? 600_000;
  context.font = colours.letters;
  context.textBaseline = 'middle';
  context.textAlign = 'left';
  const from = Math.max(0, Math.floor(tickOfX(0, window) / step)) * step;
  for (let at = from; xOfTick(at, window) < layout.width; at += step) {
    const x = Math.round(xOfTick(at, window));
    context.fillStyle = colours.ruleStrong;
    context.fillRect(x, RULER - 6, 1, 6);
    context.fillStyle = colours.ink2;
    const seconds = at / 1000;
    const rest = seconds % 60;
    const words = `${Math.floor(seconds / 60)}:${step < 1000 ? rest.toFixed(1).padStart(4, '0') : String(Math.round(rest)).padStart(2, '0')}`;
    context.fillText(words, x + 4, 9);
  }
  // The bars stand at their posts, under the ruler.
  context.font = `600 ${colours.letters}`;
  context.fillStyle = colours.ink;
  [...downbeats]
    .sort((a, b) => a - b)
    .forEach((beat, bar) => {
      const x = xOfTick(beats[beat], window);
      if (x > -20 && x < layout.width) context.fillText(String(bar + scene.firstBar), x + 7, RULER + 7);
    });
  context.fillStyle = colours.ruleStrong;
  context.fillRect(0, RULER - 1, layout.width, 1);
}
