import { barAt, createGrid, isBlackKey, linesBetween } from '@ordle/core';
import { pitchAt, rollHeight, rollTop, rollWidth, rowHeightOf, tickAt, xOf, yOf } from './geometry';
import type { Scene } from './scene';

/** Pixels grid lines must lie apart to be drawn. */
const LEAST_GAP = 7;

/** Ground, keyboard rows, the grid in force, beats and bars. */
export function paintGrid(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, colours } = scene;
  const top = rollTop(layout);
  const right = layout.width;
  context.fillStyle = colours.sheet;
  context.fillRect(layout.gutter, top, rollWidth(layout), rollHeight(layout));
  paintRows(context, scene);

  const from = Math.max(0, tickAt(layout.gutter, window, layout));
  const to = tickAt(right, window, layout);
  const line = (tick: number, colour: string) => {
    const x = Math.round(xOf(tick, window, layout));
    if (x < layout.gutter) return;
    context.fillStyle = colour;
    context.fillRect(x, top, 1, rollHeight(layout));
  };
  const { meter } = scene.timeline;
  const step = Math.min(...createGrid(meter, scene.grid.values).steps);
  if (step / window.ticksPerPixel >= LEAST_GAP) {
    context.globalAlpha = 0.55;
    for (const tick of linesBetween(createGrid(meter, scene.grid.values, scene.grid.swing), from, to))
      line(tick, colours.rule);
    context.globalAlpha = 1;
  }
  forEachBar(scene, from, to, (start, _number, beatTicks, end) => {
    if (beatTicks / window.ticksPerPixel >= LEAST_GAP) {
      for (let tick = start + beatTicks; tick < end - 1e-6; tick += beatTicks) line(tick, colours.rule);
    }
    line(start, colours.ruleStrong);
  });
}

function paintRows(context: CanvasRenderingContext2D, { layout, window, colours, drums }: Scene) {
  const bottomPitch = pitchAt(rollTop(layout) + rollHeight(layout), window, layout);
  for (let pitch = Math.min(127, Math.ceil(window.topPitch)); pitch >= Math.max(0, bottomPitch); pitch--) {
    const y = yOf(pitch, window, layout);
    const height = rowHeightOf(pitch, window, layout);
    if (height < 0.5) {
      // What is hidden leaves a line.
      if (y > rollTop(layout) && rowHeightOf(pitch + 1, window, layout) >= 0.5) {
        context.fillStyle = colours.ruleStrong;
        context.fillRect(layout.gutter, Math.round(y) - 1, rollWidth(layout), 1);
      }
      continue;
    }
    if (!drums && isBlackKey(pitch)) {
      context.globalAlpha = 0.42;
      context.fillStyle = colours.well;
      context.fillRect(layout.gutter, Math.max(y, rollTop(layout)), rollWidth(layout), window.rowHeight);
      context.globalAlpha = 1;
    }
    const ruled = drums ? height >= 8 : pitch % 12 === 0;
    if (ruled && y + height > rollTop(layout)) {
      context.fillStyle = colours.rule;
      context.fillRect(layout.gutter, Math.round(y + height) - 1, rollWidth(layout), 1);
    }
  }
}

/** Pixels between two bar lines at least. */
const NEAREST_BARS = 12;

/**
 * Calls back for every bar in sight: start, number, ticks of a beat, end. Bars too narrow to be told apart are
 * skipped over.
 */
export function forEachBar(
  scene: Scene,
  from: number,
  to: number,
  each: (start: number, number: number, beatTicks: number, end: number) => void,
) {
  const { meter } = scene.timeline;
  const { ticksPerPixel } = scene.window;
  let tick = Math.max(0, from);
  let last = -Infinity;
  for (let guard = 0; tick < to && guard < 20000; guard++) {
    const bar = barAt(meter, tick);
    const barTicks = bar.end - bar.start;
    // At far zoom only every 2nd, 4th, 8th ... bar, so that the lines never weigh more than the notes.
    const stride =
      2 ** Math.max(0, Math.ceil(Math.log2(NEAREST_BARS / Math.max(barTicks / ticksPerPixel, 1e-9))));
    if ((bar.number - 1) % stride === 0 && bar.start > last) {
      each(bar.start, bar.number, meter.beatTicks[bar.row], bar.end);
      last = bar.start;
    }
    tick = Math.max(
      bar.end,
      bar.start + (stride - ((bar.number - 1) % stride)) * barTicks - barTicks * 0.001,
    );
    tick = stride === 1 ? bar.end : tick;
  }
}
