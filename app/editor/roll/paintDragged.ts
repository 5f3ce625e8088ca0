import { positionAt } from '@ordle/core';
import { rollTop, xOf } from './geometry';
import type { Scene } from './scene';

/** Where what is dragged would come to lie, in ticks; null while nothing is dragged in time. */
function draggedTo({ preview, view, selected }: Scene): number | null {
  if (!preview || !view) return null;
  if (preview.kind === 'draw') return preview.start;
  if (preview.kind !== 'move' && preview.kind !== 'trim') return null;
  const first = selected.indexOf(1);
  if (first < 0) return null;
  const from =
    preview.kind === 'trim' && preview.edge === 'end' ? view.notes.end[first] : view.notes.start[first];
  return from + preview.ticks;
}

/** A mark in the ruler at the place of what is dragged, with its position as bar, beat and ticks. */
export function paintDragged(context: CanvasRenderingContext2D, scene: Scene) {
  const tick = draggedTo(scene);
  if (tick === null) return;
  const { layout, window, colours, timeline } = scene;
  const x = Math.round(xOf(tick, window, layout));
  if (x < layout.gutter || x > layout.width) return;
  const { bar, beat, tick: rest } = positionAt(timeline.meter, Math.max(0, Math.round(tick)));
  const words = `${bar}.${beat}.${String(rest).padStart(3, '0')}`;
  context.font = `600 ${colours.letters}`;
  context.textBaseline = 'middle';
  const width = context.measureText(words).width + 8;
  const left = Math.min(x, layout.width - width);
  const top = layout.overview;
  context.fillStyle = colours.ink;
  context.fillRect(left, top + 1, width, 17);
  context.fillRect(x, top + 1, 1, layout.ruler - 2);
  context.fillStyle = colours.sheet;
  context.fillText(words, left + 4, top + 10);
}

const signed = (value: number) => `${value < 0 ? '−' : '+'}${Math.abs(value)}`;

/** What a drag changes, in words: by how much in time and pitch, or how long the note would be. */
function changeInWords({ preview, view, selected, ticksPerMs }: Scene): string {
  if (preview?.kind === 'trim' && view) {
    const row = selected.indexOf(1);
    const length = row < 0 ? 0 : view.notes.end[row] - view.notes.start[row];
    return `length ${Math.max(1, Math.round(length + (preview.edge === 'end' ? preview.ticks : -preview.ticks)))}`;
  }
  if (preview?.kind !== 'move') return '';
  const { ticks, semitones } = preview;
  return [
    ...(ticks === 0
      ? []
      : [`${signed(Math.round(ticks))} ticks, ${signed(Math.round(ticks / ticksPerMs))} ms`]),
    ...(semitones === 0
      ? []
      : [`${signed(semitones)} ${Math.abs(semitones) === 1 ? 'semitone' : 'semitones'}`]),
  ].join('; ');
}

/** Beside the pointer: what the drag changes. */
export function paintChange(context: CanvasRenderingContext2D, scene: Scene) {
  const { preview, layout, colours } = scene;
  const at = preview && 'at' in preview ? preview.at : undefined;
  const words = at ? changeInWords(scene) : '';
  if (!at || words === '') return;
  context.font = `600 ${colours.letters}`;
  context.textBaseline = 'middle';
  const width = context.measureText(words).width + 10;
  const left = Math.min(at.x + 14, layout.width - width - 2);
  const top = Math.max(rollTop(layout) + 2, at.y - 26);
  context.fillStyle = colours.ink;
  context.fillRect(left, top, width, 18);
  context.fillStyle = colours.sheet;
  context.fillText(words, left + 5, top + 9);
}
