import { TROUBLE_MS } from '@ordle/core';
import { paintStrips, type NoteStrip } from '../bars/paintStrips';
import {
  GAP,
  ROWS_TOP,
  barAtX,
  heightOfCells,
  hasRings,
  lineOfChoice,
  meanBarPixels,
  pitchOfRows,
  topOfRow,
  xOfTick,
} from './takesGeometry';
import type { TakesScene } from './takesScene';

/** A spread that fills the bar of a cell, in ms; from `TROUBLE_MS` on it is in the colour of what is late. */
const FULL_MS = 30;
/** Cells narrower than this bear no figures, and none of their own frames below the second. */
const FIGURES = 42;
const FRAMES = 7;
const PAD = 5;

/** The bars in sight: from the first up to, not including, the last. */
export function barsInSight({ window, layout, lines }: TakesScene): [number, number] {
  return [barAtX(0, window, lines), barAtX(layout.width, window, lines) + 1];
}

/** Whether any layer has a take in a bar. */
export function isChosen({ chosen }: Pick<TakesScene, 'chosen'>, row: number, bar: number): boolean {
  return chosen.some((layer) => layer[bar] === row);
}

/** The cells of all takes with their notes, figures and marks, and the line that runs through the chosen ones. */
export function paintRows(context: CanvasRenderingContext2D, scene: TakesScene) {
  const { layout, window, colours, takes, lines } = scene;
  const bottom = layout.height;
  context.fillStyle = colours.sheet;
  context.fillRect(0, ROWS_TOP, layout.width, bottom - ROWS_TOP);
  context.save();
  context.beginPath();
  context.rect(0, ROWS_TOP, layout.width, bottom - ROWS_TOP);
  context.clip();
  const [first, last] = barsInSight(scene);
  const height = heightOfCells(layout);
  const ink = colours.parts[scene.ink];
  // Of bars narrower than a pixel one a pixel is enough.
  const stride = Math.max(1, Math.floor((last - first) / Math.max(1, layout.width)));
  takes.forEach((take, row) => {
    const top = topOfRow(row, window, layout);
    if (top > bottom || top + height < ROWS_TOP) return;
    for (let bar = first; bar < last; bar += stride) {
      const left = Math.round(xOfTick(lines[bar], window)) + 1;
      const width = Math.max(1, Math.round(xOfTick(lines[bar + 1], window)) - 1 - left);
      if (isChosen(scene, row, bar)) {
        context.fillStyle = colours.well;
        context.fillRect(left, top, width, height);
        // Told by its frame as well, whatever the eyes: full and of the part's ink, where others have a thin one.
        if (width >= FRAMES) {
          context.fillStyle = ink;
          frame(context, left, top, width, height, 2);
        }
      } else if (width >= FRAMES) {
        context.fillStyle = colours.rule;
        frame(context, left, top, width, height, 1);
      }
      paintFigures(context, scene, row, bar, { left, top, width, height });
    }
    if (take.fault !== null) {
      context.fillStyle = colours.ink;
      context.font = colours.letters;
      context.fillText('cannot be shown', 10, top + height / 2);
    }
  });
  const strips = takes.map((take, row): NoteStrip => {
    const top = topOfRow(row, window, layout);
    return {
      notes: take.notes,
      top: top + 18,
      height: height - 18 - 14,
      colour: ink,
      pitches: scene.pitches,
      isFull: chosenInRow(scene, row),
      paper: colours.sheet,
    };
  });
  const visible = strips.filter(({ top, height: own }) => top < bottom && top + own > ROWS_TOP);
  const box = { top: ROWS_TOP, width: layout.width, height: bottom - ROWS_TOP };
  paintStrips(context, visible, box, scene);
  paintLine(context, scene, first, last);
  paintProposal(context, scene, first, last);
  context.restore();
}

/**
 * Whether the note at a tick is chosen; the bar of the note before is remembered, since notes come in order of time.
 */
function chosenInRow(scene: TakesScene, row: number): (tick: number) => boolean {
  const { lines, window } = scene;
  let bar = barAtX(0, window, lines);
  return (tick) => {
    while (bar < lines.length - 2 && lines[bar + 1] <= tick) bar++;
    return isChosen(scene, row, bar);
  };
}

/** A frame of four boxes: cheaper than an outline, and sharp. */
function frame(
  context: CanvasRenderingContext2D,
  x: number,
  y: number,
  width: number,
  height: number,
  thick: number,
) {
  context.fillRect(x, y, width, thick);
  context.fillRect(x, y + height - thick, width, thick);
  context.fillRect(x, y, thick, height);
  context.fillRect(x + width - thick, y, thick, height);
}

interface Place {
  left: number;
  top: number;
  width: number;
  height: number;
}

function paintFigures(
  context: CanvasRenderingContext2D,
  { takes, colours, chosen }: TakesScene,
  row: number,
  bar: number,
  { left, top, width, height }: Place,
) {
  const take = takes[row];
  const spread = take.spread[bar] ?? NaN;
  if (Number.isNaN(spread)) return;
  const isLoose = spread >= TROUBLE_MS;
  const wide = Math.max(1, Math.min(1, spread / FULL_MS) * (width - 2 * PAD));
  context.fillStyle = isLoose ? colours.late : isChosen({ chosen }, row, bar) ? colours.ink : colours.ink3;
  if (width > 2 * PAD + 2) context.fillRect(left + PAD, top + height - 9, wide, 4);
  else context.fillRect(left, top + height - 3, width, 2);
  if (width < FIGURES) return;
  context.font = `${isChosen({ chosen }, row, bar) ? '600 ' : ''}${colours.letters}`;
  context.textBaseline = 'middle';
  context.textAlign = 'right';
  context.fillText(
    spread < 9.95 ? spread.toFixed(1) : String(Math.round(spread)),
    left + width - PAD,
    top + 10,
  );
  context.textAlign = 'left';
  const [missing, extra] = [take.missing[bar] ?? 0, take.extra[bar] ?? 0];
  if (missing + extra === 0) return;
  context.fillStyle = colours.ink2;
  const words = [...(missing > 0 ? [`−${missing}`] : []), ...(extra > 0 ? [`+${extra}`] : [])].join(' ');
  context.fillText(words, left + PAD, top + 10);
}

/**
 * One line from the assembled part down and from take to take through the cells of the first layer, with a ring at
 * every seam: the same drawing as the line of steps.
 */
function paintLine(context: CanvasRenderingContext2D, scene: TakesScene, first: number, last: number) {
  const { chosen, lines, window, layout, colours } = scene;
  const [layer] = chosen;
  if (!layer || pitchOfRows(layout) < GAP * 2) return;
  const height = heightOfCells(layout);
  const yOf = (row: number) => topOfRow(row, window, layout) + height + GAP / 2;
  context.strokeStyle = colours.parts[scene.ink];
  context.lineWidth = 2.5;
  context.beginPath();
  let isOpen = false;
  const stretches = lineOfChoice(layer, first, last, meanBarPixels(lines, window));
  for (const { from, to, row } of stretches) {
    if (row < 0) {
      isOpen = false;
      continue;
    }
    const left = xOfTick(lines[from], window);
    if (isOpen) context.lineTo(left, yOf(row));
    else {
      // What is chosen comes down from the part that it makes.
      context.moveTo(left, ROWS_TOP);
      context.lineTo(left, yOf(row));
    }
    context.lineTo(xOfTick(lines[to], window), yOf(row));
    isOpen = true;
  }
  context.stroke();
  // A line that goes by most of many bars has no seams of its own; the one that is looked at is there all the same.
  scene.seams.forEach((seam, index) => {
    if (hasRings(lines, window) || index === scene.seam)
      paintSeam(context, scene, seam, index === scene.seam);
  });
}

/** Where the ring of a seam stands. */
export function placeOfSeam(
  { window, layout }: Pick<TakesScene, 'window' | 'layout'>,
  seam: { at: number; from: number; to: number },
): { x: number; y: number } {
  const row = Math.max(seam.from, seam.to, 0);
  const other = seam.from < 0 || seam.to < 0 ? row : Math.min(seam.from, seam.to);
  const height = heightOfCells(layout);
  const y = (topOfRow(row, window, layout) + topOfRow(other, window, layout)) / 2 + height + GAP / 2;
  return { x: xOfTick(seam.at, window), y };
}

function paintSeam(
  context: CanvasRenderingContext2D,
  scene: TakesScene,
  seam: TakesScene['seams'][number],
  isCurrent: boolean,
) {
  const { colours } = scene;
  const { x, y } = placeOfSeam(scene, seam);
  context.fillStyle = colours.sheet;
  context.strokeStyle = isCurrent ? colours.ink : colours.parts[scene.ink];
  context.lineWidth = isCurrent ? 3 : 2;
  context.beginPath();
  context.arc(x, y, isCurrent ? 6.5 : 5, 0, 2 * Math.PI);
  context.fill();
  context.stroke();
  if (!seam.isCutting) return;
  // A note is cut here: a stroke through the ring.
  context.beginPath();
  context.moveTo(x - 4, y + 4);
  context.lineTo(x + 4, y - 4);
  context.stroke();
}

/** A proposal beside what is there: broken frames around what it would choose otherwise. */
function paintProposal(context: CanvasRenderingContext2D, scene: TakesScene, first: number, last: number) {
  const { proposal, chosen, lines, window, layout, colours } = scene;
  if (!proposal) return;
  context.strokeStyle = colours.ink;
  context.lineWidth = 2;
  context.setLineDash([5, 3]);
  for (let bar = first; bar < last; bar++) {
    const row = proposal[bar] ?? -1;
    if (row < 0 || row === (chosen[0]?.[bar] ?? -1)) continue;
    const left = Math.round(xOfTick(lines[bar], window)) + 3;
    const right = Math.round(xOfTick(lines[bar + 1], window)) - 2;
    const top = topOfRow(row, window, layout) + 2;
    context.strokeRect(left, top, Math.max(2, right - left), heightOfCells(layout) - 4);
  }
  context.setLineDash([]);
}

/**
 * What changes while only the pointer or the keyboard moves: the cell under it, the one it stands on, and what a drag
 * would choose.
 */
export function paintTakesAbove(context: CanvasRenderingContext2D, scene: TakesScene) {
  const { layout, window, colours, lines, dragged, hovered, focus, selected, isFocused } = scene;
  context.save();
  context.beginPath();
  context.rect(0, ROWS_TOP, layout.width, layout.height - ROWS_TOP);
  context.clip();
  const outline = (row: number, from: number, to: number, room: number) => {
    const [left, right] = [xOfTick(lines[from], window), xOfTick(lines[to], window)];
    const top = topOfRow(row, window, layout);
    context.strokeRect(left - room, top - room, right - left + 2 * room, heightOfCells(layout) + 2 * room);
  };
  context.strokeStyle = colours.ink;
  context.lineWidth = 1;
  if (hovered && !dragged) outline(hovered.row, hovered.bar, hovered.bar + 1, 0);
  if (isFocused && lines.length > 1) {
    context.setLineDash([3, 2]);
    context.lineWidth = 2;
    outline(focus.row, selected.from, selected.to + 1, 3);
    context.setLineDash([]);
  }
  if (dragged) {
    context.lineWidth = 3;
    outline(dragged.row, dragged.from, dragged.to + 1, 0);
  }
  context.restore();
}
