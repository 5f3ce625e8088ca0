import { drumName, isBlackKey, pitchName, secondsToTicks, ticksToSeconds } from '@ordle/core';
import { forEachBar } from './paintGrid';
import { rollHeight, rollTop, rollWidth, rowHeightOf, tickAt, xOf, yOf } from './geometry';
import { tabAt, type MarkerTab } from '../markers';
import { paintTab } from '../paintTab';
import { tabsOverRoll, wordsOverRoll } from './markerTabs';
import { paintHeat } from './paintMarks';
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
    const right = xOf(loop.to, window, layout);
    context.fillStyle = colours.well;
    context.fillRect(x, top, right - x, layout.ruler - 6);
    context.fillStyle = colours.ink;
    context.fillRect(x, top, right - x, 3);
    for (const edge of [x, right - 2]) context.fillRect(edge, top, 2, layout.ruler - 6);
  }
  context.textBaseline = 'middle';
  const meter = scene.time === 'seconds' ? null : scene.timeline.meter;
  const tabs = tabsOverRoll(scene.markers, window, layout, meter);
  if (meter) paintBars(context, scene, tabs);
  else paintSeconds(context, scene);
  paintMarkers(context, scene, tabs);
  paintHeat(context, scene);
  context.restore();
  context.fillStyle = colours.ruleStrong;
  context.fillRect(0, top + layout.ruler - 1, layout.width, 1);
}

/** The names of sections, each on the line it begins at. */
function paintMarkers(context: CanvasRenderingContext2D, scene: Scene, tabs: readonly MarkerTab[]) {
  const { layout, colours, timeline, time } = scene;
  const meter = time === 'seconds' ? null : timeline.meter;
  const [top, bottom] = [layout.overview + 1, layout.overview + layout.ruler - 7];
  for (const tab of tabs)
    if (tab.right > layout.gutter && tab.left < layout.width)
      paintTab(context, tab, wordsOverRoll(tab.marker, meter), { top, bottom, colours });
}

/** Bar numbers, and beats where there is room and no tab would hide half of them. */
function paintBars(context: CanvasRenderingContext2D, scene: Scene, tabs: readonly MarkerTab[]) {
  const { layout, window, colours } = scene;
  const top = layout.overview;
  let lastLabel = -Infinity;
  const from = tickAt(layout.gutter, window, layout);
  forEachBar(scene, from, tickAt(layout.width, window, layout), (start, number, beatTicks, end) => {
    const x = xOf(start, window, layout);
    context.fillStyle = colours.ruleStrong;
    context.fillRect(Math.round(x), top + layout.ruler - 10, 1, 10);
    if (x - lastLabel > 14 + 8 * String(number).length) {
      context.font = `600 ${colours.letters}`;
      context.fillStyle = colours.ink;
      context.fillText(String(number), x + 4, top + 10);
      lastLabel = x;
    }
    const gap = beatTicks / window.ticksPerPixel;
    if (gap < 8) return;
    context.font = colours.letters;
    for (let beat = 1, tick = start + beatTicks; tick < end - 1e-6; beat++, tick += beatTicks) {
      const beatX = xOf(tick, window, layout);
      context.fillStyle = colours.rule;
      context.fillRect(Math.round(beatX), top + layout.ruler - 6, 1, 6);
      if (gap < 40 || tabAt(tabs, beatX + 3)) continue;
      context.fillStyle = colours.ink3;
      context.fillText(`${number}.${beat + 1}`, beatX + 3, top + 10);
    }
  });
}

/** Marks at round seconds, as close as they can be read. */
function paintSeconds(context: CanvasRenderingContext2D, { layout, window, colours, timeline }: Scene) {
  const from = Math.max(0, ticksToSeconds(timeline.tempo, Math.max(0, window.tick)));
  const to = ticksToSeconds(timeline.tempo, tickAt(layout.width, window, layout));
  context.font = colours.letters;
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
  context.font = colours.letters;
  for (let pitch = 127; pitch >= 0; pitch--) {
    const y = yOf(pitch, window, layout);
    const height = rowHeightOf(pitch, window, layout);
    if (height < 0.5 || y > layout.height || y + height < top) continue;
    const middle = y + height / 2;
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
  { window, colours, middleC, layout, silent }: Scene,
  pitch: number,
  middle: number,
  used: boolean,
) {
  if (rowHeightOf(pitch, window, layout) < 9) return;
  context.fillStyle = used ? colours.ink : colours.ink3;
  context.textAlign = 'right';
  context.fillText(
    `${silent.includes(pitch) ? '(muted) ' : ''}${drumName(pitch) ?? pitchName(pitch, middleC)}`,
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
