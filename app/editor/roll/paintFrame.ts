import { drumName, isBlackKey, pitchName, secondsToTicks, ticksToSeconds } from '@ordle/core';
import { forEachBar } from './paintGrid';
import { rollHeight, rollTop, rollWidth, tickAt, xOf, yOf } from './geometry';
import { paintPitchSpan } from './paintSpans';
import { secondLabels } from './secondLabels';
import type { Scene } from './scene';

/** Bars and beats over the roll, and the loop. */
export function paintRuler(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, colours, loop } = scene;
  const top = layout.overview;
  context.fillStyle = colours.sheet;
  context.fillRect(0, top, layout.width, layout.ruler);
  context.save();
  context.beginPath();
  context.rect(layout.gutter, top, rollWidth(layout), layout.ruler);
  context.clip();
  if (loop.on && loop.to > loop.from) {
    const x = xOf(loop.from, window, layout);
    context.fillStyle = colours.accentSoft;
    context.fillRect(x, top, xOf(loop.to, window, layout) - x, layout.ruler - 8);
  }
  context.textBaseline = 'middle';
  if (scene.time === 'seconds') {
    paintSeconds(context, scene);
    context.restore();
    context.fillStyle = colours.ruleStrong;
    context.fillRect(0, top + layout.ruler - 1, layout.width, 1);
    return;
  }
  let lastLabel = -Infinity;
  const from = tickAt(layout.gutter, window, layout);
  forEachBar(scene, from, tickAt(layout.width, window, layout), (start, number, beatTicks, end) => {
    const x = xOf(start, window, layout);
    context.fillStyle = colours.ruleStrong;
    context.fillRect(Math.round(x), top + layout.ruler - 10, 1, 10);
    if (x - lastLabel > 14 + 8 * String(number).length) {
      context.font = `600 12px ${colours.font}`;
      context.fillStyle = colours.ink;
      context.fillText(String(number), x + 4, top + 10);
      lastLabel = x;
    }
    const gap = beatTicks / window.ticksPerPixel;
    if (gap < 8) return;
    context.font = `11.5px ${colours.font}`;
    for (let beat = 1, tick = start + beatTicks; tick < end - 1e-6; beat++, tick += beatTicks) {
      const beatX = xOf(tick, window, layout);
      context.fillStyle = colours.rule;
      context.fillRect(Math.round(beatX), top + layout.ruler - 6, 1, 6);
      if (gap < 40) continue;
      context.fillStyle = colours.ink3;
      context.fillText(`${number}.${beat + 1}`, beatX + 3, top + 10);
    }
  });
  context.restore();
  context.fillStyle = colours.ruleStrong;
  context.fillRect(0, top + layout.ruler - 1, layout.width, 1);
}

/** Marks at round seconds, as close as they can be read. */
function paintSeconds(context: CanvasRenderingContext2D, { layout, window, colours, timeline }: Scene) {
  const from = Math.max(0, ticksToSeconds(timeline.tempo, Math.max(0, window.tick)));
  const to = ticksToSeconds(timeline.tempo, tickAt(layout.width, window, layout));
  context.font = `11.5px ${colours.font}`;
  let free = -Infinity;
  for (const { second, words } of secondLabels(from, to, rollWidth(layout) / 64)) {
    const x = xOf(secondsToTicks(timeline.tempo, second), window, layout);
    context.fillStyle = colours.ruleStrong;
    context.fillRect(Math.round(x), layout.overview + layout.ruler - 8, 1, 8);
    // Where the tempo changes, marks may crowd: a word that would lie over the one before is left out.
    if (x < free) continue;
    context.fillStyle = colours.ink;
    context.fillText(words, x + 4, layout.overview + 10);
    free = x + 8 + context.measureText(words).width;
  }
}

/** Pitch names beside the rows: keys of a piano, or the pieces of a drum kit. */
export function paintGutter(context: CanvasRenderingContext2D, scene: Scene) {
  const { layout, window, colours, drums, view } = scene;
  const top = rollTop(layout);
  context.fillStyle = colours.sheet;
  context.fillRect(0, top, layout.gutter, rollHeight(layout));
  context.save();
  context.beginPath();
  context.rect(0, top, layout.gutter, rollHeight(layout));
  context.clip();
  context.textBaseline = 'middle';
  context.font = `${Math.min(12, Math.max(9, window.rowHeight - 1))}px ${colours.font}`;
  for (let pitch = 127; pitch >= 0; pitch--) {
    const y = yOf(pitch, window, layout);
    if (y > layout.height || y + window.rowHeight < top) continue;
    const middle = y + window.rowHeight / 2;
    if (drums) paintPiece(context, scene, pitch, middle, view?.notes.usedPitches[pitch] === 1);
    else paintKey(context, scene, pitch, y, middle);
  }
  paintPitchSpan(context, scene);
  context.restore();
  context.fillStyle = colours.ruleStrong;
  context.fillRect(layout.gutter - 1, top, 1, rollHeight(layout));
}

function paintPiece(
  context: CanvasRenderingContext2D,
  { window, colours, middleC, layout }: Scene,
  pitch: number,
  middle: number,
  used: boolean,
) {
  if (window.rowHeight < 9) return;
  context.fillStyle = used ? colours.ink : colours.ink3;
  context.textAlign = 'right';
  context.fillText(
    drumName(pitch) ?? pitchName(pitch, middleC),
    layout.gutter - 6,
    middle,
    layout.gutter - 10,
  );
  context.textAlign = 'left';
}

function paintKey(
  context: CanvasRenderingContext2D,
  { window, colours, middleC, layout }: Scene,
  pitch: number,
  y: number,
  middle: number,
) {
  if (isBlackKey(pitch)) {
    context.fillStyle = colours.ruleStrong;
    context.fillRect(0, y + 0.5, layout.gutter * 0.42, Math.max(1, window.rowHeight - 1));
    return;
  }
  const isC = pitch % 12 === 0;
  if (isC || pitch % 12 === 5) {
    context.fillStyle = colours.rule;
    context.fillRect(0, Math.round(y + window.rowHeight) - 1, layout.gutter, 1);
  }
  if (!isC && window.rowHeight < 12) return;
  context.fillStyle = isC ? colours.ink : colours.ink3;
  context.textAlign = 'right';
  context.fillText(pitchName(pitch, middleC), layout.gutter - 6, middle);
  context.textAlign = 'left';
}

/** How far late (up) and early (down) the part is along its whole length, with the window's frame on it. */
export function paintOverview(context: CanvasRenderingContext2D, scene: Scene, endTick: number) {
  const { layout, window, colours, view } = scene;
  context.fillStyle = colours.well;
  context.fillRect(0, 0, layout.width, layout.overview);
  const width = rollWidth(layout);
  const middle = Math.round(layout.overview / 2);
  context.fillStyle = colours.rule;
  context.fillRect(layout.gutter, middle, width, 1);
  if (view && view.notes.length > 0) {
    const { up, down, reach } = overviewBins(scene, endTick, Math.floor(width / 2));
    const scale = (middle - 2) / reach;
    for (let bin = 0; bin < up.length; bin++) {
      const x = layout.gutter + bin * 2;
      const above = Math.min(middle - 2, up[bin] * scale);
      const below = Math.min(middle - 2, down[bin] * scale);
      context.fillStyle = colours.late;
      if (above > 0.3) context.fillRect(x, middle - above, 1.5, above);
      context.fillStyle = colours.early;
      if (below > 0.3) context.fillRect(x, middle + 1, 1.5, below);
    }
  }
  context.font = `10.5px ${colours.font}`;
  context.textBaseline = 'middle';
  context.fillStyle = colours.ink2;
  context.fillText('late', 6, 8);
  context.fillText('early', 6, layout.overview - 8);
  const left = layout.gutter + (Math.max(0, window.tick) / endTick) * width;
  const right =
    layout.gutter + (Math.min(endTick, window.tick + width * window.ticksPerPixel) / endTick) * width;
  context.strokeStyle = colours.ink;
  context.lineWidth = 1;
  context.strokeRect(
    Math.round(left) + 0.5,
    1.5,
    Math.max(6, Math.round(right - left) - 1),
    layout.overview - 3,
  );
}

interface Bins {
  up: Float32Array;
  down: Float32Array;
  reach: number;
}

let cached: { late: Float32Array; endTick: number; count: number; bins: Bins } | null = null;

/** Largest lateness and earliness in each bin of the part, kept until the part or the width changes. */
function overviewBins({ view }: Scene, endTick: number, count: number): Bins {
  const late = view?.late ?? new Float32Array(0);
  if (cached && cached.late === late && cached.endTick === endTick && cached.count === count)
    return cached.bins;
  const up = new Float32Array(count);
  const down = new Float32Array(count);
  for (let row = 0; view && row < late.length; row++) {
    const bin = Math.min(count - 1, Math.max(0, Math.floor((view.notes.start[row] / endTick) * count)));
    if (late[row] > up[bin]) up[bin] = late[row];
    else if (-late[row] > down[bin]) down[bin] = -late[row];
  }
  const bins = { up, down, reach: 60 };
  cached = { late, endTick, count, bins };
  return bins;
}
