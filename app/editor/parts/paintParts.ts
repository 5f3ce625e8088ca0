import { paintStrips, type NoteStrip } from '../bars/paintStrips';
import { barAtX, xOfTick } from '../bars/barsGeometry';
import { GAP, RULER, draggedBlock, heightOfRows, overlapsOf, topOfPart } from './partsGeometry';
import type { SeenNotes } from '../bars/barsScene';
import { keyOfBlock, type PartsScene, type SeenBlock } from './partsScene';

/** Blocks narrower than this bear no words. */
const WORDS = 46;
const NEAREST_LINES = 14;

/** Parts as rows: blocks as sheets along the bars with their notes small, in their inks; what is set aside is pale. */
export function paintPartRows(context: CanvasRenderingContext2D, scene: PartsScene) {
  const { layout, window, colours, parts, lines } = scene;
  context.fillStyle = colours.ground;
  context.fillRect(0, RULER, layout.width, layout.height - RULER);
  context.save();
  context.beginPath();
  context.rect(0, RULER, layout.width, layout.height - RULER);
  context.clip();
  let free = -Infinity;
  context.fillStyle = colours.rule;
  for (let bar = barAtX(0, window, lines); bar < lines.length; bar++) {
    const x = Math.round(xOfTick(lines[bar], window));
    if (x > layout.width) break;
    if (x < free) continue;
    context.fillRect(x, RULER, 1, layout.height - RULER);
    free = x + NEAREST_LINES;
  }
  const height = heightOfRows(layout) - GAP;
  const visible = parts
    .map((part, row) => ({ part, top: topOfPart(row, window, layout) }))
    .filter(({ top }) => top < layout.height && top + height > RULER);
  for (const { part, top } of visible) {
    const ink = colours.parts[part.ink];
    for (const block of part.blocks) paintSheet(context, scene, { block, top, height, ink, part: part.id });
    for (const stretch of overlapsOf(part.blocks.filter(({ isMuted }) => !isMuted)))
      paintOverlap(context, scene, stretch, { top, height });
  }
  const strips = visible.map(({ part, top }): NoteStrip => {
    return {
      notes: part.notes,
      top: top + 14,
      height: Math.max(4, height - 18),
      colour: colours.parts[part.ink],
      pitches: pitchesOf(part.notes),
      isFull: fullIn(part),
      paper: colours.sheet,
    };
  });
  paintStrips(context, strips, { top: RULER, width: layout.width, height: layout.height - RULER }, scene);
  context.restore();
}

/** What is heard is full; what is muted or set aside is in outline. */
function fullIn({ blocks, isSetAside, isHeard }: PartsScene['parts'][number]): (tick: number) => boolean {
  if (isSetAside || !isHeard) return () => false;
  const muted = blocks.filter(({ isMuted }) => isMuted);
  return (tick) => !muted.some(({ start, end }) => tick >= start && tick < end);
}

interface Sheet {
  block: SeenBlock;
  top: number;
  height: number;
  ink: string;
  part: string;
}

function paintSheet(
  context: CanvasRenderingContext2D,
  scene: PartsScene,
  { block, top, height, ink, part }: Sheet,
) {
  const { window, layout, colours, selected } = scene;
  const [left, right] = [Math.round(xOfTick(block.start, window)), Math.round(xOfTick(block.end, window))];
  if (right < 0 || left > layout.width) return;
  const width = Math.max(2, right - left);
  context.fillStyle = colours.sheet;
  context.fillRect(left, top, width, height);
  if (block.isMuted) paintHatch(context, { left, top, width, height }, colours.rule);
  const isSelected = selected.has(keyOfBlock({ part, block: block.id }));
  context.strokeStyle = isSelected ? colours.ink : ink;
  context.lineWidth = isSelected ? 3 : 1.5;
  // A copy is told by its broken frame, and says so.
  context.setLineDash(block.isLinked ? [4, 3] : []);
  const inset = isSelected ? 1.5 : 0.75;
  context.strokeRect(left + inset, top + inset, width - 2 * inset, height - 2 * inset);
  context.setLineDash([2, 2]);
  context.lineWidth = 1;
  const once = block.once - block.start;
  for (let at = block.once; at < block.end - 0.5 && once / window.ticksPerPixel > 3; at += once) {
    const x = Math.round(xOfTick(at, window)) + 0.5;
    context.beginPath();
    context.moveTo(x, top + 2);
    context.lineTo(x, top + height - 2);
    context.stroke();
  }
  context.setLineDash([]);
  if (block.words === '' || width < WORDS) return;
  context.save();
  context.beginPath();
  context.rect(left, top, width, height);
  context.clip();
  context.font = colours.letters;
  context.textBaseline = 'middle';
  context.textAlign = 'left';
  context.fillStyle = colours.ink2;
  context.fillText(block.words, Math.max(left, 0) + 5, top + 9);
  context.restore();
}

/** Where blocks lie over each other both sound, and the one below would not be seen. */
function paintOverlap(
  context: CanvasRenderingContext2D,
  { window, layout, colours }: PartsScene,
  [start, end]: [number, number],
  { top, height }: { top: number; height: number },
) {
  const [left, right] = [Math.round(xOfTick(start, window)), Math.round(xOfTick(end, window))];
  if (right < 0 || left > layout.width) return;
  const width = Math.max(3, right - left);
  paintHatch(context, { left, top, width, height }, colours.ink3);
  context.fillStyle = colours.ink;
  context.fillRect(left, top, width, 3);
  if (width < WORDS) return;
  context.font = colours.letters;
  context.textBaseline = 'middle';
  context.textAlign = 'right';
  context.fillText('both', Math.min(right, layout.width) - 4, top + 10);
}

/** Slanted lines over what is not heard. */
function paintHatch(
  context: CanvasRenderingContext2D,
  { left, top, width, height }: { left: number; top: number; width: number; height: number },
  colour: string,
) {
  context.save();
  context.beginPath();
  context.rect(left, top, width, height);
  context.clip();
  context.strokeStyle = colour;
  context.lineWidth = 1;
  context.beginPath();
  for (let x = left - height; x < left + width; x += 7) {
    context.moveTo(x, top + height);
    context.lineTo(x + height, top);
  }
  context.stroke();
  context.restore();
}

const ranges = new WeakMap<SeenNotes, [number, number]>();

function pitchesOf(notes: SeenNotes): [number, number] {
  const known = ranges.get(notes);
  if (known) return known;
  let [low, high] = [127, 0];
  for (const pitch of notes.pitch) {
    if (pitch < low) low = pitch;
    if (pitch > high) high = pitch;
  }
  const range: [number, number] = low > high ? [48, 72] : [low - 1, high + 1];
  ranges.set(notes, range);
  return range;
}

/** What a gesture would do: where blocks would lie, and the box that selects. */
export function paintPartsAbove(context: CanvasRenderingContext2D, scene: PartsScene) {
  const { layout, window, colours, parts, drag, marquee, selected } = scene;
  context.save();
  context.beginPath();
  context.rect(0, RULER, layout.width, layout.height - RULER);
  context.clip();
  context.strokeStyle = colours.ink;
  if (drag) {
    context.lineWidth = 2;
    context.setLineDash([4, 2]);
    const height = heightOfRows(layout) - GAP;
    parts.forEach((part, row) => {
      for (const block of part.blocks) {
        const key = keyOfBlock({ part: part.id, block: block.id });
        if (!selected.has(key) && key !== keyOfBlock(drag.place)) continue;
        const { start, end } = draggedBlock(block, drag);
        const left = xOfTick(start, window);
        context.strokeRect(
          left,
          topOfPart(row, window, layout),
          Math.max(2, xOfTick(end, window) - left),
          height,
        );
      }
    });
    context.setLineDash([]);
  }
  if (marquee) {
    const [width, height] = [marquee.right - marquee.left, marquee.bottom - marquee.top];
    context.fillStyle = colours.ink;
    context.globalAlpha = 0.08;
    context.fillRect(marquee.left, marquee.top, width, height);
    context.globalAlpha = 1;
    context.lineWidth = 1;
    context.strokeRect(marquee.left + 0.5, marquee.top + 0.5, width, height);
  }
  context.restore();
}
